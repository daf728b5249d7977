'use client';

import { useQuery } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import type { HealthResponse } from '../../core/live';
import { useStatus } from '../live';
import { Button, buttonClass } from '../kit';
import { Cross } from '../parts';

const timeOf = (at: number): string => new Date(at).toLocaleTimeString([], { hour12: false });

/** A quiet mark when something of the program itself has failed, with what it was and a report to send to somebody who can look into it. */
export function FailureMark() {
  const failures = useStatus()?.failures ?? null;
  if (!failures) return null;
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button kind="ghost" title={`Last at ${timeOf(failures.lastAt)}`}>
          <Cross />
          {failures.count === 1 ? '1 program error' : `${failures.count} program errors`}
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[rgb(0_0_0_/_55%)]" />
        <Dialog.Content className="fixed top-[20vh] left-1/2 z-41 grid w-[min(520px,92vw)] -translate-x-1/2 gap-3.5 border border-rule-strong bg-ground px-6 py-5 [&_h2]:text-[20px] [&_h2]:font-[650]">
          <Dialog.Title>Errors in the program</Dialog.Title>
          <Dialog.Description>
            Something in Sorrelfinch itself failed. The show goes on with what still works. To have it looked into, save
            the report and send it. It has logs, figures and the show, without passwords, user names and addresses.
          </Dialog.Description>
          <FailureList />
          <div className="col-span-full flex flex-wrap gap-2.5">
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
            <a className={buttonClass({ kind: 'strong' })} href="/api/report" download>
              Save report
            </a>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
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
