'use client';

import { useMemo, useState } from 'react';
import { isQuiet, type WireRow } from '../../core/live';
import { useShow } from '../desk';
import { useStatus, useWire } from '../live';
import { bytesText, clockText, VeiledText, VirtualRows, WireWay } from '../parts';
import { Button, optionsFrom, Select, SplitPanes } from '../kit';
import { useMeanings } from '../explain';
import { CaptureBar } from './capture-bar';
import { SaveMenu } from './save-menu';
import { useCapture } from './use-capture';
import { WireDetail } from './wire-detail';

/** Why the program sends something by itself. */
const noteWords: Readonly<Record<string, string>> = { sync: 'fetches the state', greeting: 'signs in' };

const texts = new WeakMap<WireRow, string>();

/** The bytes of a row as text, worked out once: a screen of two thousand rows is drawn anew with each that comes. */
function textOf(row: WireRow): string {
  let text = texts.get(row);
  if (text === undefined) texts.set(row, (text = bytesText(row.hex)));
  return text;
}

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
  const [open, setOpen] = useState<WireRow>();
  const meaningOf = useMeanings();
  const [part, setPart] = useState('');
  const { show } = useShow();
  const inlets = useMemo(
    () => new Map((show?.records ?? []).flatMap((each) => (each.kind === 'inlet' ? [[each.id, each.data.name]] : []))),
    [show],
  );
  const capturing = useCapture();
  const captured = capturing.capture.at === 'open' ? capturing.capture.reading : undefined;
  const tagOf = (id: string) => {
    const called = captured?.parts.find((each) => each.id === id)?.called;
    return status?.devices[id]?.tag ?? inlets.get(id) ?? (called ? `${called.address}:${called.port}` : '?');
  };
  const content = (row: WireRow) => (form === 'hex' ? row.hex.replace(/../g, '$& ').trim() : textOf(row));
  const all = captured ? captured.rows : (held ?? wire?.rows ?? []);
  const wanted = filter.toLowerCase();
  const rows = all.filter(
    (row) =>
      !(quietHidden && isQuiet(row)) &&
      (direction === 'all' || row.dir === direction) &&
      (!captured || part === '' || row.device === part) &&
      (wanted === '' ||
        `${tagOf(row.device)} ${content(row)} ${meaningOf(row)} ${row.note ?? ''}`.toLowerCase().includes(wanted)),
  );
  const wordsOf = (row: WireRow) => ({ tag: tagOf(row.device), text: textOf(row), meaning: meaningOf(row) });
  const copy = async () => {
    const text = rows
      .map((row) =>
        [clockText(row.at), tagOf(row.device), row.dir, content(row), meaningOf(row), row.note ?? ''].join('\t'),
      )
      .join('\n');
    try {
      await navigator.clipboard.writeText(text);
      setCopied(`${rows.length} lines copied.`);
    } catch {
      setCopied('The browser does not allow copying here.');
    }
  };
  return (
    <section
      className="flex h-full min-h-full flex-col px-4 pt-3.5 pb-3 [&>.live-page]:h-auto [&>.live-page]:flex-1"
      aria-labelledby="wire-title"
    >
      <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="wire-title">Wire</h1>
        <Button
          aria-pressed={held !== undefined}
          disabled={captured !== undefined}
          onClick={() => setHeld(held ? undefined : (wire?.rows ?? []))}
        >
          {held ? 'Resume' : 'Pause'}
        </Button>
        <label className="inline-flex items-center gap-1.5 text-ink-soft">
          Filter
          <input value={filter} onChange={(e) => setFilter(e.target.value)} placeholder="tag, bytes or meaning" />
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
        <label className="inline-flex items-center gap-1.5 text-ink-soft">
          <input type="checkbox" checked={quietHidden} onChange={(e) => setQuietHidden(e.target.checked)} />
          hide polling
        </label>
        <Button onClick={() => void copy()} disabled={rows.length === 0}>
          Copy
        </Button>
        <SaveMenu rows={rows} wordsOf={wordsOf} isCaptured={captured !== undefined} onSay={setCopied} />
        <Button onClick={capturing.choose} disabled={capturing.capture.at !== 'none'}>
          Open a capture
        </Button>
        <span className="text-ink-soft" role="status">
          {copied || (held ? `paused, ${(wire?.rows.at(-1)?.n ?? 0) - (held.at(-1)?.n ?? 0)} newer` : '')}
        </span>
      </div>
      <CaptureBar
        {...capturing}
        open={(file) => {
          setOpen(undefined);
          capturing.open(file);
        }}
        close={() => {
          capturing.close();
          setPart('');
          setOpen(undefined);
        }}
        tagOf={(id) => status?.devices[id]?.tag}
        part={part}
        onPart={setPart}
      />
      <SplitPanes
        name="wire"
        main={
          wire && rows.length === 0 ? (
            <p className="text-ink-soft">
              {all.length > 0
                ? 'No row matches the filter.'
                : captured
                  ? 'This capture contains nothing that can be shown.'
                  : 'Nothing has gone over the wire yet.'}
            </p>
          ) : (
            <div className="flex h-full min-h-0 flex-col">
              <VirtualRows
                label="Bytes to and from the devices"
                columns={[
                  'Time',
                  'Device',
                  'Way',
                  form === 'hex' ? 'Bytes' : 'Text',
                  'Meaning',
                  ...(open ? [] : ['Note']),
                ]}
                columnClass={`${open ? narrowColumns : wideColumns} ${captured ? capturedTags : liveTags}`}
                rows={rows}
                rowHeight={28}
                following={!held && !open && !captured}
                keyOf={(row) => row.n}
                rowClass={(row) => `text-[13px] hover:bg-raised ${row.n === open?.n ? 'bg-raised' : ''}`}
                cells={(row) => (
                  <Cells
                    row={row}
                    tag={tagOf(row.device)}
                    content={row.dir === 'note' ? (row.note ?? '') : content(row)}
                    meaning={meaningOf(row)}
                    isNarrow={open !== undefined}
                    isOpen={row.n === open?.n}
                    onOpen={setOpen}
                  />
                )}
              />
            </div>
          )
        }
        side={
          open && (
            <WireDetail
              key={open.n}
              row={open}
              tag={tagOf(open.device)}
              meaning={meaningOf(open)}
              isCaptured={captured !== undefined}
              onClose={() => setOpen(undefined)}
            />
          )
        }
      />
    </section>
  );
}

const wideColumns = 'grid-cols-[100px_var(--tags)_32px_minmax(0,5fr)_minmax(0,5fr)_minmax(0,2fr)]';
const narrowColumns = 'grid-cols-[100px_var(--tags)_32px_minmax(0,1fr)_minmax(0,1fr)]';
const liveTags = '[--tags:72px]';
/** What no device of the rig is has an address instead of a tag. */
const capturedTags = '[--tags:150px]';

interface CellsProps {
  readonly row: WireRow;
  readonly tag: string;
  readonly content: string;
  readonly meaning: string;
  readonly isNarrow: boolean;
  readonly isOpen: boolean;
  readonly onOpen: (row: WireRow) => void;
}

function Cells({ row, tag, content, meaning, isNarrow, isOpen, onOpen }: CellsProps) {
  return (
    <>
      <span role="cell">{clockText(row.at)}</span>
      <span role="cell" className="truncate" title={tag}>
        <VeiledText text={tag} />
      </span>
      <span role="cell">
        <WireWay dir={row.dir} />
      </span>
      <span role="cell" className={`wire-bytes ${row.dir === 'in' ? 'pl-4' : ''}`} title={content}>
        {row.dir === 'note' ? (
          <VeiledText text={content} />
        ) : (
          <button
            type="button"
            className="max-w-full truncate text-left font-mono text-[0.93em] hover:underline"
            aria-expanded={isOpen}
            onClick={() => onOpen(row)}
          >
            <VeiledText text={content} />
          </button>
        )}
      </span>
      <span role="cell" title={meaning}>
        <VeiledText text={meaning} />
      </span>
      {!isNarrow && (
        <span role="cell" className="text-ink-soft">
          {row.dir !== 'note' && row.note !== undefined && <VeiledText text={noteWords[row.note] ?? row.note} />}
        </span>
      )}
    </>
  );
}
