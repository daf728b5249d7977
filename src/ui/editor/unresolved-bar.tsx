'use client';

import { useRouter } from 'next/navigation';
import { useDeferredValue, useMemo, useState } from 'react';
import { devicesThatTell, problemsOf, warningsOfControl } from '../../core/check';
import { formatLabel, readingsOfLabel, labelNow } from '../../core/face';
import type { ReadingsView } from '../../core/live';
import type { ControlRecord, DeskView, DeviceRecord, ReadingRef, ShowRecord } from '../../core/show';
import { driverOfDevice, useShow } from '../desk';
import { useReadingsNowAndThen, useStatus } from '../live';
import { Button } from '../kit';
import { Cross } from '../parts';

/**
 * What of the show will not work, then what would work but show nothing now, one after the other, with the way to each.
 * Nothing where everything is well.
 */
export function UnresolvedBar() {
  const { show } = useShow();
  const router = useRouter();
  const [at, setAt] = useState(0);
  const [visits, setVisits] = useState(0);
  const status = useStatus();
  // The engine counts what is unresolved; only where there is something, or a draft that it does not know, is it looked for here.
  const wanted = (status?.show.problems ?? 0) > 0 || status?.show.revision !== null;
  const later = useDeferredValue(show);
  const broken = useMemo(() => (wanted && later ? unresolved(later) : []), [wanted, later]);
  const suspects = useMemo(() => (later ? suspectsOf(later) : noSuspects), [later]);
  const telling = useMemo(() => [...new Set([...suspects.devices, ...namingDevices(broken)])], [suspects, broken]);
  const readings = useReadingsNowAndThen(telling, 1000);
  const unseen = useMemo(
    () => (later ? showingNothing(later, suspects.controls, readings) : []),
    [later, suspects, readings],
  );
  const found = [...broken, ...unseen];
  const now = found[Math.min(at, found.length - 1)];
  if (!now || !later) return null;
  const go = (to: number) => {
    const next = found[to];
    setAt(to);
    setVisits(visits + 1);
    if (next) router.push(`${whereIs(next.record, later, readings).href}&visit=${visits + 1}`);
  };
  const place = found.indexOf(now);
  return (
    <div
      className="my-1.5 flex items-center gap-2.5 border-2 border-rule-strong px-2.5 py-1.5 [&_p]:min-w-0 [&_p]:flex-1"
      role="region"
      aria-label="Unresolved"
    >
      <b>
        {place < broken.length && <Cross />}
        {countWords(place, broken.length, unseen.length)}
      </b>
      <p>
        <b>{whereIs(now.record, later, readings).where}</b> {now.message}
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

interface Found {
  readonly record: ShowRecord | undefined;
  readonly message: string;
}

function unresolved(show: DeskView): Found[] {
  const byId = new Map(show.records.map((record) => [record.id, record]));
  const problems = problemsOf(show.records, ({ id }) => {
    const document = driverOfDevice(show, id);
    return document && { document };
  });
  return problems.map(({ record, message }) => ({ message, record: byId.get(record) }));
}

/** The controls that could show nothing, and the devices that tell. */
interface Suspects {
  readonly controls: readonly ControlRecord[];
  readonly devices: readonly string[];
}
const noSuspects: Suspects = { controls: [], devices: [] };

function suspectsOf(show: DeskView): Suspects {
  const told = show.records.flatMap((record) => {
    if (record.kind !== 'control') return [];
    const devices = devicesThatTell(record, (id) => driverOfDevice(show, id));
    return devices.length > 0 ? [{ record, devices }] : [];
  });
  return { controls: told.map(({ record }) => record), devices: told.flatMap(({ devices }) => devices) };
}

/** The devices whose readings stand on the labels of what is broken. */
const namingDevices = (broken: readonly Found[]): string[] =>
  broken.flatMap(({ record }) =>
    record?.kind === 'control'
      ? readingsOfLabel(record.data.label, record.data.values).map(({ device }) => device)
      : [],
  );

function showingNothing(
  show: DeskView,
  suspects: readonly ControlRecord[],
  readings: ReadonlyMap<string, ReadingsView>,
): Found[] {
  const devices = devicesOfShow(show);
  const sources = {
    device: (id: string) => devices.get(id),
    document: ({ id }: DeviceRecord) => driverOfDevice(show, id),
    readingNow: ({ device, key }: ReadingRef) => readings.get(device)?.[key],
  };
  return suspects.flatMap((record) => warningsOfControl(record, sources).map((message) => ({ message, record })));
}

const devicesOfShow = ({ records }: DeskView): ReadonlyMap<string, DeviceRecord> =>
  new Map(records.flatMap((record) => (record.kind === 'device' ? [[record.id, record]] : [])));

function whereIs(
  record: ShowRecord | undefined,
  show: DeskView,
  readings: ReadonlyMap<string, ReadingsView>,
): { readonly where: string; readonly href: string } {
  if (record?.kind === 'page') return { where: `${record.data.name}:`, href: `/pages/${record.id}?edit=1` };
  if (record?.kind !== 'control') return { where: 'Rig', href: `/rig?device=${record?.id ?? ''}` };
  const { data } = record;
  const page = show.records.find(({ id }) => id === data.page);
  const segments = labelNow(
    data,
    ({ device, key }) => readings.get(device)?.[key],
    (device) => driverOfDevice(show, device),
  );
  const label = segments.some(({ doubt }) => doubt === 'unknown')
    ? formatLabel(data.label, (id) => devicesOfShow(show).get(id)?.data.tag)
    : segments.map(({ text }) => text).join('');
  const name = page?.kind === 'page' ? page.data.name : 'no page';
  return {
    where: `${name}, ${label || 'without a label'}:`,
    href: `/pages/${data.page}?edit=1&control=${record.id}`,
  };
}
