import type { Freshness, Reading } from '../../core/reading';
import { splitKey, type ReadingChange } from '../../core/driver';
import type { ReadingsView } from '../../core/live';
import type { Scalar } from '../../core/result';
import { isTallyKey, type ReadingRef } from '../../core/show';

/** What the devices report, by device and key, each with its freshness. Tells one listener of what changed. */
export class ReadingStore {
  private readonly devices = new Map<string, Map<string, Reading>>();

  /** @param onChange told once per batch: values or freshness of these keys of a device have changed */
  constructor(private readonly onChange: (device: string, keys: readonly string[]) => void) {}

  get(ref: ReadingRef): Reading | undefined {
    return this.devices.get(ref.device)?.get(ref.key);
  }

  /** The value, if it is fresh. */
  fresh(device: string, key: string): Scalar | undefined {
    const reading = this.devices.get(device)?.get(key);
    return reading?.freshness === 'fresh' ? reading.value : undefined;
  }

  /** The keys of what a device has reported. */
  keysOf(device: string): Iterable<string> {
    return this.devices.get(device)?.keys() ?? [];
  }

  view(device: string): ReadingsView {
    return Object.fromEntries(this.devices.get(device) ?? []);
  }

  /**
   * Enters what a device reported now, after forgetting the keys and families that begin anew. Returns the keys that
   * were reported, changed or not.
   */
  report(
    device: string,
    changes: readonly ReadingChange[],
    at: number,
    clears: readonly string[] = [],
  ): ReadonlySet<string> {
    const own = this.own(device);
    const changed: string[] = [];
    const reported = new Set<string>();
    if (clears.length > 0) {
      // What a list that begins anew still has does not vanish in between.
      const stays = new Set(changes.map(({ key }) => key));
      for (const key of own.keys()) {
        if (stays.has(key)) continue;
        if (!clears.includes(key) && !clears.includes(splitKey(key).family)) continue;
        own.delete(key);
        changed.push(key);
      }
    }
    for (const { key, value } of changes) {
      const before = own.get(key);
      own.set(key, entered(before, value, at));
      reported.add(key);
      if (before?.value !== value || before.freshness !== 'fresh') changed.push(key);
    }
    if (changed.length > 0) this.onChange(device, changed);
    return reported;
  }

  /**
   * All readings of a device become doubtful (its link fell silent or is gone), or true again after a silence. Its tally stays: that is
   * known from the switchers.
   */
  setFreshness(device: string, to: Freshness, from?: Freshness): void {
    const own = this.own(device);
    const changed: string[] = [];
    for (const [key, reading] of own) {
      if (reading.freshness === to || (from && reading.freshness !== from) || isTallyKey(key)) continue;
      own.set(key, { ...reading, freshness: to });
      changed.push(key);
    }
    if (changed.length > 0) this.onChange(device, changed);
  }

  /** Forgets a device. */
  drop(device: string): void {
    const keys = [...(this.devices.get(device)?.keys() ?? [])];
    this.devices.delete(device);
    if (keys.length > 0) this.onChange(device, keys);
  }

  private own(device: string): Map<string, Reading> {
    let own = this.devices.get(device);
    if (!own) this.devices.set(device, (own = new Map()));
    return own;
  }
}

/** A report entered after what was there before. */
function entered(before: Reading | undefined, value: Scalar, at: number): Reading {
  if (before?.value === undefined) return { value, at, since: at, freshness: 'fresh' };
  if (before.value !== value) return { value, at, since: at, changed: true, freshness: 'fresh' };
  // While nobody knew it may have been anything.
  const since = before.freshness === 'unknown' ? at : before.since;
  return { ...before, at, since, freshness: 'fresh' };
}
