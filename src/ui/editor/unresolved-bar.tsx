'use client';

import { useRouter } from 'next/navigation';
import { useDeferredValue, useMemo, useState } from 'react';
import { devicesThatTell, problemsOf, warningsOfControl } from '../../core/check';
import { formatLabel } from '../../core/face';
import type { ReadingsView } from '../../core/live';
import type { ControlRecord, DeskView, DeviceRecord, ShowRecord } from '../../core/show';
import { driverOfDevice, useShow } from '../desk';
import { useReadingsNowAndThen, useStatus } from '../live';
import { Button } from '../parts';

/**
 * What of the show will not work, then what would work but show nothing now, one after the other, with the way to each.
 * Nothing where everything is well.
 */
export function UnresolvedBar() {
  const { show } = useShow();
  const router = useRouter();
  const [at, setAt] = useState(0);
  const status = useStatus();
  // The engine counts what is unresolved; only where there is something, or a draft that it does not know, is it looked for here.
  const wanted = (status?.show.problems ?? 0) > 0 || status?.show.revision !== null;
  const later = useDeferredValue(show);
  const broken = useMemo(() => (wanted && later ? unresolved(later) : []), [wanted, later]);
  const telling = useMemo(() => (later ? tellingDevices(later) : []), [later]);
  const readings = useReadingsNowAndThen(telling, 1000);
  const unseen = useMemo(() => (later ? showingNothing(later, readings) : []), [later, readings]);
  const found = [...broken, ...unseen];
  const now = found[Math.min(at, found.length - 1)];
  if (!now) return null;
  const go = (to: number) => {
    const next = found[to];
    setAt(to);
    if (next) router.push(`${next.href}&visit=${Date.now()}`);
  };
  const place = found.indexOf(now);
  return (
    <div className="unresolved" role="region" aria-label="Unresolved">
      <b>
        {place < broken.length ? '✕' : '!'} {countWords(place, broken.length, unseen.length)}
      </b>
      <p>
        <b>{now.where}</b> {now.message}
      </p>
      <Button onClick={() => go(place)}>Go to it</Button>
      <Button disabled={found.length < 2} onClick={() => go((place + 1) % found.length)}>
        Next
      </Button>
    </div>
  );
}

function countWords(place: number, broken: number, unseen: number): string {
  if (broken === 0) return unseen === 1 ? '1 would show nothing' : `${place + 1} of ${unseen} would show nothing`;
  const of = broken + unseen === 1 ? '' : `${place + 1} of `;
  return `${of}${broken} unresolved${unseen > 0 ? `, ${unseen} would show nothing` : ''}`;
}

function unresolved(show: DeskView) {
  const byId = new Map(show.records.map((record) => [record.id, record]));
  const problems = problemsOf(show.records, ({ id }) => {
    const document = driverOfDevice(show, id);
    return document && { document };
  });
  return problems.map(({ record, message }) => ({ message, ...whereIs(byId.get(record), byId) }));
}

const controlsIn = ({ records }: DeskView) =>
  records.filter((record): record is ControlRecord => record.kind === 'control');

const tellingDevices = (show: DeskView) => devicesThatTell(controlsIn(show), (id) => driverOfDevice(show, id));

function showingNothing(show: DeskView, readings: ReadonlyMap<string, ReadingsView>) {
  const byId = new Map(show.records.map((record) => [record.id, record]));
  const sources = {
    device: (id: string) => {
      const found = byId.get(id);
      return found?.kind === 'device' ? found : undefined;
    },
    document: ({ id }: DeviceRecord) => driverOfDevice(show, id),
    readingNow: ({ device, key }: { readonly device: string; readonly key: string }) => readings.get(device)?.[key],
  };
  return controlsIn(show).flatMap((control) =>
    warningsOfControl(control, sources).map((message) => ({ message, ...whereIs(control, byId) })),
  );
}

function whereIs(
  record: ShowRecord | undefined,
  byId: ReadonlyMap<string, ShowRecord>,
): { readonly where: string; readonly href: string } {
  if (record?.kind === 'page') return { where: `${record.data.name}:`, href: `/pages/${record.id}?edit=1` };
  if (record?.kind !== 'control') return { where: 'Rig', href: `/rig?device=${record?.id ?? ''}` };
  const page = byId.get(record.data.page);
  const label = formatLabel(record.data.label, (id) => {
    const device = byId.get(id);
    return device?.kind === 'device' ? device.data.tag : undefined;
  });
  const name = page?.kind === 'page' ? page.data.name : 'no page';
  return {
    where: `${name}, ${label || 'without a label'}:`,
    href: `/pages/${record.data.page}?edit=1&control=${record.id}`,
  };
}
