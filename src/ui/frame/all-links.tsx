'use client';

import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { inNumberOrder } from '../../core/number-order';
import { isWell } from '../../core/session';
import { PopoverPanel } from '../kit';
import { useStatus } from '../live';
import { LinkWord } from '../parts';

/** Opens the list of all links; those that are not up come first. */
export function AllLinks({ children }: { readonly children: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <PopoverPanel label="All links" className="max-h-[70vh] overflow-y-auto p-3">
        <Links />
      </PopoverPanel>
    </Popover.Root>
  );
}

/** Sorted only while it is open: the status changes many times a second. */
function Links() {
  const status = useStatus();
  const devices = Object.entries(status?.devices ?? {}).sort(
    ([, a], [, b]) => Number(isWell(a.link.word)) - Number(isWell(b.link.word)) || inNumberOrder(a.tag, b.tag),
  );
  if (devices.length === 0) return <p className="text-ink-soft">No devices in the rig yet.</p>;
  return (
    <ul aria-label="All links" className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-x-4 gap-y-1">
      {devices.map(([id, { tag, link }]) => (
        <li key={id} className="flex flex-wrap items-baseline gap-2">
          <span className="min-w-9 font-mono text-[0.93em] font-semibold">{tag}</span> <LinkWord link={link} />
        </li>
      ))}
    </ul>
  );
}
