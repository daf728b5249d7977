'use client';

import { useState } from 'react';
import { isPressed, type AsRunRow } from '../../core/live';
import { useAsRun, useStatus } from '../live';
import { clockText, durationText, linkText, linkTone, outcomeShapes, VeiledText, VirtualRows } from '../parts';

const kinds = {
  all: 'everything',
  press: 'presses',
  link: 'links',
  reading: 'readings',
  other: 'aim, service, tally, notes',
} as const;

/** What was pressed, sent, confirmed and changed; newest first. */
export function AsRunScreen() {
  const asRun = useAsRun();
  const status = useStatus();
  const [filter, setFilter] = useState('');
  const [kind, setKind] = useState<keyof typeof kinds>('all');
  const [troubleOnly, setTroubleOnly] = useState(false);
  const wanted = filter.toLowerCase();
  const rows = (asRun?.rows ?? [])
    .filter(
      (row) =>
        (kind === 'all' || kindOf(row) === kind) &&
        (!troubleOnly || isTrouble(row)) &&
        (wanted === '' || `${whatOf(row)} ${detailOf(row)} ${outcomeOf(row)}`.toLowerCase().includes(wanted)),
    )
    .reverse();
  return (
    <section className="screen screen-full" aria-labelledby="as-run-title">
      <div className="screen-head">
        <h1 id="as-run-title">As-run</h1>
        <label className="inline">
          Filter
          <input value={filter} onChange={(e) => setFilter(e.target.value)} placeholder="label, device, outcome" />
        </label>
        <label className="inline">
          Show
          <select value={kind} onChange={(e) => setKind(e.target.value as keyof typeof kinds)}>
            {Object.entries(kinds).map(([value, title]) => (
              <option key={value} value={value}>
                {title}
              </option>
            ))}
          </select>
        </label>
        <label className="inline">
          <input type="checkbox" checked={troubleOnly} onChange={(e) => setTroubleOnly(e.target.checked)} />
          trouble only
        </label>
        <span className="muted">
          {rows.length} of the last {asRun?.rows.length ?? 0}
          {status && !status.recording && ' · not being written: is the disk full?'}
        </span>
      </div>
      {asRun && rows.length === 0 ? (
        <p className="muted">
          {asRun.rows.length === 0 ? 'Nothing has happened yet. Press a button on a page.' : 'Nothing fits the filter.'}
        </p>
      ) : (
        <VirtualRows
          label="What was pressed, sent, confirmed and changed"
          columns={['Time', 'What', 'Outcome', 'After', 'Detail']}
          rows={rows}
          rowHeight={30}
          keyOf={(row) => row.n}
          rowClass={() => 'as-run-row'}
          cells={(row) => (
            <>
              <span role="cell">{clockText(row.at)}</span>
              <span role="cell" className="as-run-what">
                {whatOf(row)}
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
          )}
        />
      )}
    </section>
  );
}

function isTrouble(row: AsRunRow): boolean {
  if (row.kind === 'press' || row.kind === 'stop') return ['late', 'refused', 'lost'].includes(row.outcome);
  return row.kind === 'link' && row.link.word !== 'up';
}

function outcomeClass(row: AsRunRow): string {
  if (row.kind === 'press' || row.kind === 'stop') return `outcome outcome-${row.outcome}`;
  return row.kind === 'link' ? `outcome link-${linkTone(row.link.word)}` : '';
}

function kindOf(row: AsRunRow): keyof typeof kinds {
  if (isPressed(row)) return 'press';
  return row.kind === 'link' || row.kind === 'reading' ? row.kind : 'other';
}

function whatOf(row: AsRunRow): string {
  switch (row.kind) {
    case 'press':
      return `${row.page ? `${row.page} · ` : ''}${row.label || 'no label'}`;
    case 'link':
      return `${row.device} link`;
    case 'reading':
      return `${row.device} ${row.key}`;
    case 'aim':
      return 'Aim';
    case 'service':
      return 'Service';
    case 'stop':
      return `${row.device} ${row.command}`;
    case 'note':
      return 'Note';
  }
}

function outcomeOf(row: AsRunRow): string {
  switch (row.kind) {
    case 'press':
      return row.outcome;
    case 'link':
      return row.link.word;
    case 'reading':
      return typeof row.value === 'boolean' ? (row.value ? 'yes' : 'no') : String(row.value);
    case 'aim':
      return row.aim;
    case 'service':
      return row.revision === null ? 'setting up' : `revision ${row.revision}`;
    case 'stop':
      return row.outcome;
    case 'note':
      return '';
  }
}

function detailOf(row: AsRunRow): string {
  switch (row.kind) {
    case 'press':
      return [
        row.sends.map((send) => `${send.device} ${send.text || send.command}`).join(', '),
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
    case 'reading':
    case 'service':
      return '';
  }
}
