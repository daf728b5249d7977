'use client';

import type { HealthView } from '../../core/live';
import { EmptyState, tableClass } from '../kit';
import { durationText } from '../parts';

/** Every desk and panel that is connected, with its way to the engine. */
export function ScreenTable({ screens }: { readonly screens: HealthView['screens'] }) {
  const rows = Object.entries(screens);
  if (rows.length === 0) return <EmptyState title="No screens are connected." />;
  return (
    <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label="Health of the screens">
      <table className={tableClass}>
        <thead>
          <tr>
            <th scope="col">Screen</th>
            <th scope="col">Round trip</th>
            <th scope="col">Reconnections in 10 minutes</th>
            <th scope="col">Remark</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, { delayMs, cuts, concerns }]) => (
            <tr key={name}>
              <th scope="row" className="font-semibold!">
                {name}
              </th>
              <td className="tabular-nums">{delayMs === undefined ? '–' : durationText(delayMs)}</td>
              <td className="tabular-nums">{cuts || '–'}</td>
              <td>{concerns[0]?.text}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
