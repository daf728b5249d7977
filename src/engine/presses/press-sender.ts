import type { CompiledDriver } from '../../core/driver';
import type { Aim, AsRunSend, Gesture } from '../../core/live';
import { dryReason, guardedReason, letGoReason, nothingReason, type Guard, type Why } from '../../core/press';
import type { Problem, Result } from '../../core/result';
import { worstOutcome, type FinalOutcome } from '../../core/session';
import { resolveParams, type ControlRecord, type DeviceRecord, type SendSpec } from '../../core/show';
import type { AsRun } from '../record/as-run';
import type { DeadMan } from './dead-man';
import type { Dispatcher, Order } from './dispatcher';
import { offOwnerOf, type Gestures } from './gestures';
import type { MacroRequest, RunDone } from './macro-request';
import { hexOf, prepare } from '../devices/prepare';
import type { PressBook, PressListener, PressResult } from './press-book';
import type { RunningShow } from '../show/running-show';
import type { PreparedSend } from '../devices/session-types';
import { DelayedSends } from './delayed-sends';

/** What every press has, whatever it is a press of. */
export interface Pressed {
  readonly id: string;
  readonly gesture: Gesture;
  /** The person confirmed it: held it down, said yes. Risky commands are not sent without. */
  readonly guard: boolean;
  readonly who: string;
  /** The run of a macro that it is a step of. */
  readonly run?: string;
  /** Who else owes a stop or a turning off for it. */
  readonly owners?: readonly string[];
  /** Told when its bytes leave. */
  readonly onLeft?: () => void;
}

interface OpenSend extends Omit<AsRunSend, 'outcome'> {
  outcome: FinalOutcome | undefined;
  ms: number;
  reason?: string;
  why?: Why;
  bytes?: string;
}

/** One command of a press. */
interface Part {
  readonly device: DeviceRecord | undefined;
  readonly command: string;
  /** How long after the one before it, in milliseconds. */
  readonly waitMs: number;
  readonly prepared: Result<PreparedSend, Problem> | undefined;
}

/** All that one press does. */
interface Act {
  readonly request: Pressed;
  readonly parts: readonly Part[];
  readonly aim: Aim;
  readonly named: () => { readonly page: string; readonly label: string };
  /** The control that is pressed, where there is one: what it owes on release and after a time is entered. */
  readonly control?: ControlRecord;
  /** The macro of the control begins, too. */
  readonly begins?: boolean;
  /** Called when something of it has left, before it is known how it ends. */
  readonly onCounted?: () => void;
}

/** What the sends of one press share. */
interface SendWays {
  readonly aim: Aim;
  readonly barred: boolean;
  readonly guard: Guard | undefined;
  readonly owners: readonly string[];
  /** False when what waits for its turn must not go out any more: its release or its turning off has come before. */
  readonly isWanted: () => boolean;
  readonly sends: OpenSend[];
  readonly finished: () => void;
  readonly onNote: (text: string) => void;
}

export interface SenderSources {
  readonly show: RunningShow;
  readonly dispatcher: Dispatcher;
  readonly asRun: AsRun;
  readonly deadMan: DeadMan;
  readonly gestures: Gestures;
  readonly beginMacro: (request: MacroRequest, done: RunDone) => void;
  /** True when a control sends something risky at any of its gestures, or has to be confirmed. */
  readonly isRisky: (control: ControlRecord) => boolean;
}

/** Sends what a press does, and gathers how it ends. */
export class PressSender {
  private readonly prepared = new WeakMap<
    SendSpec,
    {
      readonly driver: CompiledDriver;
      /** On a shift level the same command may stand beside other values. */
      readonly values: ControlRecord['data']['values'];
      readonly result: Result<PreparedSend, Problem>;
    }
  >();
  private readonly waits = new DelayedSends();

  constructor(
    private readonly sources: SenderSources,
    private readonly book: PressBook,
  ) {}

  /** Sends all parts. The listener hears `waiting` unless the press ends at once, then the outcome. */
  act({ request, parts, aim, named, control, begins = false, onCounted }: Act, listener: PressListener): void {
    const { gestures, deadMan } = this.sources;
    const startedAt = performance.now();
    const sends: OpenSend[] = [];
    this.book.open(request.id, listener);
    let open = 1;
    const finished = () => {
      open -= 1;
      if (open > 0) return;
      this.end(request, sends, performance.now() - startedAt, aim, named);
    };
    const guard = control?.data.responses.guard;
    const barred = !request.guard && this.needsGuard(parts, control, begins);
    const owes = control !== undefined && !barred && aim !== 'dry';
    const { release = [] } = control?.data.responses ?? {};
    const isHeld = request.gesture === 'hold';
    // Of a press that sends nothing but its release, that is what it is about: it ends when the release has.
    const isReleaseOnly = owes && isHeld && parts.length === 0 && !begins && release.length > 0;
    if (isReleaseOnly) open += release.length;
    const owed =
      owes &&
      gestures.owe(
        request.id,
        isHeld,
        control,
        parts.reduce((sum, { waitMs }) => sum + waitMs, 0),
        isReleaseOnly
          ? ({ outcome, ms, why, reason }) => {
              const spec = release[sends.length];
              const device = this.sources.show.devices.get(spec?.device ?? '')?.data.tag ?? '?';
              sends.push({ device, command: spec?.command ?? '', text: '', outcome, ms, why, reason });
              finished();
            }
          : undefined,
      );
    const off = control && offOwnerOf(control);
    const owners = [request.id, ...(off === undefined ? [] : [off]), ...(request.owners ?? [])];
    const isWanted = () => (!isHeld || deadMan.isHeld(request.id)) && (!owes || off === undefined || deadMan.owes(off));
    let afterMs = 0;
    for (const part of parts) {
      open += 1;
      afterMs += part.waitMs;
      const onNote = (note: string) => this.note(request.id, named().label, note, listener);
      this.send(request, part, afterMs, { aim, barred, guard, owners, isWanted, sends, finished, onNote });
    }
    if (begins && control && barred && parts.length === 0) sends.push(skippedMacro(guard));
    else if (begins && control && !barred) {
      open += 1;
      this.beginMacro(request, control.data, aim, sends, finished);
    }
    // Dry, what would follow by itself is shown with the press.
    if (aim === 'dry' && control && !barred)
      for (const spec of [...(isHeld ? release : []), ...(control.data.responses.off?.sends ?? [])])
        sends.push(dryEntry(this.partOf(control, spec)));
    if (sends.length === 0 && !isReleaseOnly)
      sends.push({ ...noSend, outcome: 'skipped', reason: nothingReason, why: 'nothing-to-send' });
    const isNothingGone = !isReleaseOnly && sends.every(({ outcome }) => outcome === 'lost' || outcome === 'skipped');
    if (owed && isNothingGone) owed.strike();
    else if (owed) owed.sent();
    if (!isNothingGone) onCounted?.();
    if (isHeld && !barred) deadMan.hold(request.id);
    if (open > 1) this.book.tell({ t: 'press', id: request.id, outcome: 'waiting', ms: performance.now() - startedAt });
    finished();
  }

  /** The engine stops: what still waits for its turn is lost, and says so. */
  stop(): void {
    this.waits.stop();
  }

  /** The command with its bytes. Records never change, so that what was made once for a send stays good for it. */
  partOf(control: ControlRecord, spec: SendSpec): Part {
    const { show } = this.sources;
    const device = show.devices.get(spec.device);
    const driver = device && show.driverOf(device);
    const base = { device, command: spec.command, waitMs: spec.waitMs ?? 0 };
    if (!driver) return { ...base, prepared: undefined };
    const known = this.prepared.get(spec);
    if (known?.driver === driver && known.values === control.data.values) return { ...base, prepared: known.result };
    const result = prepare(driver, spec.command, resolveParams(spec.params, control.data.values));
    this.prepared.set(spec, { driver, values: control.data.values, result });
    return { ...base, prepared: result };
  }

  /** One risky command holds the whole press back, for half of it would be worse than none; so does one that follows by itself. */
  private needsGuard(parts: readonly Part[], control: ControlRecord | undefined, begins: boolean): boolean {
    if (parts.some(({ prepared }) => prepared?.ok && prepared.value.command.risky)) return true;
    if (!control) return false;
    const { guard, release = [], off } = control.data.responses;
    if (guard !== undefined || (begins && this.sources.isRisky(control))) return true;
    return [...release, ...(off?.sends ?? [])].some((spec) => {
      const { prepared } = this.partOf(control, spec);
      return prepared?.ok && prepared.value.command.risky;
    });
  }

  private end(request: Pressed, sends: readonly OpenSend[], ms: number, aim: Aim, named: Act['named']): void {
    const all = sends.map((send): AsRunSend => ({ ...send, outcome: send.outcome ?? 'lost' }));
    const worst = worstOutcome(all.map((send) => send.outcome));
    const decisive = all.find((send) => send.outcome === worst);
    const reason = decisive?.reason;
    const why = decisive?.why ?? 'missing';
    const final = all.filter(({ device }) => device !== '');
    const result: PressResult = { t: 'press', id: request.id, outcome: worst, ms, why, reason, sends: final };
    const { id: press, who, run } = request;
    // What is shown is in the record by then.
    this.sources.asRun.record({
      kind: 'press',
      press,
      ...(run === undefined ? {} : { run }),
      who,
      ...named(),
      aim,
      outcome: worst,
      ms,
      reason,
      why,
      sends: final,
    });
    this.book.end(result);
  }

  /** The macro that a press begins: the press ends when that has ended. */
  private beginMacro(
    { who }: Pressed,
    { responses: { runs }, values }: ControlRecord['data'],
    aim: Aim,
    sends: OpenSend[],
    finished: () => void,
  ): void {
    if (!runs) return finished();
    const name = this.sources.show.macros.get(runs.macro)?.data.name ?? '?';
    const entry: OpenSend = { device: 'macro', command: name, text: name, outcome: undefined, ms: 0 };
    sends.push(entry);
    const params = resolveParams(runs.params, values);
    this.sources.beginMacro({ macro: runs.macro, params, who, aim }, (outcome, why, ms, reason) => {
      Object.assign(entry, { outcome, ms, reason, why });
      finished();
    });
  }

  /** Sends one command of a press, when its turn has come. */
  private send(request: Pressed, part: Part, afterMs: number, ways: SendWays): void {
    const { aim, barred, guard, owners, isWanted, sends, finished, onNote } = ways;
    const { device, prepared } = part;
    const entry = entryOf(part);
    sends.push(entry);
    const end = (outcome: FinalOutcome, why: Why, ms: number, reason?: string) => {
      entry.outcome = outcome;
      entry.ms = ms;
      entry.reason = reason;
      entry.why = why;
      finished();
    };
    if (!device || !prepared)
      return end(
        'lost',
        'missing',
        0,
        'The device of this command is not in the rig, or its driver is not installed here.',
      );
    if (!prepared.ok) return end('lost', 'bad-value', 0, prepared.error.message);
    if (barred) return end('skipped', 'guarded', 0, guardedReason(guard));
    const order: Order = {
      device,
      prepared: prepared.value,
      aim,
      who: request.who,
      ...(request.run === undefined ? {} : { run: request.run }),
      isConfirmed: true,
      owners,
      stopOwner: request.run === undefined ? request.id : runOwner(request.run),
      onBytes: (bytes) => {
        entry.bytes = hexOf(bytes);
        request.onLeft?.();
      },
    };
    const go = () => {
      this.sources.dispatcher.dispatch(order, (result) => {
        if (result.note) onNote(`${entry.device}: the report came after ${(result.ms / 1000).toFixed(1)} s.`);
        else end(result.outcome, result.why, result.ms, result.reason);
      });
    };
    if (aim === 'dry' || afterMs === 0) return go();
    this.waits.after(
      afterMs,
      () => {
        if (isWanted()) go();
        else end('skipped', 'released', 0, letGoReason);
      },
      () => end('lost', 'stopped', 0, 'The engine was stopped before its turn came.'),
    );
  }

  /** A report that came after `late` had been given. */
  private note(id: string, label: string, note: string, listener: PressListener): void {
    if (this.book.note(id, note, listener)) this.sources.asRun.record({ kind: 'note', text: `${label}: ${note}` });
  }
}

/** Who owes the stops of what the steps of a run have started. */
export const runOwner = (run: string): string => `run ${run}`;

/** Stands for what a press without any command sends; it is not told. */
const noSend = { device: '', command: '', text: '', ms: 0 };

const entryOf = ({ device, command, prepared }: Part): OpenSend => ({
  device: device?.data.tag ?? '?',
  command: prepared?.ok ? prepared.value.command.title : command,
  text: prepared?.ok ? (prepared.value.encoded?.text ?? prepared.value.command.title) : '',
  outcome: undefined,
  ms: 0,
});

const dryEntry = (part: Part): OpenSend => ({
  ...entryOf(part),
  outcome: 'skipped',
  reason: dryReason,
  why: 'dry',
});

const skippedMacro = (guard: Guard | undefined): OpenSend => ({
  device: 'macro',
  command: '',
  text: '',
  outcome: 'skipped',
  ms: 0,
  reason: guardedReason(guard),
  why: 'guarded',
});
