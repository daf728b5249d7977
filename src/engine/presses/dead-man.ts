import { isSameStop, type OwedStop } from '../../core/session';
import type { FinalOutcome, Why } from '../../core/press';
import type { Scalar } from '../../core/result';
import type { LedgerFile } from './ledger-file';

/** Why something was stopped. */
export type StopReason =
  | 'released'
  | 'panel gone'
  | 'too long'
  | 'its time was over'
  | 'ended by hand'
  | 'engine restarted'
  | 'macro stopped'
  | 'device switched off';

/** Who hears of what is held and owed. */
interface DeadManListener {
  /** A stop has to be sent now. `owner` is what started it: nothing of that may go out behind the stop. `done` is told how it ended. */
  readonly onOwed?: (stop: OwedStop, owner: string, done: (result: StopResult) => void) => void;
  readonly onStopped?: (stop: OwedStop, why: StopReason, result: StopResult) => void;
  /** Nobody holds this press any more. */
  readonly onReleased?: (owner: string, why: StopReason) => void;
}

export interface StopResult {
  readonly outcome: FinalOutcome;
  /** Why it ended so. */
  readonly why: Why;
  readonly ms: number;
  readonly reason?: string;
  /** Sending it again could undo it: it is not repeated, whatever its outcome. */
  readonly isFinal?: boolean;
}

/** Who is told: the devices, or their stand-ins in a rehearsal. */
type Side = 'devices' | 'rehearsal';

/** A stop that was entered before its start was sent. */
export interface Entered {
  /** The start was not sent: nothing has to be stopped for it. What was owed before stays owed. */
  readonly strike: () => void;
  /** The start has gone out: this stop takes the place of what is still owed for earlier starts of the same thing. */
  readonly sent: () => void;
}

/** What has been started and goes on until it is stopped. */
interface Entry {
  readonly stop: OwedStop;
  /** The press that started it. */
  readonly owner: string;
  /** Owed from the moment that nobody holds it any more. */
  owed: StopReason | undefined;
  sending: boolean;
  /** Owed to the devices themselves, or to their stand-ins. */
  readonly side: Side;
  tries: number;
  /** The longest time, of which each word from the hand begins a new one. */
  longest: NodeJS.Timeout | undefined;
  /** Told how the stop went, once. */
  onEnd: ((result: StopResult) => void) | undefined;
}

/** A panel that holds something keeps saying so; after this long without a word it counts as gone. */
const heldWordMs = 1000;
const retryMs = 200;
const maxTries = 50;

/**
 * Dead man's handle: everything that goes on until it is stopped is entered here before it begins, and is stopped when
 * the release comes, the panel vanishes, its page is left, or its longest time is over. A stop that cannot be sent stays
 * owed and goes out first when the device is back, also from the next engine.
 */
export class DeadMan {
  private readonly entries = new Map<string, Entry>();
  private readonly words = new Map<string, NodeJS.Timeout>();
  private closed = false;
  private readonly listeners: DeadManListener[] = [];
  private side: Side = 'devices';

  constructor(
    private readonly ledger: LedgerFile,
    private readonly newId: () => string,
  ) {
    for (const stop of ledger.left) {
      const waitMs = (stop.due?.at ?? 0) - Date.now();
      if (!stop.due || waitMs <= 0) this.add(stop, 'engine restarted', 'engine restarted');
      else this.dueLater(this.add(stop, stop.due.owner, undefined), waitMs, 'its time was over');
    }
  }

  listen(listener: DeadManListener): void {
    this.listeners.push(listener);
  }

  /**
   * Enters what will stop a command that is about to be sent. The longest time counts from the last word of the hand; without a hand,
   * from now.
   */
  enter(
    owner: string,
    stop: Omit<OwedStop, 'id'>,
    longestMs: number,
    over: StopReason = 'too long',
    onEnd?: (result: StopResult) => void,
  ): Entered {
    const entry = this.add({ ...stop, id: this.newId() }, owner, undefined);
    entry.onEnd = onEnd;
    // A rehearsal is over with the program: the next engine owes it nothing.
    if (this.side === 'devices') this.ledger.owe(entry.stop);
    this.dueLater(entry, longestMs, over);
    return {
      strike: () => this.strike(entry),
      sent: () => {
        // What is owed for an earlier start of the same thing is owed by this one now; its stop must not cut this one off.
        for (const older of this.entries.values())
          if (older !== entry && older.side === this.side && older.owed && isSameStop(older.stop, stop))
            this.strike(older);
      },
    };
  }

  /** The press is held by somebody who keeps saying so; without a word it counts as let go. */
  hold(owner: string): void {
    clearTimeout(this.words.get(owner));
    this.words.set(
      owner,
      setTimeout(() => this.release(owner, 'panel gone'), heldWordMs),
    );
  }

  /** True while something that this press started goes on. */
  isHeld(owner: string): boolean {
    return this.words.has(owner);
  }

  /** Nobody holds this press any more: what it started has to stop. */
  release(owner: string, why: StopReason): void {
    clearTimeout(this.words.get(owner));
    if (this.words.delete(owner)) this.tellReleased(owner, why);
    for (const entry of this.entries.values()) if (entry.owner === owner && !entry.owed) this.owe(entry, why);
  }

  /** What would have been stopped for this press goes on: it is owed no more. */
  forget(owner: string): void {
    for (const strike of this.strikesOf(owner)) strike();
  }

  /** The ways to strike out what is to be stopped for this press now, and not what is entered from now on. */
  strikesOf(owner: string): (() => void)[] {
    return [...this.entries.values()]
      .filter((entry) => entry.owner === owner && !entry.owed)
      .map((entry) => () => !entry.owed && this.strike(entry));
  }

  /** True while something waits to be stopped for this press. */
  owes(owner: string): boolean {
    return [...this.entries.values()].some((entry) => entry.owner === owner && !entry.owed);
  }

  /** A device can be spoken to again: what it is owed goes out now. */
  payOwed(device: string): void {
    for (const entry of this.entries.values()) if (entry.owed && entry.stop.device === device) this.pay(entry);
  }

  /** The device is about to be let go: what goes on there stops now, while it can still be told. */
  stopAllOf(device: string): void {
    for (const entry of this.entries.values()) {
      if (entry.stop.device === device && !entry.owed) this.owe(entry, 'device switched off');
    }
  }

  /** The device is no longer in the rig: nobody can be told anything. */
  forgetDevice(device: string): void {
    for (const entry of this.entries.values()) if (entry.stop.device === device) this.strike(entry);
  }

  /**
   * Others are told from now on. What is owed to the devices waits for them while something is rehearsed; what a rehearsal
   * leaves open is forgotten with it.
   */
  turnTo(side: Side): void {
    for (const owner of [...this.words.keys()]) {
      clearTimeout(this.words.get(owner));
      this.words.delete(owner);
      this.tellReleased(owner, 'device switched off');
    }
    this.side = side;
    for (const entry of this.entries.values()) if (entry.side === 'rehearsal') this.strike(entry);
  }

  /** Somebody sent a stop by hand. */
  onSent(device: string, command: string, params: Readonly<Record<string, Scalar>>): void {
    if (this.entries.size === 0) return;
    for (const entry of this.entries.values()) {
      if (entry.side === this.side && isSameStop(entry.stop, { device, command, params })) this.strike(entry);
    }
  }

  /** What is due at a time of its own: for whom, and when. */
  get due(): readonly NonNullable<OwedStop['due']>[] {
    return [...this.entries.values()].flatMap(({ stop, owed }) => (stop.due && !owed ? [stop.due] : []));
  }

  /** How much goes on: held, or due at a time of its own. What waits for a device that no longer exists is not counted. */
  get goingOn(): number {
    return [...this.entries.values()].filter(({ owed }) => !owed).length;
  }

  stop(): void {
    if (this.closed) return;
    this.closed = true;
    for (const timer of this.words.values()) clearTimeout(timer);
    for (const { longest } of this.entries.values()) clearTimeout(longest);
    this.ledger.close();
  }

  private add(stop: OwedStop, owner: string, owed: StopReason | undefined): Entry {
    const entry: Entry = {
      stop,
      owner,
      owed,
      sending: false,
      side: this.side,
      tries: 0,
      longest: undefined,
      onEnd: undefined,
    };
    this.entries.set(stop.id, entry);
    return entry;
  }

  private dueLater(entry: Entry, afterMs: number, why: StopReason): void {
    entry.longest = setTimeout(() => {
      // A hand that is heard renews what it holds; a hand that is gone is noticed by its missing word.
      if (why === 'too long' && this.words.has(entry.owner)) this.dueLater(entry, afterMs, why);
      else this.owe(entry, why);
    }, afterMs);
  }

  private owe(entry: Entry, why: StopReason): void {
    clearTimeout(entry.longest);
    entry.owed = why;
    this.pay(entry);
  }

  private pay(entry: Entry): void {
    if (entry.sending || this.closed || entry.side !== this.side || !this.entries.has(entry.stop.id)) return;
    entry.sending = true;
    entry.tries += 1;
    const ended = ({ outcome, ms, why: ending, reason, isFinal }: StopResult): void => {
      if (!entry.sending || this.closed) return;
      entry.sending = false;
      const why = entry.owed ?? 'released';
      // Not sent: it waits for the device to come back. Sent, but not taken: again, for a while.
      const again = !isFinal && (outcome === 'lost' || outcome === 'late' || outcome === 'refused');
      if (!again || (outcome === 'refused' && entry.tries >= maxTries)) this.strike(entry);
      else if (outcome !== 'lost') setTimeout(() => this.pay(entry), outcome === 'late' ? 0 : retryMs);
      if (!again || entry.tries === 1 || entry.tries >= maxTries) {
        for (const each of this.listeners) each.onStopped?.(entry.stop, why, { outcome, why: ending, ms, reason });
        entry.onEnd?.({ outcome, why: ending, ms, reason });
        entry.onEnd = undefined;
      }
    };
    for (const each of this.listeners) each.onOwed?.(entry.stop, entry.owner, ended);
  }

  private tellReleased(owner: string, why: StopReason): void {
    for (const each of this.listeners) each.onReleased?.(owner, why);
  }

  private strike(entry: Entry): void {
    clearTimeout(entry.longest);
    if (!this.entries.delete(entry.stop.id)) return;
    this.ledger.pay(entry.stop.id);
    // Struck out without a turn of its own: somebody else has stopped it, or its device is gone.
    if (!entry.sending && entry.tries === 0)
      entry.onEnd?.({ outcome: 'lost', why: 'missing', ms: 0, reason: 'There was nothing left to stop.' });
  }
}
