'use client';

import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import type { Incident } from '../../core/health';
import { everything, filterQuery, outcomeOf, whatOf, whoOfRow, type AsRunFilter, type AsRunRow } from '../../core/live';
import { Button, buttonClass } from '../kit';
import { ageText, clockText, VeiledText } from '../parts';
import { SeenDialog } from './seen-dialog';

interface Props {
  readonly incident: Incident;
  readonly onClose: () => void;
}

/** What is shown of the as-run before and after an incident. */
const aroundMs = 30_000;
/** Of a long incident, its beginning tells what led to it. */
const longestMs = 300_000;

/** One incident, with what the as-run has of its time. */
export function IncidentDetail({ incident, onClose }: Props) {
  const { about, text, from, to, seen } = incident;
  const until = Math.min((to ?? from + longestMs) + aroundMs, from + longestMs);
  const filter: AsRunFilter = {
    ...everything,
    // Notes say in their text what they are about.
    ...(about.kind === 'computer' ? {} : { text: about.name }),
    from: from - aroundMs,
    to: until,
  };
  const { data, error, isPending } = useQuery({
    queryKey: ['excerpt', filterQuery(filter)],
    queryFn: async ({ signal }): Promise<{ readonly rows: readonly AsRunRow[] }> => {
      const answer = await fetch(`/desk/as-run?${filterQuery(filter)}`, { signal });
      if (!answer.ok) throw new Error('The as-run could not be read. The desk may be starting; try again.');
      return (await answer.json()) as { rows: readonly AsRunRow[] };
    },
    ...(to === null ? { refetchInterval: 5000 } : {}),
  });
  const rows = (data?.rows ?? []).toReversed();
  return (
    <aside className="grid h-full content-start gap-4 overflow-y-auto px-4 py-3" aria-label="Details of the incident">
      <header className="flex items-start gap-3">
        <h2 className="min-w-0 flex-1 text-[17px] font-semibold">
          <VeiledText text={text} />
        </h2>
        <Button kind="ghost" aria-label="Close the details" onClick={onClose}>
          <X size={18} aria-hidden />
        </Button>
      </header>
      <dl className="grid grid-cols-[110px_1fr] gap-x-4 gap-y-1">
        <Fact title="Began" text={`${new Date(from).toLocaleDateString()} ${clockText(from, false)}`} />
        <Fact title="Lasted" text={to === null ? 'goes on' : ageText(to - from)} />
        <Fact
          title="Acknowledged"
          text={
            seen ? `${seen.who}, ${clockText(seen.at, false)}${seen.note === '' ? '' : `: ${seen.note}`}` : 'by nobody'
          }
        />
      </dl>
      {to === null && !seen && (
        <p>
          <SeenDialog incident={incident} />
        </p>
      )}
      <section aria-label="As-run around the incident">
        <h3 className="mb-1 flex flex-wrap items-center justify-between gap-2 font-semibold">
          As-run around it
          <a className={buttonClass()} href={`/desk/as-run/export?format=csv&${filterQuery(filter)}`}>
            Save as CSV
          </a>
        </h3>
        {error && <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{error.message}</p>}
        {isPending && <p className="text-ink-soft">Searching the as-run …</p>}
        {data && rows.length === 0 && <p className="text-ink-soft">The as-run has nothing about it from this time.</p>}
        <ol>
          {rows.map((row) => (
            <li key={row.n} className="grid grid-cols-[104px_minmax(0,1fr)] gap-x-3 border-t border-rule py-1">
              <span className="text-ink-soft tabular-nums">{clockText(row.at)}</span>
              <span className="min-w-0 break-words">
                <VeiledText text={row.kind === 'note' ? row.text : `${whatOf(row)} · ${outcomeOf(row)}`} />
                {whoOfRow(row) && <span className="text-ink-soft"> by {whoOfRow(row)}</span>}
              </span>
            </li>
          ))}
        </ol>
      </section>
    </aside>
  );
}

const Fact = ({ title, text }: { readonly title: string; readonly text: string }) => (
  <div className="contents">
    <dt className="text-ink-soft">{title}</dt>
    <dd className="min-w-0 break-words">{text}</dd>
  </div>
);
