'use client';

import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import type { DeviceHealth, DeviceHistory, HealthView, StatusView } from '../../core/live';
import { Button, buttonClass } from '../kit';
import { clockText, durationText, LinkWord } from '../parts';

const HistoryChart = dynamic(() => import('./history-chart'), { ssr: false });

interface Props {
  readonly id: string;
  readonly device: StatusView['devices'][string] | undefined;
  readonly health: DeviceHealth | undefined;
  readonly incidents: HealthView['incidents'];
  readonly onIncident: (incident: string) => void;
  readonly onClose: () => void;
}

const refreshMs = 10_000;

/** One device: its answers over minutes and hours, and what has happened to it. */
export function DeviceDetail({ id, device, health, incidents, onIncident, onClose }: Props) {
  const { data, error } = useQuery({
    queryKey: ['history', id],
    queryFn: async ({ signal }): Promise<DeviceHistory> => {
      const answer = await fetch(`/api/devices/${id}/history`, { signal });
      if (!answer.ok) throw new Error('The engine does not answer. Try again in a moment.');
      return (await answer.json()) as DeviceHistory;
    },
    refetchInterval: refreshMs,
  });
  const usual = health?.usual;
  const own = incidents.filter(({ about }) => about.kind === 'device' && about.id === id);
  return (
    <aside className="grid h-full content-start gap-4 overflow-y-auto px-4 py-3" aria-label="Health of the device">
      <header className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <h2 className="text-[17px] font-semibold">
            {device ? `${device.tag} ${device.name}` : 'This device is no longer in the rig.'}
          </h2>
          {device && <LinkWord link={device.link} />}
        </div>
        <Button kind="ghost" aria-label="Close the details" onClick={onClose}>
          <X size={18} aria-hidden />
        </Button>
      </header>
      {health?.concerns.map(({ code, level, text }) => (
        <p key={code} className={`border-l-3 pl-2.5 ${level === 'crossed' ? 'border-fault' : 'border-warning'}`}>
          {text}
          {level === 'rising' && <span className="text-ink-soft"> Near its limit.</span>}
        </p>
      ))}
      {error && <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{error.message}</p>}
      {data && <History title="Last 10 minutes" spans={data.minutes} usual={usual?.ms} />}
      {data && data.hours.length > 1 && <History title="Last 12 hours" spans={data.hours} usual={usual?.ms} />}
      <p className="text-ink-soft">
        Bold line: half of the answers came within this time. Thin line: the longest answer.
        {usual &&
          ` Broken line: ${durationText(usual.ms)}, measured ${usual.from === 'line check' ? 'at the line check' : 'when the program started'}.`}
      </p>
      <p className="flex flex-wrap gap-2.5">
        <Link className={buttonClass()} href="/rig">
          Open the rig
        </Link>
        <Link className={buttonClass()} href="/line-check">
          Open the line check
        </Link>
      </p>
      {own.length > 0 && (
        <section aria-label="Incidents of this device">
          <h3 className="font-semibold">Incidents</h3>
          <ul>
            {own.slice(0, 10).map((incident) => (
              <li key={incident.id} className="border-t border-rule py-1.5">
                <button type="button" className="text-left hover:underline" onClick={() => onIncident(incident.id)}>
                  <span className="text-ink-soft tabular-nums">{clockText(incident.from, false)}</span> {incident.text}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </aside>
  );
}

interface HistoryProps {
  readonly title: string;
  readonly spans: DeviceHistory['minutes'];
  readonly usual: number | undefined;
}

function History({ title, spans, usual }: HistoryProps) {
  const answers = spans.reduce((sum, span) => sum + span.answers, 0);
  const missed = spans.reduce((sum, span) => sum + span.missed, 0);
  return (
    <section aria-label={title}>
      <h3 className="flex flex-wrap gap-x-3 font-semibold">
        {title}
        <span className="font-normal text-ink-soft">
          {answers.toLocaleString()} answers{missed > 0 && `, ${missed} unanswered`}
        </span>
      </h3>
      <div className="relative h-36">
        {answers === 0 ? (
          <p className="text-ink-soft">Nothing was answered in this time.</p>
        ) : (
          <HistoryChart label={`${title}: ${answers} answers`} spans={spans} usual={usual} />
        )}
      </div>
    </section>
  );
}
