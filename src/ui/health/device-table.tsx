'use client';

import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import type { DeviceHealth, HealthView, StatusView } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { isWell } from '../../core/session';
import { ageText, durationText, LinkWord, VirtualRows } from '../parts';

const SparkLine = dynamic(() => import('./spark-line'), { ssr: false });

interface Props {
  readonly devices: StatusView['devices'];
  readonly view: HealthView | undefined;
  readonly open: string | undefined;
  readonly isNarrow: boolean;
  readonly now: number;
  readonly onOpen: (device: string) => void;
}

interface Row {
  readonly n: number;
  readonly id: string;
  readonly status: StatusView['devices'][string];
  readonly health: DeviceHealth | undefined;
  readonly chart: readonly (number | null)[];
}

const wide = 'grid-cols-[minmax(0,3fr)_92px_92px_132px_84px_64px_56px_72px_minmax(0,5fr)]';
const narrow = 'grid-cols-[minmax(0,3fr)_62px_62px_minmax(0,4fr)]';

/** Every device with its answers of the last minute beside those of the line check. What needs a look comes first. */
export function DeviceTable({ devices, view, open, isNarrow, now, onOpen }: Props) {
  const rows = useMemo(() => rowsOf(devices, view), [devices, view]);
  return (
    <div className="flex h-full min-h-0 flex-col">
      <VirtualRows
        label="Health of the devices"
        columns={
          isNarrow
            ? ['Device', 'Now', 'Usual', 'Remark']
            : ['Device', 'Now', 'Usual', 'Last 10 minutes', 'Unanswered', 'Failed', 'Drops', 'Heard', 'Remark']
        }
        columnClass={isNarrow ? narrow : wide}
        rows={rows}
        rowHeight={36}
        keyOf={({ n }) => n}
        rowClass={({ id }) => `border-b border-rule hover:bg-raised ${id === open ? 'bg-raised' : ''}`}
        cells={(row) => <Cells row={row} isNarrow={isNarrow} isOpen={row.id === open} now={now} onOpen={onOpen} />}
      />
    </div>
  );
}

/** Beyond a limit first, then on the way there, then by tag. */
function rowsOf(devices: StatusView['devices'], view: HealthView | undefined): readonly Row[] {
  const rank = (health: DeviceHealth | undefined) => {
    const levels = (health?.concerns ?? []).map(({ level }) => level);
    return levels.includes('crossed') ? 0 : levels.includes('rising') ? 1 : 2;
  };
  return Object.entries(devices)
    .map(([id, status]) => ({ id, status, health: view?.devices[id], chart: view?.charts[id] ?? [] }))
    .sort((a, b) => rank(a.health) - rank(b.health) || inNumberOrder(a.status.tag, b.status.tag))
    .map((row, n) => ({ n, ...row }));
}

interface CellsProps {
  readonly row: Row;
  readonly isNarrow: boolean;
  readonly isOpen: boolean;
  readonly now: number;
  readonly onOpen: (device: string) => void;
}

function Cells({ row: { id, status, health, chart }, isNarrow, isOpen, now, onOpen }: CellsProps) {
  const usual = health?.usual;
  const [worst] = (health?.concerns ?? []).toSorted((a, b) => (a.level < b.level ? -1 : 1));
  const slow = health?.concerns.find(({ code }) => code === 'slow')?.level;
  const bare = (count: number | undefined) => (count ? String(count) : '–');
  return (
    <>
      <span role="cell" className="min-w-0">
        <button
          type="button"
          className="max-w-full truncate text-left hover:underline"
          aria-expanded={isOpen}
          onClick={() => onOpen(id)}
        >
          <span className="font-mono text-[0.93em] font-semibold">{status.tag}</span> {status.name}
        </button>
      </span>
      <span role="cell" className={`tabular-nums ${slow === 'crossed' ? 'font-semibold' : ''}`}>
        {health?.minute.half === undefined ? '–' : durationText(health.minute.half)}
      </span>
      <span role="cell" className="text-ink-soft tabular-nums">
        {usual ? durationText(usual.ms) : '–'}
      </span>
      {!isNarrow && (
        <>
          <span role="cell" className="h-7">
            <SparkLine name={status.tag} values={chart} usual={usual?.ms} />
          </span>
          <span role="cell" className="tabular-nums">
            {bare(health?.missed)}
          </span>
          <span role="cell" className="tabular-nums">
            {health && health.failed > 0 ? `${health.failed} of ${health.sent}` : '–'}
          </span>
          <span role="cell" className="tabular-nums">
            {bare(health?.drops)}
          </span>
          <span role="cell" className="text-ink-soft tabular-nums">
            {health && health.heardAt > 0 && now > 0 ? ageText(now - health.heardAt) : '–'}
          </span>
        </>
      )}
      <span role="cell" className="min-w-0 truncate" title={worst?.text}>
        {worst ? (
          <span className={worst.level === 'crossed' ? 'font-semibold' : ''}>{worst.text}</span>
        ) : (
          !isWell(status.link.word) && <LinkWord link={status.link} />
        )}
      </span>
    </>
  );
}
