import { expectationsOf, meets } from '../core/driver';
import { nextTurn, repeatAfterMs, type OwedStop } from '../core/session';
import { resolveParams, type ControlRecord, type SendSpec } from '../core/show';
import type { DeadMan, StopReason } from './dead-man';
import type { ReadingStore } from './readings';
import type { RunningShow } from './running-show';

export interface GestureSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly deadMan: () => DeadMan;
  /** When what a control has brought about undoes itself, in milliseconds since 1970; `undefined` when that is over. */
  readonly onOff: (control: string, at: number | undefined) => void;
}

/** A press that is decided by how long it is held. */
interface Undecided {
  readonly timer: NodeJS.Timeout;
  readonly short: () => void;
  readonly left: () => void;
}

/** Within so long a device reports what a tap has brought about. */
const reportsWithinMs = 1500;
/** Something held has a longest time, whoever says that he is still holding it. */
const heldMostMs = 600_000;

/** What a press does besides being sent once: turns, what is owed when it is let go or its time is over, long presses and repetitions. */
export class Gestures {
  private readonly lastTurn = new Map<string, { readonly turn: number; readonly at: number }>();
  private readonly undecided = new Map<string, Undecided>();
  private readonly repeats = new Map<string, NodeJS.Timeout>();

  constructor(private readonly sources: GestureSources) {}

  /** What a tap sends now. */
  tapOf({ id, data }: ControlRecord): readonly SendSpec[] {
    const { tap, turns = [] } = data.responses;
    if (turns.length === 0) return tap;
    const all = [tap, ...turns];
    const last = this.lastTurn.get(id);
    const now = Date.now();
    // Tapped again before the device has reported the first tap: what it said before that counts no more.
    const isOld = last !== undefined && now - last.at < reportsWithinMs && this.saidAt(data, all) < last.at;
    const holds = all.map((sends) => (isOld ? undefined : this.isSo(data, sends)));
    const turn = nextTurn(all.length, holds, last?.turn);
    this.lastTurn.set(id, { turn, at: now });
    return all[turn] ?? tap;
  }

  /** Enters what a press owes: what is sent when it is let go, and what undoes it after its time. Before its first byte goes out. */
  owe(press: string, isHeld: boolean, control: ControlRecord): void {
    const { release = [], off } = control.data.responses;
    const deadMan = this.sources.deadMan();
    if (isHeld) for (const send of release) deadMan.enter(press, stopOf(control, send), heldMostMs);
    if (!off) return;
    deadMan.forget(offOwner(control.id));
    const due = { at: Date.now() + off.afterMs, owner: offOwner(control.id) };
    for (const send of off.sends)
      deadMan.enter(due.owner, { ...stopOf(control, send), due }, off.afterMs, 'its time was over');
    this.sources.onOff(control.id, due.at);
  }

  /** What an earlier engine has left to be undone at its time is undone then. */
  recall(): void {
    for (const { at, owner } of this.sources.deadMan().due)
      if (owner.startsWith(offOwner(''))) this.sources.onOff(owner.slice(offOwner('').length), at);
  }

  /** Nothing of the press has left: it owes nothing. */
  owesNothing(press: string, control: ControlRecord): void {
    const { release, off } = control.data.responses;
    if (release) this.sources.deadMan().forget(press);
    if (!off) return;
    this.sources.deadMan().forget(offOwner(control.id));
    this.sources.onOff(control.id, undefined);
  }

  /** A second tap ends what undoes itself, where that was chosen. False where there is nothing to end. */
  endEarly({ id, data }: ControlRecord): boolean {
    if (data.responses.off?.again !== 'end' || !this.sources.deadMan().owes(offOwner(id))) return false;
    this.sources.deadMan().release(offOwner(id), 'ended by hand');
    this.sources.onOff(id, undefined);
    return true;
  }

  /** Waits for what a press shall be: `long` after its time, `short` when it is let go before, `left` when whoever held it is gone. */
  decide(press: string, afterMs: number, long: () => void, short: () => void, left: () => void): void {
    this.sources.deadMan().hold(press);
    const timer = setTimeout(() => {
      this.undecided.delete(press);
      long();
    }, afterMs);
    this.undecided.set(press, { timer, short, left });
  }

  /** Does it again and again while the press is held. */
  repeat(press: string, control: ControlRecord, again: () => void, n = 1): void {
    const { repeat } = control.data.responses;
    if (!repeat || !this.sources.deadMan().isHeld(press)) return;
    const timer = setTimeout(
      () => {
        if (!this.sources.deadMan().isHeld(press)) return;
        again();
        this.repeat(press, control, again, n + 1);
      },
      repeatAfterMs(n, repeat),
    );
    this.repeats.set(press, timer);
  }

  onReleased(press: string, why: StopReason): void {
    clearTimeout(this.repeats.get(press));
    this.repeats.delete(press);
    const waiting = this.undecided.get(press);
    if (!waiting) return;
    clearTimeout(waiting.timer);
    this.undecided.delete(press);
    if (why === 'released') waiting.short();
    else waiting.left();
  }

  stop(): void {
    for (const { timer } of this.undecided.values()) clearTimeout(timer);
    for (const timer of this.repeats.values()) clearTimeout(timer);
  }

  /** When a device has said last what tells these turns apart, in milliseconds since 1970. */
  private saidAt(data: ControlRecord['data'], turns: readonly (readonly SendSpec[])[]): number {
    const times = turns
      .flat()
      .flatMap((send) =>
        this.expectedOf(data, send)?.map(({ key }) => this.sources.readings.get({ device: send.device, key })?.at ?? 0),
      );
    return Math.max(0, ...times.map((at) => at ?? 0));
  }

  private expectedOf(data: ControlRecord['data'], send: SendSpec) {
    const { show, readings } = this.sources;
    const device = show.devices.get(send.device);
    const command = device && show.driverOf(device)?.commands.get(send.command)?.command;
    return (
      command &&
      expectationsOf(command, resolveParams(send.params, data.values), (key) => readings.fresh(send.device, key))
    );
  }

  /** Whether the devices report that what these commands bring about is so; `undefined` where they cannot tell. */
  private isSo(data: ControlRecord['data'], sends: readonly SendSpec[]): boolean | undefined {
    let known = sends.length > 0;
    for (const send of sends) {
      const now = (key: string) => this.sources.readings.fresh(send.device, key);
      const expected = this.expectedOf(data, send);
      if (!expected || expected.some(({ key, not }) => not !== undefined || now(key) === undefined)) known = false;
      else if (!expected.every((each) => meets(each, now(each.key)))) return false;
    }
    return known ? true : undefined;
  }
}

/** Who owes the undoing of what a control has brought about. */
const offOwner = (control: string): string => `off ${control}`;

const stopOf = ({ data }: ControlRecord, send: SendSpec): Omit<OwedStop, 'id'> => ({
  device: send.device,
  command: send.command,
  params: resolveParams(send.params, data.values),
});
