import type { OwedStop } from '../../core/session';
import type { DeadMan } from '../presses/dead-man';

/** After its planned end a pulse may be this late before the ledger turns it off. In milliseconds. */
const graceMs = 250;

/**
 * The pulses of the macros that run: each turning off is in the dead man's ledger before its turning on goes out, so that it comes
 * also when the run is stopped, begun anew or cut off between the two.
 */
export class Pulses {
  private readonly open = new Map<string, Set<string>>();

  constructor(private readonly deadMan: DeadMan) {}

  /**
   * A pulse is about to be turned on, for this long. Until `off` or `leave`, and at its time also in another engine, its turning off
   * is owed. Returns who owes it.
   */
  on(run: string, key: string, off: Omit<OwedStop, 'id'>, forMs: number): string {
    const owner = ownerOf(run, key);
    const due = { at: Date.now() + forMs, owner };
    this.deadMan.enter(owner, { ...off, due }, forMs + graceMs, 'its time was over').sent();
    const own = this.open.get(run) ?? new Set();
    this.open.set(run, own.add(owner));
    return owner;
  }

  /** Nothing was turned on, or it has been turned off in its turn. */
  off(run: string, key: string): void {
    const owner = ownerOf(run, key);
    this.deadMan.forget(owner);
    this.open.get(run)?.delete(owner);
  }

  /** The turning off did not reach the device: it is owed from now on. */
  missed(run: string, key: string): void {
    const owner = ownerOf(run, key);
    this.deadMan.release(owner, 'its time was over');
    this.open.get(run)?.delete(owner);
  }

  /** The run is over: what it has turned on is turned off now. */
  leave(run: string): void {
    for (const owner of this.open.get(run) ?? []) this.deadMan.release(owner, 'macro stopped');
    this.open.delete(run);
  }
}

const ownerOf = (run: string, key: string): string => `pulse ${run} ${key}`;
