'use client';

import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useDeferredValue, useState } from 'react';
import {
  everything,
  filterQuery,
  outcomeOf,
  sentOf,
  whatOf,
  whoOfRow,
  type AsRunFilter,
  type AsRunRow,
} from '../../core/live';
import { useStatus } from '../live';
import { Button, buttonClass, Segmented, SplitPanes } from '../kit';
import {
  clockText,
  Cross,
  durationText,
  linkText,
  linkTone,
  linkToneClass,
  OutcomeShape,
  VeiledText,
  VirtualRows,
} from '../parts';
import { RecordAlerts } from './record-alerts';
import { AsRunFilters } from './as-run-filters';
import { RowDetail } from './row-detail';
import { useNewestRows, useRecord } from './use-as-run';

const DelaysChart = dynamic(() => import('./delays-chart'), {
  ssr: false,
  loading: () => <p className="text-ink-soft">Fetching the chart …</p>,
});

/** What was pressed, sent, confirmed and changed: the newest as it comes, or the whole record by time; newest first. */
export function AsRunScreen() {
  const status = useStatus();
  const [filter, setFilter] = useState<AsRunFilter>(everything);
  const [whole, setWhole] = useState(false);
  const [chart, setChart] = useState(false);
  const [open, setOpen] = useState<AsRunRow>();
  const asked = useDeferredValue(filter);
  const newest = useNewestRows(asked);
  const record = useRecord(asked, whole);
  const rows = whole ? record.rows : newest.rows;
  return (
    <section
      className="flex h-full min-h-full flex-col px-4 pt-3.5 pb-3 [&>.live-page]:h-auto [&>.live-page]:flex-1"
      aria-labelledby="as-run-title"
    >
      <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="as-run-title">As-run</h1>
        <Segmented
          label="Which part"
          value={whole ? 'whole' : 'newest'}
          options={[
            { value: 'newest', title: 'Newest' },
            { value: 'whole', title: 'Whole record' },
          ]}
          onChoose={(part) => setWhole(part === 'whole')}
        />
        <span className="text-ink-soft" role="status">
          {whole
            ? `${rows.length} found, ${record.looked.toLocaleString()} searched${record.busy ? ' …' : ''}`
            : `${rows.length} of the last ${newest.of}`}
          {status && !status.recording && ' · not being written: is the disk full?'}
        </span>
        <span className="col-span-full ml-auto flex flex-wrap gap-2.5">
          <Button aria-expanded={chart} onClick={() => setChart(!chart)}>
            Delays
          </Button>
          <Link className={buttonClass()} href="/as-run/replay">
            Replay …
          </Link>
          <a className={buttonClass()} href={`/desk/as-run/export?format=csv&${filterQuery(filter)}`}>
            Save as CSV
          </a>
          <a className={buttonClass()} href={`/desk/as-run/export?format=jsonl&${filterQuery(filter)}`}>
            Save as JSON lines
          </a>
        </span>
      </div>
      <RecordAlerts />
      <AsRunFilters filter={filter} onChange={setFilter} byTime={whole} />
      {chart && <DelaysChart filter={asked} />}
      {record.failed && whole && <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{record.failed}</p>}
      <SplitPanes
        name="as-run"
        main={
          rows.length === 0 && !(whole && record.busy) ? (
            <p className="text-ink-soft">
              {!whole && newest.of === 0
                ? 'Nothing has happened yet. Press a button on a page.'
                : whole && record.hasMore
                  ? 'Nothing found so far.'
                  : 'No row matches the filter.'}
            </p>
          ) : (
            <div className="flex h-full min-h-0 flex-col">
              <VirtualRows
                label="What was pressed, sent, confirmed and changed"
                columns={
                  open ? ['Time', 'What', 'Outcome', 'After'] : ['Time', 'What', 'Outcome', 'After', 'Detail', 'By']
                }
                columnClass={open ? narrowColumns : wideColumns}
                rows={rows}
                rowHeight={30}
                keyOf={(row) => row.n}
                rowClass={(row) => `border-b border-rule hover:bg-raised ${row.n === open?.n ? 'bg-raised' : ''}`}
                cells={(row) => (
                  <Cells row={row} isNarrow={open !== undefined} isOpen={row.n === open?.n} onOpen={setOpen} />
                )}
              />
            </div>
          )
        }
        side={open && <RowDetail key={open.n} row={open} onClose={() => setOpen(undefined)} />}
      />
      {whole && record.hasMore && (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button disabled={record.busy} onClick={() => void record.more()}>
            Search further back
          </Button>
        </div>
      )}
    </section>
  );
}

const wideColumns = 'grid-cols-[104px_minmax(0,5fr)_116px_70px_minmax(0,8fr)_minmax(0,3fr)]';
const narrowColumns = 'grid-cols-[104px_minmax(0,1fr)_116px_70px]';

interface CellsProps {
  readonly row: AsRunRow;
  readonly isNarrow: boolean;
  readonly isOpen: boolean;
  readonly onOpen: (row: AsRunRow) => void;
}

function Cells({ row, isNarrow, isOpen, onOpen }: CellsProps) {
  const detail = detailOf(row);
  const who = whoOfRow(row);
  return (
    <>
      <span role="cell">{clockText(row.at)}</span>
      <span role="cell">
        <button
          type="button"
          className="max-w-full truncate text-left hover:underline"
          aria-expanded={isOpen}
          onClick={() => onOpen(row)}
        >
          {whatOf(row)}
        </button>
      </span>
      <span role="cell" className={`justify-self-start ${outcomeClass(row)}`}>
        {row.kind === 'press' && <OutcomeShape outcome={row.outcome} />}
        {row.kind === 'link' && linkTone(row.link.word) === 'fault' && <Cross />}
        <VeiledText text={outcomeOf(row)} />
      </span>
      <span role="cell">
        {(row.kind === 'press' || row.kind === 'stop') && row.outcome !== 'skipped' ? durationText(row.ms) : ''}
      </span>
      {!isNarrow && (
        <>
          <span role="cell" className="as-run-detail text-ink-soft" title={detail}>
            <VeiledText text={detail} />
          </span>
          <span role="cell" className="text-ink-soft" title={who}>
            {who}
          </span>
        </>
      )}
    </>
  );
}

function outcomeClass(row: AsRunRow): string {
  if (row.kind === 'press' || row.kind === 'stop') return `outcome outcome-${row.outcome}`;
  return row.kind === 'link' ? `outcome ${linkToneClass[linkTone(row.link.word)]}` : '';
}

function detailOf(row: AsRunRow): string {
  switch (row.kind) {
    case 'press':
      return [sentOf(row), row.reason].filter(Boolean).join(' · ');
    case 'link':
      return row.link.cause ? linkText(row.link) : '';
    case 'stop':
      return [`Stopped: ${row.why}`, row.reason].filter(Boolean).join(' · ');
    case 'note':
      return row.text;
    case 'run':
      return [`${row.past.steps.length} steps`, row.past.reason].filter(Boolean).join(' · ');
    case 'begin':
    case 'aim':
    case 'reading':
    case 'service':
      return '';
  }
}
