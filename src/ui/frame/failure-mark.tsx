'use client';

import { useQuery } from '@tanstack/react-query';
import type { HealthResponse } from '../../core/live';
import { useStatus } from '../live';
import { Button, buttonClass, Dialog } from '../kit';
import { Cross } from '../parts';

const timeOf = (at: number): string => new Date(at).toLocaleTimeString([], { hour12: false });

/** A quiet mark when something of the program itself has failed, with what it was and a report to send to somebody who can look into it. */
export function FailureMark() {
  const failures = useStatus()?.failures ?? null;
  if (!failures) return null;
  return (
    <Dialog
      title="Errors in the program"
      description="Sorrelfinch had an internal error. The show continues with everything that still works. Save the report and send it to your support contact: it contains logs, figures and the show, but no passwords, user names or addresses."
      trigger={
        <Button kind="ghost" title={`Last at ${timeOf(failures.lastAt)}`}>
          <Cross />
          {failures.count === 1 ? '1 program error' : `${failures.count} program errors`}
        </Button>
      }
      acts={
        <a className={buttonClass({ kind: 'strong' })} href="/api/report" download>
          Save report
        </a>
      }
    >
      <FailureList />
    </Dialog>
  );
}

function FailureList() {
  const { data = [], isError } = useQuery({
    queryKey: ['failures'],
    queryFn: async () => ((await (await fetch('/api/health')).json()) as HealthResponse).failures,
    refetchInterval: 5000,
  });
  if (isError) return <p role="status">The engine does not answer. Try again in a moment.</p>;
  return (
    <ul className="max-h-64 overflow-y-auto" aria-label="The last errors">
      {data.toReversed().map(({ at, process, part, message, cause }, n) => (
        <li key={n} className="border-t border-[var(--rule)] py-2 first:border-t-0">
          <span className="text-ink-soft">
            {timeOf(at)} · {part === undefined ? process : `${process}, ${part}`}
          </span>
          <p className="break-words">{cause === undefined ? message : `${message} ${cause}`}</p>
        </li>
      ))}
    </ul>
  );
}
