import type { DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { SnapshotData, SnapshotPart } from '../show';
import { isSame, tracksOf } from './tracks';

/**
 * How a snapshot stands to its devices: it agrees with what they report · it is on its way · it was there and somebody has altered it · it
 * is not there · a reading of it is not known.
 */
export type SnapshotState = 'there' | 'moving' | 'changed' | 'away' | 'unknown';

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly fresh: (device: string, key: string) => Scalar | undefined;
}

/** One reading where a snapshot and its device, or two snapshots, differ. */
interface Difference {
  readonly device: string;
  readonly key: string;
  readonly kept: Scalar | undefined;
  readonly other: Scalar | undefined;
}

/** Where the devices stand otherwise than the snapshot, within what a device can tell. */
export function differencesNow(parts: readonly SnapshotPart[], { documentOf, fresh }: Sources): Difference[] {
  return parts.flatMap(({ device, keep, values }) => {
    const document = documentOf(device);
    const definition = document?.keeps[keep];
    const tracked =
      document && definition
        ? tracksOf(document, definition).flatMap(({ values: own, when }) =>
            !when || when.oneOf.includes(values[when.reading] ?? '') ? own : [],
          )
        : [];
    return tracked.flatMap((value): Difference[] => {
      const kept = values[value.key];
      if (kept === undefined) return [];
      const other = fresh(device, value.key);
      return isSame(value, kept, other) ? [] : [{ device, key: value.key, kept, other }];
    });
  });
}

/** Where two snapshots differ. What only one of them keeps differs, too. */
export function differencesBetween(a: readonly SnapshotPart[], b: readonly SnapshotPart[]): Difference[] {
  const all = (parts: readonly SnapshotPart[]) =>
    new Map(
      parts.flatMap(({ device, values }) =>
        Object.entries(values).map(([key, value]) => [`${device} ${key}`, { device, key, value }] as const),
      ),
    );
  const [kept, others] = [all(a), all(b)];
  return [...new Set([...kept.keys(), ...others.keys()])].flatMap((id): Difference[] => {
    const [one, other] = [kept.get(id), others.get(id)];
    const { device, key } = one ?? other ?? { device: '', key: '' };
    return one?.value === other?.value ? [] : [{ device, key, kept: one?.value, other: other?.value }];
  });
}

/** The state by what is reported. @param was there when it was last looked at, and nothing else has been called up over it since */
export function stateNow({ parts }: Pick<SnapshotData, 'parts'>, sources: Sources, wasThere: boolean): SnapshotState {
  const isKnown = parts.every(({ device, keep, values }) => {
    const document = sources.documentOf(device);
    return document?.keeps[keep] && Object.keys(values).every((key) => sources.fresh(device, key) !== undefined);
  });
  if (parts.length === 0 || !isKnown) return 'unknown';
  if (differencesNow(parts, sources).length === 0) return 'there';
  return wasThere ? 'changed' : 'away';
}
