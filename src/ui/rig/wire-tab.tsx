'use client';

import { isQuiet } from '../../core/live';
import { useMeanings } from '../explain';
import { useWire } from '../live';
import { bytesText, clockText, VeiledText, WireWay } from '../parts';

const mostRows = 80;

/** What went over the wire to and from one device, the newest first. Polling that answers as ever is left out. */
export function WireTab({ device }: { readonly device: string }) {
  const meaningOf = useMeanings();
  const rows = (useWire()?.rows ?? [])
    .filter((row) => row.device === device && !isQuiet(row))
    .slice(-mostRows)
    .reverse();
  if (rows.length === 0)
    return <p className="text-ink-soft">Nothing but polling has gone over the wire since this window opened.</p>;
  return (
    <table className="w-full table-fixed text-[13px]" aria-label="Bytes to and from this device">
      <colgroup>
        <col className="w-24" />
        <col className="w-5" />
        <col />
      </colgroup>
      <tbody>
        {rows.map((row) => (
          <tr key={row.n} className="border-b border-rule align-top">
            <td className="py-1 whitespace-nowrap text-ink-soft">{clockText(row.at)}</td>
            <td className="py-1">
              <WireWay dir={row.dir} />
            </td>
            <td className="py-1">
              <span className={row.dir === 'note' ? '' : 'font-mono text-[0.93em] break-all'}>
                <VeiledText text={row.dir === 'note' ? (row.note ?? '') : bytesText(row.hex)} />
              </span>
              {row.dir !== 'note' && (
                <span className="block text-ink-soft">
                  <VeiledText text={meaningOf(row) || (row.note ?? '')} />
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
