'use client';

import { useMemo } from 'react';
import type { ReadingsView } from '../../core/live';
import type { Reading } from '../../core/reading';
import type { Scalar } from '../../core/result';
import { ownId, showLookup, type DeskView, type ShowLookup, type SnapshotData } from '../../core/show';
import { pictureOf } from '../../core/snapshot';
import { documentOfRecord } from '../desk';
import { useLive, useReadings, useReadingsNowAndThen } from '../live';

/** What the screens of snapshots know of the rig now. */
export interface SnapshotFacts extends ShowLookup {
  readonly readingNow: (device: string, key: string) => Reading | undefined;
  /** A value only while it is fresh, as the screen has drawn it. */
  readonly fresh: (device: string, key: string) => Scalar | undefined;
  readonly readings: ReadonlyMap<string, ReadingsView>;
  /** The same, as it is at this moment. */
  readonly freshNow: (device: string, key: string) => Scalar | undefined;
  /** @param urlOf where the bytes of a picture are that the show does not have yet */
  readonly pictureOf: (
    data: Pick<SnapshotData, 'parts' | 'picture'>,
    urlOf?: (hash: string) => string | undefined,
  ) => string | undefined;
}

/** The devices that snapshots can keep something of, with what they report, looked at now and then. */
export function useSnapshotFacts(show: DeskView | undefined): SnapshotFacts {
  const lookUp = useMemo(
    () => showLookup(show?.records ?? [], (device) => show && documentOfRecord(show.drivers, device)),
    [show],
  );
  const ids = useMemo(
    () =>
      lookUp.devices.filter(({ id }) => Object.keys(lookUp.documentOf(id)?.keeps ?? {}).length > 0).map(({ id }) => id),
    [lookUp],
  );
  const client = useLive();
  const readings = useReadingsNowAndThen(ids, 500);
  return useMemo(() => {
    const readingNow = (device: string, key: string) => readings.get(device)?.[key];
    const fresh = (device: string, key: string) => {
      const reading = readingNow(device, key);
      return reading?.freshness === 'fresh' ? reading.value : undefined;
    };
    const freshNow = (device: string, key: string) => {
      const view = client.getTopic(`readings:${device}`) as ReadingsView | undefined;
      const reading = view?.[key];
      return reading?.freshness === 'fresh' ? reading.value : undefined;
    };
    const sources = { documentOf: lookUp.documentOf, readingNow };
    return {
      ...lookUp,
      readings,
      readingNow,
      fresh,
      freshNow,
      pictureOf: (data, urlOf) => pictureOf(data, urlOf ? { ...sources, urlOf } : sources),
    };
  }, [lookUp, readings, client]);
}

/** How each snapshot stands to its devices, by number, and what glides: as the engine says. */
export function useSnapshotStates() {
  const own = useReadings(ownId);
  const value = (key: string) => (own?.[key]?.freshness === 'fresh' ? own[key].value : undefined);
  return {
    stateOf: (number: number) => value(`snapshot[${number}].state`),
    progressOf: (number: number) => Number(value(`snapshot[${number}].progress`) ?? 0),
    isGliding: value('gliding') === true,
    isHeld: value('glidesHeld') === true,
  };
}
