'use client';

import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { isWell } from '../../core/session';
import { PopoverPanel } from '../kit';
import { useStatus } from '../live';
import { LinkWord } from '../parts';

/** Opens the list of all links; those that are not up come first. */
export function AllLinks({ children }: { readonly children: ReactNode }) {
  const status = useStatus();
  const devices = Object.entries(status?.devices ?? {}).sort(
    ([, a], [, b]) =>
      Number(isWell(a.link.word)) - Number(isWell(b.link.word)) || a.tag.localeCompare(b.tag, 'en', { numeric: true }),
  );
  return (
    <Popover.Root>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <PopoverPanel label="All links" className="max-h-[70vh] overflow-y-auto p-3">
        {devices.length === 0 && <p className="text-ink-soft">No devices in the rig yet.</p>}
        <ul aria-label="All links" className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-x-4 gap-y-1">
          {devices.map(([id, { tag, link }]) => (
            <li key={id} className="flex flex-wrap items-baseline gap-2">
              <span className="min-w-9 font-mono text-[0.93em] font-semibold">{tag}</span> <LinkWord link={link} />
            </li>
          ))}
        </ul>
      </PopoverPanel>
    </Popover.Root>
  );
}
