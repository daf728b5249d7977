import { splitKey, type DriverDocument } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { DeviceRecord } from '../../core/show';
import type { Tally } from '../../core/tally';

interface Sources {
  readonly document: DriverDocument;
  /** Of a device that feeds a switcher. */
  readonly tally: Tally | undefined;
  readonly fresh: (key: string) => Scalar | undefined;
}

/** Readings of the contracts that say that somebody watches or keeps what a device makes. */
const runningReadings = ['recording', 'stream'] as const;
const idle: ReadonlySet<Scalar> = new Set([false, 'idle', 'failed']);

/**
 * Why a device must not be changed now, as a sentence; `undefined` when nobody would see it. What is not known counts as on air.
 *
 * @param keys the readings that would change
 */
export function onAirReason(
  { data }: DeviceRecord,
  keys: readonly string[],
  { document, tally, fresh }: Sources,
): string | undefined {
  if (tally && tally.onAir !== false)
    return tally.onAir === true ? `${data.tag} is on air.` : `It is not known whether ${data.tag} is on air.`;
  if (document.tally && !data.offAir) {
    const hidden = new Set(document.tally.outputs.flatMap(({ shows, reading }) => (shows === 'next' ? [reading] : [])));
    if (!keys.every((key) => hidden.has(splitKey(key).family)))
      return `${data.tag} makes the program: this could be seen on air.`;
  }
  for (const key of runningReadings) {
    if (!document.readings[key]) continue;
    const value = fresh(key);
    if (value === undefined) return `${data.tag} does not say whether it is running.`;
    if (!idle.has(value)) return `${data.tag} is streaming or recording.`;
  }
  return undefined;
}
