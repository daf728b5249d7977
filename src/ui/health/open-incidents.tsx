'use client';

import type { HealthView } from '../../core/live';
import { Button } from '../kit';
import { ageText, Cross, VeiledText } from '../parts';
import { SeenDialog } from './seen-dialog';

interface Props {
  readonly incidents: HealthView['incidents'];
  readonly now: number;
  readonly onOpen: (incident: string) => void;
}

/** What is beyond its limit now. What somebody has seen is quiet, but stays until it is well again. */
export function OpenIncidents({ incidents, now, onOpen }: Props) {
  const lasting = incidents.filter(({ to }) => to === null);
  if (lasting.length === 0) return null;
  return (
    <ul aria-label="Incidents that go on" className="mb-3 grid border-t border-rule-strong">
      {lasting.map((incident) => (
        <li
          key={incident.id}
          className={`flex min-h-11 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-2 py-1 ${
            incident.seen ? 'text-ink-soft' : 'border-l-4 border-l-fault'
          }`}
        >
          <span className={`min-w-0 flex-[1_1_320px] ${incident.seen ? '' : 'font-semibold'}`}>
            {!incident.seen && <Cross />}
            <VeiledText text={incident.text} />
          </span>
          <span className="text-ink-soft">
            {now > 0 && `for ${ageText(now - incident.from)}`}
            {incident.seen && `, seen by ${incident.seen.who}`}
          </span>
          <Button aria-label={`Details: ${incident.text}`} onClick={() => onOpen(incident.id)}>
            Details
          </Button>
          {!incident.seen && <SeenDialog incident={incident} />}
        </li>
      ))}
    </ul>
  );
}
