'use client';

import dynamic from 'next/dynamic';
import { useDeferredValue, useState } from 'react';
import { everything, filterQuery, outcomeOf, whatOf, type AsRunFilter, type AsRunRow } from '../../core/live';
import { useStatus } from '../live';
import { Button, clockText, durationText, linkText, linkTone, outcomeShapes, VeiledText, VirtualRows } from '../parts';
import { RecordAlerts } from './record-alerts';
import { AsRunFilters } from './as-run-filters';
import { RowDetail } from './row-detail';
import { useNewestRows, useRecord } from './use-as-run';

const DelaysChart = dynamic(() => import('./delays-chart'), {
  ssr: false,
  loading: () => <p className="muted">Fetching the chart …</p>,
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
    <section className="screen screen-full" aria-labelledby="as-run-title">
      <div className="screen-head">
        <h1 id="as-run-title">As-run</h1>
        <span role="group" aria-label="Which part" className="two-way">
          <button type="button" aria-pressed={!whole} onClick={() => setWhole(false)}>
            as it comes
          </button>
          <button type="button" aria-pressed={whole} onClick={() => setWhole(true)}>
            whole record
          </button>
        </span>
        <span className="muted" role="status">
          {whole
            ? `${rows.length} found, ${record.looked.toLocaleString('en-GB')} looked through${record.busy ? ' …' : ''}`
            : `${rows.length} of the last ${newest.of}`}
          {status && !status.recording && ' · not being written: is the disk full?'}
        </span>
        <span className="head-end form-acts">
          <Button aria-expanded={chart} onClick={() => setChart(!chart)}>
            Delays
          </Button>
          <a className="btn btn-plain" href={`/desk/as-run/export?format=csv&${filterQuery(filter)}`}>
            Save as CSV
          </a>
          <a className="btn btn-plain" href={`/desk/as-run/export?format=jsonl&${filterQuery(filter)}`}>
            as JSON lines
          </a>
        </span>
      </div>
      <RecordAlerts />
      <AsRunFilters filter={filter} onChange={setFilter} byTime={whole} />
      {chart && <DelaysChart filter={asked} />}
      {record.failed && whole && <p className="form-error">{record.failed}</p>}
      <div className="as-run-both">
        {rows.length === 0 && !(whole && record.busy) ? (
          <p className="muted">
            {!whole && newest.of === 0
              ? 'Nothing has happened yet. Press a button on a page.'
              : whole && record.hasMore
                ? 'Nothing found so far.'
                : 'No row matches the filter.'}
          </p>
        ) : (
          <VirtualRows
            label="What was pressed, sent, confirmed and changed"
            columns={['Time', 'What', 'Outcome', 'After', 'Detail']}
            rows={rows}
            rowHeight={30}
            keyOf={(row) => row.n}
            rowClass={(row) => (row.n === open?.n ? 'as-run-row as-run-open' : 'as-run-row')}
            cells={(row) => <Cells row={row} onOpen={setOpen} />}
          />
        )}
        {open && <RowDetail row={open} onClose={() => setOpen(undefined)} />}
      </div>
      {whole && record.hasMore && (
        <div className="form-acts">
          <Button disabled={record.busy} onClick={() => void record.more()}>
            Look further back
          </Button>
        </div>
      )}
    </section>
  );
}

function Cells({ row, onOpen }: { readonly row: AsRunRow; readonly onOpen: (row: AsRunRow) => void }) {
  return (
    <>
      <span role="cell">{clockText(row.at)}</span>
      <span role="cell" className="as-run-what">
        <button type="button" onClick={() => onOpen(row)} title="What stands behind it">
          {whatOf(row)}
        </button>
      </span>
      <span role="cell" className={outcomeClass(row)}>
        {row.kind === 'press' && <span aria-hidden>{outcomeShapes[row.outcome]} </span>}
        {row.kind === 'link' && linkTone(row.link.word) === 'fault' && <span aria-hidden>✕ </span>}
        <VeiledText text={outcomeOf(row)} />
      </span>
      <span role="cell">
        {(row.kind === 'press' || row.kind === 'stop') && row.outcome !== 'skipped' ? durationText(row.ms) : ''}
      </span>
      <span role="cell" className="as-run-detail" title={detailOf(row)}>
        <VeiledText text={detailOf(row)} />
      </span>
    </>
  );
}

function outcomeClass(row: AsRunRow): string {
  if (row.kind === 'press' || row.kind === 'stop') return `outcome outcome-${row.outcome}`;
  return row.kind === 'link' ? `outcome link-${linkTone(row.link.word)}` : '';
}

function detailOf(row: AsRunRow): string {
  switch (row.kind) {
    case 'press':
      return [
        row.sends.map((send) => `${send.device} ${send.says ?? (send.text || send.command)}`).join(', '),
        row.reason,
        `by ${row.who}`,
      ]
        .filter(Boolean)
        .join(' · ');
    case 'link':
      return row.link.cause ? linkText(row.link) : '';
    case 'aim':
      return `by ${row.who}`;
    case 'stop':
      return [`Stopped: ${row.why}`, row.reason].filter(Boolean).join(' · ');
    case 'note':
      return row.text;
    case 'begin':
      return `by ${row.who}`;
    case 'run':
      return [`${row.past.steps.length} steps`, row.past.reason, `by ${row.past.who}`].filter(Boolean).join(' · ');
    case 'reading':
    case 'service':
      return '';
  }
}
