import { faceNow, type FaceView } from '../../core/face';
import type { LampMemory } from '../../core/lamp';
import { targetOf } from '../../core/press';
import type { ControlRecord, ReadingRef } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';
import { markOf, type Context } from './context';
import { WakeTimer } from './wake-timer';

/** Computes the faces of controls in their contexts: from readings, from what runs, and from what is turned off at a time. */
export class ContextFaces {
  /** By control, when each of its targets is turned off. */
  private readonly offs = new Map<string, Map<string, number>>();
  private running: ReadonlySet<string> = new Set();
  /** What may change its look at a time although nothing is reported. */
  private readonly wakes: WakeTimer;

  /** @param onDue told the marks of the controls that have to be looked at again */
  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    onDue: (marks: ReadonlySet<string>) => void,
    private readonly pictureKey: (name: string) => string | undefined = () => undefined,
  ) {
    this.wakes = new WakeTimer((due) => onDue(new Set(due)));
  }

  readonly sources = {
    readingNow: (ref: ReadingRef) => this.readings.get(ref),
    documentOf: (id: string) => this.show.documentOf(id),
    pictureKey: (name: string) => this.pictureKey(name),
    presets: () => this.show.presets.values(),
    tagOf: (id: string) => this.show.devices.get(id)?.data.tag,
  };

  stop(): void {
    this.wakes.stop();
  }

  /** Enters the macros that run now. Returns those that have begun or ended. */
  setRunning(macros: ReadonlySet<string>): ReadonlySet<string> {
    const changed = new Set([...macros, ...this.running].filter((each) => macros.has(each) !== this.running.has(each)));
    this.running = macros;
    return changed;
  }

  /** Enters when what a control has done to a target is turned off; `undefined` when it is not any more. */
  setOff(control: string, target: string, at: number | undefined): void {
    const targets = this.offs.get(control) ?? new Map<string, number>();
    for (const [other, past] of targets) if (past < Date.now()) targets.delete(other);
    if (at === undefined) targets.delete(target);
    else targets.set(target, at);
    if (targets.size === 0) this.offs.delete(control);
    else this.offs.set(control, targets);
  }

  /** Nobody looks at the control in this context any more. */
  forget(context: Context, id: string): void {
    context.memories.delete(id);
    this.wakes.set(markOf(context, id), undefined);
  }

  /** When the control's present target is turned off; of one that asks first, when the last of its targets is. */
  private offAtOf({ id, data }: ControlRecord): number | undefined {
    const targets = this.offs.get(id);
    const { off, asks } = data.responses;
    if (!targets || !off) return undefined;
    return asks ? Math.max(...targets.values()) : targets.get(targetOf(data, off.sends));
  }

  /** Computes a face anew. Returns the face when it has changed. */
  refresh(context: Context, control: ControlRecord): FaceView | undefined {
    const { data, id } = control;
    let memory: LampMemory | undefined = context.memories.get(id);
    // Most rules remember nothing.
    if (!memory && data.lamps.length > 0) context.memories.set(id, (memory = new Map()));
    const { face, again } = faceNow(data, { ...this.sources, now: Date.now() }, memory);
    const offAt = this.offAtOf(control);
    const { runs } = data.responses;
    const view: FaceView = {
      ...face,
      ...(offAt === undefined || offAt < Date.now() ? {} : { offAt }),
      ...(runs && this.running.has(runs.macro) ? { runs: true } : {}),
    };
    this.wakes.set(markOf(context, id), again);
    const key = JSON.stringify(view);
    if (context.faces.get(control.id)?.key === key) return undefined;
    context.faces.set(control.id, { view, key });
    return view;
  }
}
