'use client';

import { createContext, useContext, useMemo, useState } from 'react';
import { inNumberOrder } from '../../core/number-order';
import { offersOf, offersOfPage, type Offer } from '../../core/page';
import { ownDevice, ownDocumentOf, ownId, pagesOf, type DeskView, type PageRecord } from '../../core/show';
import { documentOfRecord } from '../desk';
import { useReadingsNowAndThen } from '../live';

const OffersContext = createContext<readonly Offer[]>([]);
export const OffersProvider = OffersContext.Provider;

/** What the rig offers for a page now. */
export const useOffers = (): readonly Offer[] => useContext(OffersContext);

/** Works out what the page and the rig offer, anew when the rig changes and, as lists in the devices grow, every few seconds. */
export function useOffersOf(show: DeskView, page: PageRecord): readonly Offer[] {
  const listed = useMemo(
    () =>
      show.records.filter((record) => record.kind === 'device').sort((a, b) => inNumberOrder(a.data.tag, b.data.tag)),
    [show.records],
  );
  // An edit of a control leaves the rig as it is.
  const [devices, setDevices] = useState(listed);
  if (devices.length !== listed.length || devices.some((device, n) => device !== listed[n])) setDevices(listed);
  const readings = useReadingsNowAndThen([...devices.map(({ id }) => id), ownId], 2000);
  const own = ownDocumentOf(show.records);
  const ofRig = useMemo(
    () =>
      offersOf(
        [...devices, ownDevice],
        (device) => (device.id === ownId ? own : documentOfRecord(show.drivers, device)),
        (id) => readings.get(id),
      ),
    [devices, show.drivers, readings, own],
  );
  const ofPage = useMemo(() => {
    const macros = show.records.filter((record) => record.kind === 'macro');
    return offersOfPage(page, pagesOf(show.records), macros, (id) => devices.find((each) => each.id === id)?.data.tag);
  }, [page, show.records, devices]);
  return useMemo(() => [...ofPage, ...ofRig], [ofPage, ofRig]);
}
