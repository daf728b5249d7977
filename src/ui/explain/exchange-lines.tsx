'use client';

import { useMemo } from 'react';
import type { ExchangeLine } from '../../core/diagnosis';
import type { WireRow } from '../../core/live';
import { bytesText, durationText, VeiledText, WireWay } from '../parts';
import { useMeanings } from './use-meanings';

interface Props {
  /** The device of the rig; without it the bytes are shown, and not what they mean. */
  readonly device: string | undefined;
  readonly lines: readonly ExchangeLine[];
}

/** How a conversation with a device began: its bytes, with what they mean. */
export function ExchangeLines({ device = '', lines }: Props) {
  const meaningOf = useMeanings();
  const rows = useMemo(
    () => lines.map((line, n) => ({ line, row: { n, at: 0, device, ...line } satisfies WireRow })),
    [device, lines],
  );
  return (
    <ol aria-label="Bytes of the test" className="grid gap-1 text-[13px]">
      {rows.map(({ line, row }) => (
        <li key={row.n} className="grid grid-cols-[1.25rem_minmax(0,1fr)_4rem] gap-1.5">
          <WireWay dir={line.dir} />
          <span>
            <span className="font-mono break-all">
              <VeiledText text={bytesText(line.hex)} />
            </span>
            {line.more !== undefined && <span className="text-ink-soft"> and {line.more} more bytes</span>}
            <span className="block text-ink-soft">
              <VeiledText text={meaningOf(row)} />
            </span>
          </span>
          <span className="text-right font-mono text-ink-soft">{durationText(line.ms)}</span>
        </li>
      ))}
    </ol>
  );
}
