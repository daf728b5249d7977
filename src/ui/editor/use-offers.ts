'use client';

import { createContext, useContext, useMemo, useState } from 'react';
import { offersOf, type Offer } from '../../core/page';
import type { DeskView } from '../../core/show';
import { documentOfRecord } from '../desk';
import { useReadingsNowAndThen } from '../live';

const OffersContext = createContext<readonly Offer[]>([]);
export const OffersProvider = OffersContext.Provider;

/** What the rig offers for a page now. */
export const useOffers = (): readonly Offer[] => useContext(OffersContext);

/** Works out what the rig offers, anew when the rig changes and, as lists in the devices grow, every few seconds. */
export function useOffersOf(show: DeskView): readonly Offer[] {
  const listed = useMemo(
    () =>
      show.records
        .filter((record) => record.kind === 'device')
        .sort((a, b) => a.data.tag.localeCompare(b.data.tag, 'en', { numeric: true })),
    [show.records],
  );
  // An edit of a control leaves the rig as it is.
  const [devices, setDevices] = useState(listed);
  if (devices.length !== listed.length || devices.some((device, n) => device !== listed[n])) setDevices(listed);
  const readings = useReadingsNowAndThen(
    devices.map(({ id }) => id),
    2000,
  );
  return useMemo(
    () =>
      offersOf(
        devices,
        (device) => documentOfRecord(show.drivers, device),
        (id) => readings.get(id),
      ),
    [devices, show.drivers, readings],
  );
}
