import type { WrongKeys } from '../../core/live';

/** A key that was mistyped costs nothing; from then on each wrong one doubles the wait. */
const freeTries = 3;
const firstWaitMs = 1000;
const longestWaitMs = 15 * 60_000;
/** An address starts afresh after this long without another wrong key. */
const forgottenAfterMs = 60 * 60_000;
const mostAddresses = 1000;

/**
 * Wrong access keys by address: after a few, the address is not listened to for a while that grows, whatever it sends. The right key from
 * elsewhere works all the time.
 */
export class WrongKeyBook {
  private readonly known = new Map<string, WrongKeys>();

  private readonly listeners: ((sentence: string) => void)[] = [];

  constructor(private readonly now: () => number = Date.now) {}

  /** The listener is told as a sentence when an address begins to wait, or waits longer. */
  onWait(listener: (sentence: string) => void): void {
    this.listeners.push(listener);
  }

  /** How long this address has to wait before it is listened to, in milliseconds; 0 when it is. */
  readonly waitMs = (address: string): number => Math.max(0, (this.known.get(address)?.until ?? 0) - this.now());

  /** A wrong key came from this address. */
  readonly wrong = (address: string): void => {
    const now = this.now();
    const before = this.known.get(address);
    const tries = (before && now - before.at < forgottenAfterMs ? before.tries : 0) + 1;
    const waitMs = tries <= freeTries ? 0 : Math.min(longestWaitMs, firstWaitMs * 2 ** (tries - freeTries - 1));
    // At the end, so that the address that was quiet for longest is forgotten first.
    this.known.delete(address);
    this.known.set(address, { address, tries, at: now, until: now + waitMs });
    if (this.known.size > mostAddresses) this.known.delete(this.known.keys().next().value ?? '');
    if (waitMs === 0) return;
    const sentence = `${tries} wrong access keys from ${address}; it has to wait ${Math.round(waitMs / 1000)} s`;
    for (const listener of this.listeners) listener(sentence);
  };

  /** The right key came from this address. */
  readonly right = (address: string): void => void this.known.delete(address);

  /** The addresses that gave wrong keys within the last hour, the latest first. */
  get list(): readonly WrongKeys[] {
    const now = this.now();
    return [...this.known.values()].filter(({ at }) => now - at < forgottenAfterMs).reverse();
  }
}
