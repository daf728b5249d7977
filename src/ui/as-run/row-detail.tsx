'use client';

import { X } from 'lucide-react';
import { outcomeOf, reportText, whatOf, whoOfRow, type AsRunRow } from '../../core/live';
import { PressAccount } from '../explain';
import { Button } from '../kit';
import { bytesText, clockText, durationText, OutcomeShape, VeiledText } from '../parts';

type Press = Extract<AsRunRow, { kind: 'press' }>;

/** One row in full: of a press everything from the finger to the lamp, as far as it is known. */
export function RowDetail({ row, onClose }: { readonly row: AsRunRow; readonly onClose: () => void }) {
  return (
    <aside className="grid h-full content-start gap-4 overflow-y-auto px-4 py-3" aria-label="Details of the row">
      <header className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <h2 className="text-[17px] font-semibold">{whatOf(row)}</h2>
          <p className="text-ink-soft">
            <VeiledText text={row.kind === 'press' ? reportText(row) : outcomeOf(row) || '–'} />
          </p>
        </div>
        <Button kind="ghost" aria-label="Close the details" onClick={onClose}>
          <X size={18} aria-hidden />
        </Button>
      </header>
      <Facts row={row} />
      {row.kind === 'press' && <PressAccount press={row.press} otherwise={<Sends row={row} />} />}
      {row.kind === 'note' && (
        <p>
          <VeiledText text={row.text} />
        </p>
      )}
      {row.kind === 'reading' && <p className="text-ink-soft">See Wire for the bytes received at this time.</p>}
    </aside>
  );
}

function Facts({ row }: { readonly row: AsRunRow }) {
  const who = row.kind === 'press' ? '' : whoOfRow(row);
  const facts: readonly (readonly [string, string])[] = [
    ['Time', `${new Date(row.at).toLocaleDateString()} ${clockText(row.at)}`],
    ...(who ? [['By', who] as const] : []),
    ...(row.kind === 'press' ? [['Press id', row.press] as const] : []),
  ];
  return (
    <dl className="grid grid-cols-[76px_1fr] gap-x-4 gap-y-1">
      {facts.map(([title, text]) => (
        <div key={title} className="contents">
          <dt className="text-ink-soft">{title}</dt>
          <dd className="min-w-0 break-all">{text}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What the record has of a press whose moments are no longer kept. */
const Sends = ({ row }: { readonly row: Press }) => (
  <ol>
    {row.sends.map((send, n) => (
      <li key={n} className="grid gap-1 border-t border-rule py-2.5">
        <p>
          <span className="font-mono text-[0.93em] font-semibold">{send.device}</span>{' '}
          <b>{send.says ?? send.command}</b>{' '}
          <span className={`outcome outcome-${send.outcome}`}>
            <OutcomeShape outcome={send.outcome} />
            {send.outcome}
          </span>{' '}
          {send.outcome !== 'skipped' && durationText(send.ms)}
        </p>
        {send.reason && (
          <p>
            <VeiledText text={send.reason} />
          </p>
        )}
        {send.bytes === undefined ? (
          <p className="text-ink-soft">No bytes were sent.</p>
        ) : (
          <p className="font-mono text-[13px] break-all">
            <VeiledText text={bytesText(send.bytes)} />
          </p>
        )}
      </li>
    ))}
  </ol>
);
