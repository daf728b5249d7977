'use client';

import Link from 'next/link';
import { useMemo, useState, type CSSProperties } from 'react';
import { labelNow } from '../../core/face';
import { legendOf, sheetOf } from '../../core/page';
import { controlsOf, type DeskView, type PageRecord } from '../../core/show';
import { driverOfDevice, useShow } from '../desk';
import { useReadingsNowAndThen } from '../live';
import { Button, buttonClass } from '../kit';
import { Legend } from '../page';

/** A page on paper: each control written out, and strips to cut out for gear that has no display. */
export function SheetScreen({ page: id }: { readonly page: string }) {
  const { show } = useShow();
  const page = show?.records.find((record): record is PageRecord => record.kind === 'page' && record.id === id);
  if (!show) return <p className="py-6 text-ink-soft">Fetching the show …</p>;
  if (!page) return <p className="py-6">There is no such page in the show.</p>;
  return <Sheet show={show} page={page} />;
}

function Sheet({ show, page }: { readonly show: DeskView; readonly page: PageRecord }) {
  const controls = useMemo(() => controlsOf(show.records, page.id), [show.records, page.id]);
  const devices = show.records.filter((record) => record.kind === 'device');
  const tags = new Map(devices.map(({ id, data }) => [id, data.tag]));
  const readings = useReadingsNowAndThen(
    devices.map(({ id }) => id),
    2000,
  );
  const [keyMm, setKeyMm] = useState(19);
  const sources = {
    documentOf: (device: string) => driverOfDevice(show, device),
    tagOf: (device: string) => tags.get(device),
  };
  const rows = sheetOf(page, controls, {
    ...sources,
    labelOf: ({ data }) => {
      const segments = labelNow(data, (ref) => readings.get(ref.device)?.[ref.key], sources.documentOf);
      return segments.some(({ doubt }) => doubt === 'unknown') ? '' : segments.map(({ text }) => text).join('');
    },
  });
  const labels = new Map(rows.map((row) => [row.id, row.label]));
  const lines = Array.from({ length: page.data.rows }, (_, row) => controls.filter(({ data }) => data.row === row));
  return (
    <section
      className="sheet flex min-h-full flex-col px-4 pt-3.5 pb-3 [&>.live-page]:h-auto [&>.live-page]:flex-1"
      aria-labelledby="sheet-title"
    >
      <div className="sheet-tools mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <Button kind="strong" onClick={() => window.print()}>
          Print
        </Button>
        <label className="inline-flex items-center gap-1.5 text-ink-soft">
          Width of a key
          <input
            type="number"
            min={8}
            max={80}
            value={keyMm}
            onChange={(e) => setKeyMm(Number(e.target.value) || 19)}
          />
          mm
        </label>
        <Link className={buttonClass()} href={`/pages/${page.id}?edit=1`}>
          Back to the page
        </Link>
      </div>
      <h1 id="sheet-title">{page.data.name}</h1>
      {page.data.note && <p>{page.data.note}</p>}
      <Legend legend={legendOf(page.data, controls, sources.tagOf)} />
      <table>
        <thead>
          <tr>
            <th scope="col">Place</th>
            <th scope="col">Label</th>
            <th scope="col">What it does</th>
            <th scope="col">When it lights</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id}>
              <td>
                <span className="font-mono text-[0.93em]">{row.place}</span>{' '}
                <span className="text-ink-soft">{row.zone}</span>
              </td>
              <th scope="row">
                {row.label} {row.kind !== 'button' && <span className="text-ink-soft">{row.kind}</span>}
              </th>
              <td>
                {row.response.map((text) => (
                  <p key={text}>{text}</p>
                ))}
                {row.response.length === 0 && <span className="text-ink-soft">shows only</span>}
              </td>
              <td>
                {row.lamp.map((text) => (
                  <p key={text}>{text}</p>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2>Strips</h2>
      <p className="sheet-tools text-ink-soft">One strip for each row of the page, to cut out along the lines.</p>
      {lines.map((line, row) =>
        line.length === 0 ? null : (
          <div
            key={row}
            className="strip-line"
            style={{ '--key': `${keyMm}mm`, '--columns': page.data.columns } as CSSProperties}
          >
            {line.map(({ id, data }) => (
              <span key={id} data-tint={data.tint} style={{ gridColumn: `${data.col + 1} / span ${data.cols}` }}>
                {labels.get(id)}
              </span>
            ))}
          </div>
        ),
      )}
    </section>
  );
}
