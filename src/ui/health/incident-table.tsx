'use client';

import type { HealthView } from '../../core/live';
import { EmptyState, tableClass } from '../kit';
import { ageText, clockText, Cross, VeiledText } from '../parts';

interface Props {
  readonly incidents: HealthView['incidents'];
  readonly open: string | undefined;
  readonly now: number;
  readonly onOpen: (incident: string) => void;
}

/** Everything that went beyond its limit, the newest first. */
export function IncidentTable({ incidents, open, now, onOpen }: Props) {
  if (incidents.length === 0)
    return <EmptyState title="No incidents.">Nothing has gone beyond its limit so far.</EmptyState>;
  return (
    <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label="Incidents">
      <table className={tableClass}>
        <thead>
          <tr>
            <th scope="col">Began</th>
            <th scope="col">What</th>
            <th scope="col">Lasted</th>
            <th scope="col">Acknowledged by</th>
          </tr>
        </thead>
        <tbody>
          {incidents.map(({ id, from, to, text, seen }) => (
            <tr key={id} className={id === open ? 'bg-raised' : ''}>
              <td className="whitespace-nowrap text-ink-soft tabular-nums">
                {new Date(from).toLocaleDateString()} {clockText(from, false)}
              </td>
              <td>
                <button
                  type="button"
                  className="text-left hover:underline"
                  aria-expanded={id === open}
                  onClick={() => onOpen(id)}
                >
                  {to === null && <Cross />}
                  <VeiledText text={text} />
                </button>
              </td>
              <td className="whitespace-nowrap tabular-nums">
                {to === null ? (now > 0 ? `${ageText(now - from)} so far` : 'goes on') : ageText(to - from)}
              </td>
              <td>{seen?.who ?? '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
