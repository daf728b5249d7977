'use client';

import { X } from 'lucide-react';
import { sampleFrom } from '../../core/driver';
import type { WireRow } from '../../core/live';
import { compiledOf, driverOfDevice, useShow } from '../desk';
import { PressAccount } from '../explain';
import { Button, tellDone, tellRefused } from '../kit';
import { bytesText, clockText, VeiledText } from '../parts';

interface Props {
  readonly row: WireRow;
  readonly tag: string;
  readonly meaning: string;
  /** It is from a capture: no press is known for it. */
  readonly isCaptured: boolean;
  readonly onClose: () => void;
}

/** Copies a frame with what its driver reads in it, for the samples of a driver document. */
function CopySample({ row }: { readonly row: WireRow }) {
  const { show } = useShow();
  const document = show && driverOfDevice(show, row.device);
  const driver = document && compiledOf(document);
  const sample = driver && sampleFrom(driver, row.hex, row.name);
  if (!sample) return null;
  const copy = () =>
    navigator.clipboard.writeText(JSON.stringify(sample, undefined, 2)).then(
      () => tellDone('Sample copied. Paste it into the samples of a driver document.', 'sample'),
      () => tellRefused('The browser does not allow copying here.', 'sample'),
    );
  return (
    <Button className="mt-1 justify-self-start" onClick={() => void copy()}>
      Copy as a sample
    </Button>
  );
}

const ways = { out: 'sent', in: 'received', note: 'note' } as const;

/** One row of the wire in full: its bytes, what they mean, and the press that they belong to. */
export function WireDetail({ row, tag, meaning, isCaptured, onClose }: Props) {
  const { hex, note, press } = row;
  return (
    <aside className="grid h-full content-start gap-4 overflow-y-auto px-4 py-3" aria-label="Details of the row">
      <header className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <h2 className="text-[17px] font-semibold">
            <VeiledText text={meaning || note || `${tag}, ${ways[row.dir]}`} />
          </h2>
          <p className="text-ink-soft">
            {tag} · {ways[row.dir]} at {clockText(row.at)} · {hex.length / 2} bytes
          </p>
        </div>
        <Button kind="ghost" aria-label="Close the details" onClick={onClose}>
          <X size={18} aria-hidden />
        </Button>
      </header>
      <section className="grid gap-1" aria-label="Bytes">
        <p className="bg-raised p-2 font-mono text-[0.93em] break-all whitespace-pre-wrap">
          <VeiledText text={bytesText(hex)} />
        </p>
        <p className="p-2 font-mono text-[13px] break-words text-ink-soft">{hex.replace(/../g, '$& ').trim()}</p>
        {note && meaning && <p className="px-2 text-ink-soft">{note}</p>}
        {row.dir === 'in' && <CopySample row={row} />}
      </section>
      {isCaptured ? null : press === undefined ? (
        <p className="text-ink-soft">
          {row.dir === 'in' ? 'This is not an answer to a press.' : 'The program sent this itself; no press caused it.'}
        </p>
      ) : (
        <section className="grid gap-2" aria-label="The press it belongs to">
          <h3 className="font-semibold">The press it belongs to</h3>
          <PressAccount press={press} />
        </section>
      )}
    </aside>
  );
}
