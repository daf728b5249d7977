'use client';

import { clockText } from '../../core/face';
import type { WatchRecord } from '../../core/show';
import { useNow } from '../live';
import type { WatchNow } from './use-watch-states';

interface Props {
  readonly watches: readonly WatchRecord[];
  readonly stateOf: (number: number) => WatchNow;
  readonly onOpen: (id: string) => void;
}

const mostShown = 4;

/** What happens next by itself, in the order of its time, with how long that is. */
export function ComingUp({ watches, stateOf, onOpen }: Props) {
  const now = useNow();
  const coming = watches
    .flatMap(({ id, data }) => {
      const { nextAt, next } = stateOf(data.number);
      return nextAt === undefined || nextAt < now ? [] : [{ id, name: data.name, nextAt, next }];
    })
    .sort((a, b) => a.nextAt - b.nextAt)
    .slice(0, mostShown);
  if (coming.length === 0 || now === 0) return null;
  return (
    <ol
      aria-label="What comes next"
      className="flex flex-wrap gap-x-5 gap-y-1 border-b border-rule-strong py-2 text-[14px]"
    >
      {coming.map(({ id, name, nextAt, next }) => (
        <li key={id}>
          <button type="button" className="min-h-7 text-left hover:underline" onClick={() => onOpen(id)}>
            <span className="font-mono">{next}</span> <b>{name}</b>{' '}
            <span className="text-ink-soft">in {clockText(Math.ceil((nextAt - now) / 1000))}</span>
          </button>
        </li>
      ))}
    </ol>
  );
}
