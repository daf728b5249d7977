'use client';

import { useState } from 'react';
import { isQuiet, type WireRow } from '../../core/live';
import { useStatus, useWire } from '../live';
import { Button, bytesText, clockText, VeiledText, VirtualRows } from '../parts';
import { optionsFrom, Select } from '../kit';

const arrows = { out: '→', in: '←', note: '·' } as const;

/** Every byte to and from the devices, with its time. */
export function WireScreen() {
  const wire = useWire();
  const status = useStatus();
  const [held, setHeld] = useState<readonly WireRow[]>();
  const [filter, setFilter] = useState('');
  const [direction, setDirection] = useState<'all' | WireRow['dir']>('all');
  const [form, setForm] = useState<'text' | 'hex'>('text');
  const [quietHidden, setQuietHidden] = useState(true);
  const [copied, setCopied] = useState('');
  const tagOf = (id: string) => status?.devices[id]?.tag ?? '?';
  const content = (row: WireRow) => (form === 'hex' ? row.hex.replace(/../g, '$& ').trim() : bytesText(row.hex));
  const all = held ?? wire?.rows ?? [];
  const wanted = filter.toLowerCase();
  const rows = all.filter(
    (row) =>
      !(quietHidden && isQuiet(row)) &&
      (direction === 'all' || row.dir === direction) &&
      (wanted === '' || `${tagOf(row.device)} ${content(row)} ${row.note ?? ''}`.toLowerCase().includes(wanted)),
  );
  const copy = async () => {
    const text = rows
      .map((row) => [clockText(row.at), tagOf(row.device), row.dir, content(row), row.note ?? ''].join('\t'))
      .join('\n');
    try {
      await navigator.clipboard.writeText(text);
      setCopied(`${rows.length} lines copied.`);
    } catch {
      setCopied('The browser does not allow copying here.');
    }
  };
  return (
    <section className="screen screen-full" aria-labelledby="wire-title">
      <div className="screen-head">
        <h1 id="wire-title">Wire</h1>
        <Button aria-pressed={held !== undefined} onClick={() => setHeld(held ? undefined : (wire?.rows ?? []))}>
          {held ? 'Go on' : 'Pause'}
        </Button>
        <label className="inline">
          Filter
          <input value={filter} onChange={(e) => setFilter(e.target.value)} placeholder="tag, text or note" />
        </label>
        <Select
          label="Show"
          labelAt="before"
          value={direction}
          options={optionsFrom({
            all: 'both ways and notes',
            out: 'sent only',
            in: 'received only',
            note: 'notes only',
          })}
          onChoose={setDirection}
        />
        <Select
          label="as"
          labelAt="before"
          value={form}
          options={optionsFrom({ text: 'text', hex: 'hex' })}
          onChoose={setForm}
        />
        <label className="inline">
          <input type="checkbox" checked={quietHidden} onChange={(e) => setQuietHidden(e.target.checked)} />
          hide polling
        </label>
        <Button onClick={() => void copy()} disabled={rows.length === 0}>
          Copy
        </Button>
        <span className="muted" role="status">
          {copied || (held ? `paused, ${(wire?.rows.at(-1)?.n ?? 0) - (held.at(-1)?.n ?? 0)} newer` : '')}
        </span>
      </div>
      {wire && rows.length === 0 ? (
        <p className="muted">
          {all.length === 0 ? 'Nothing has gone over the wire yet.' : 'No row matches the filter.'}
        </p>
      ) : (
        <VirtualRows
          label="Bytes to and from the devices"
          columns={['Time', 'Device', 'Way', form === 'hex' ? 'Bytes' : 'Text', 'Length', 'Note']}
          rows={rows}
          rowHeight={26}
          following={!held}
          keyOf={(row) => row.n}
          rowClass={(row) => `wire-row wire-${row.dir}`}
          cells={(row) => (
            <>
              <span role="cell">{clockText(row.at)}</span>
              <span role="cell">{tagOf(row.device)}</span>
              <span role="cell" aria-label={row.dir === 'out' ? 'sent' : row.dir === 'in' ? 'received' : 'note'}>
                {arrows[row.dir]}
              </span>
              <span role="cell" className="wire-bytes" title={content(row)}>
                <VeiledText text={content(row)} />
              </span>
              <span role="cell">{row.hex ? row.hex.length / 2 : ''}</span>
              <span role="cell" className="wire-note">
                {row.note !== undefined && <VeiledText text={row.note} />}
              </span>
            </>
          )}
        />
      )}
    </section>
  );
}
