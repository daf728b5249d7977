import { expectationsOf, meets } from '../../core/driver';
import { targetOf } from '../../core/press';
import { nextTurn, repeatAfterMs, type OwedStop } from '../../core/session';
import { resolveParams, type ControlRecord, type SendSpec } from '../../core/show';
import type { DeadMan, Entered, StopReason, StopResult } from './dead-man';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

interface GestureSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly deadMan: DeadMan;
  /** When what a control has done to a target is turned off, in milliseconds since 1970; `undefined` when that is over. */
  readonly onOff: (control: string, target: string, at: number | undefined) => void;
}

/** A press that is decided by how long it is held. */
interface Undecided {
  readonly timer: NodeJS.Timeout;
  readonly short: () => void;
  readonly left: () => void;
}

/** Within so long a device reports what a tap has brought about. */
const reportsWithinMs = 1500;
/** The longest time of a release whose hand is not heard. */
const heldMostMs = 600_000;
/** The turns of so many controls and targets are remembered; the oldest is forgotten first. */
const mostTurns = 2000;

/** What a press owes, once it is known whether anything of it has left. */
interface Owed {
  /** Something has left: it takes the place of what an earlier press of the same control owes to the same target. */
  readonly sent: () => void;
  /** Nothing has left: it owes nothing, and what an earlier press owes stays. */
  readonly strike: () => void;
}

/** The next turn of a control, and what makes it the last one. */
interface Turned {
  readonly sends: readonly SendSpec[];
  /** Called when something of it has left: a press that was not sent is not counted. */
  readonly count: () => void;
}

/** What a press does besides being sent once: turns, what is owed when it is let go or its time is over, long presses and repetitions. */
export class Gestures {
  private readonly lastTurn = new Map<string, { readonly turn: number; readonly at: number }>();
  private readonly undecided = new Map<string, Undecided>();
  private readonly repeats = new Map<string, NodeJS.Timeout>();

  constructor(private readonly sources: GestureSources) {}

  /** What a tap sends now. Each target of a control has turns of its own. */
  tapOf({ id, data }: ControlRecord): Turned {
    const { tap, turns = [] } = data.responses;
    if (turns.length === 0) return { sends: tap, count: () => undefined };
    const all = [tap, ...turns];
    const key = `${id} ${targetOf(data, all.flat())}`;
    const last = this.lastTurn.get(key);
    const now = Date.now();
    // Tapped again before the device has reported the first tap: what it said before that counts no more.
    const isOld = last !== undefined && now - last.at < reportsWithinMs && this.saidAt(data, all) < last.at;
    const holds = all.map((sends) => (isOld ? undefined : this.isSo(data, sends)));
    const turn = nextTurn(all.length, holds, last?.turn);
    const count = () => {
      this.lastTurn.delete(key);
      this.lastTurn.set(key, { turn, at: now });
      const oldest = this.lastTurn.size > mostTurns ? this.lastTurn.keys().next().value : undefined;
      if (oldest !== undefined) this.lastTurn.delete(oldest);
    };
    return { sends: all[turn] ?? tap, count };
  }

  /**
   * Enters what a press owes before its first byte goes out: its release, and what turns it off after a time.
   * `takesMs` is how long the press itself takes to be sent; `onReleased` hears how each command of the release went.
   */
  owe(
    press: string,
    isHeld: boolean,
    control: ControlRecord,
    takesMs = 0,
    onReleased?: (result: StopResult) => void,
  ): Owed {
    const { release = [], off } = control.data.responses;
    const deadMan = this.sources.deadMan;
    const entered: Entered[] = [];
    if (isHeld)
      for (const send of release)
        entered.push(deadMan.enter(press, stopOf(control, send), heldMostMs, 'too long', onReleased));
    const owner = offOwnerOf(control);
    const settled = (older: readonly (() => void)[], at?: number): Owed => ({
      sent: () => {
        for (const strike of older) strike();
        for (const each of entered) each.sent();
        if (owner !== undefined && at !== undefined) this.tellOff(owner, at);
      },
      strike: () => {
        for (const each of entered) each.strike();
      },
    });
    if (!off || owner === undefined) return settled([]);
    const older = deadMan.strikesOf(owner);
    const afterMs = takesMs + off.afterMs;
    const due = { at: Date.now() + afterMs, owner };
    for (const send of off.sends)
      entered.push(deadMan.enter(owner, { ...stopOf(control, send), due }, afterMs, 'its time was over'));
    return settled(older, due.at);
  }

  /** The owners of what this control has on now that turns off after a time: of its present target, or of all where it asks first. */
  private offOwners(control: ControlRecord): string[] {
    const owner = offOwnerOf(control);
    if (owner === undefined) return [];
    const deadMan = this.sources.deadMan;
    if (!control.data.responses.asks) return deadMan.owes(owner) ? [owner] : [];
    return [...new Set(deadMan.due.map((each) => each.owner))].filter((each) => controlOfOff(each) === control.id);
  }

  private tellOff(owner: string, at: number | undefined): void {
    const [, control = '', target = ''] = owner.split(' ');
    this.sources.onOff(control, target, at);
  }

  /** What an earlier engine has left to be undone at its time is undone then. */
  recall(): void {
    for (const { at, owner } of this.sources.deadMan.due)
      if (controlOfOff(owner) !== undefined) this.tellOff(owner, at);
  }

  /** A second tap turns off at once what would turn off after a time, where that was chosen. False where there is nothing to end. */
  endEarly(control: ControlRecord): boolean {
    if (control.data.responses.off?.again !== 'end') return false;
    const owners = this.offOwners(control);
    for (const owner of owners) {
      this.sources.deadMan.release(owner, 'ended by hand');
      this.tellOff(owner, undefined);
    }
    return owners.length > 0;
  }

  /** Waits for what a press shall be: `long` after its time, `short` when it is let go before, `left` when whoever held it is gone. */
  decide(press: string, afterMs: number, long: () => void, short: () => void, left: () => void): void {
    this.sources.deadMan.hold(press);
    const timer = setTimeout(() => {
      this.undecided.delete(press);
      long();
    }, afterMs);
    this.undecided.set(press, { timer, short, left });
  }

  /** Does it again and again while the press is held. */
  repeat(press: string, control: ControlRecord, again: () => void, n = 1): void {
    const { repeat } = control.data.responses;
    if (!repeat || !this.sources.deadMan.isHeld(press)) return;
    const timer = setTimeout(
      () => {
        if (!this.sources.deadMan.isHeld(press)) return;
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

/** Who owes turning off what a control has done to its present target; `undefined` for a control that turns nothing off. */
export const offOwnerOf = ({ id, data }: ControlRecord): string | undefined =>
  data.responses.off && `off ${id} ${targetOf(data, data.responses.off.sends)}`;

const controlOfOff = (owner: string): string | undefined => /^off (\S+) /.exec(owner)?.[1];

const stopOf = ({ data }: ControlRecord, send: SendSpec): Omit<OwedStop, 'id'> => ({
  device: send.device,
  command: send.command,
  params: resolveParams(send.params, data.values),
});
