'use client';

import type { CheckItemView } from '../../core/live';
import { Button } from '../kit';

interface Props {
  readonly items: readonly CheckItemView[];
  readonly names: ReadonlyMap<string, string>;
  readonly onOpen: (item: string) => void;
}

/** What the check has changed and could not put back: it stays on top until somebody has dealt with it. */
export function LeftChanged({ items, names, onOpen }: Props) {
  const left = items.filter(({ results }) => results.some((result) => (result.left?.length ?? 0) > 0));
  if (left.length === 0) return null;
  return (
    <ul className="mb-3 grid gap-1.5 bg-fault px-2.5 py-2 text-fault-ink" aria-label="Left changed">
      {left.map(({ id, title, devices }) => (
        <li key={id} className="flex flex-wrap items-center gap-2.5">
          <b>{names.get(devices[0] ?? '') ?? 'A device'}</b> is not as it was before “{title}” was tried.
          <Button onClick={() => onOpen(id)}>Show what was changed</Button>
        </li>
      ))}
    </ul>
  );
}
