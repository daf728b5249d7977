'use client';

import { devicesOfRow, outcomeOf, whatOf, whoOfRow, type AsRunRow } from '../../core/live';
import { Button, bytesText, durationText, outcomeShapes, VeiledText } from '../parts';

/** What stands behind one row: each send with its outcome, its reason and the bytes that went out. */
export function RowDetail({ row, onClose }: { readonly row: AsRunRow; readonly onClose: () => void }) {
  const sends = row.kind === 'press' ? row.sends : [];
  const who = whoOfRow(row);
  return (
    <aside className="row-detail" aria-label="Behind the row">
      <header>
        <h2>{whatOf(row)}</h2>
        <Button kind="ghost" onClick={onClose}>
          Close
        </Button>
      </header>
      <dl className="facts">
        <div>
          <dt>Time</dt>
          <dd className="mono">{new Date(row.at).toISOString()}</dd>
        </div>
        <div>
          <dt>Outcome</dt>
          <dd>
            <VeiledText text={outcomeOf(row) || '–'} />
          </dd>
        </div>
        {who && (
          <div>
            <dt>By</dt>
            <dd>{who}</dd>
          </div>
        )}
        <div>
          <dt>Devices</dt>
          <dd>{devicesOfRow(row).join(', ') || '–'}</dd>
        </div>
      </dl>
      <ol className="row-sends">
        {sends.map((send, n) => (
          <li key={n}>
            <p>
              <span className="tag">{send.device}</span> <b>{send.says ?? send.command}</b>{' '}
              <span className={`outcome outcome-${send.outcome}`}>
                <span aria-hidden>{outcomeShapes[send.outcome]} </span>
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
              <p className="muted">No bytes went out.</p>
            ) : (
              <>
                <p className="mono row-bytes">{bytesText(send.bytes)}</p>
                <p className="mono muted row-bytes">{send.bytes.replace(/../g, '$& ').trim()}</p>
              </>
            )}
          </li>
        ))}
      </ol>
      {row.kind === 'note' && (
        <p>
          <VeiledText text={row.text} />
        </p>
      )}
      {row.kind === 'reading' && <p className="muted">See Wire for the bytes received at this time.</p>}
    </aside>
  );
}
