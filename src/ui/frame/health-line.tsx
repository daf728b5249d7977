'use client';

import { Popover } from 'radix-ui';
import { isWell } from '../../core/session';
import { PopoverPanel } from '../kit';
import { useStatus } from '../live';
import { LinkWord } from '../parts';

/** So many that are not well are named in the line; the others are in the list. */
const mostNamed = 4;

/** The state of every link on every screen of the desk: what is well is a number, what is not is named, and all are one click away. */
export function HealthLine() {
  const status = useStatus();
  const devices = Object.entries(status?.devices ?? {}).sort(([, a], [, b]) =>
    a.tag.localeCompare(b.tag, 'en', { numeric: true }),
  );
  if (!status) return <div className="flex-1" />;
  if (devices.length === 0) return <p className="text-ink-soft flex-1">No devices in the rig yet.</p>;
  const unwell = devices.filter(([, { link }]) => !isWell(link.word));
  const named = unwell.slice(0, mostNamed);
  const count = `${devices.length - unwell.length} of ${devices.length} up`;
  return (
    <div className="flex min-w-0 flex-1 items-center gap-4">
      <Popover.Root>
        <Popover.Trigger asChild>
          <button
            type="button"
            aria-label={`All links: ${count}`}
            className="hover:border-ink-soft border-rule text-ink-soft min-h-9 border px-2 whitespace-nowrap"
          >
            {count}
          </button>
        </Popover.Trigger>
        <PopoverPanel label="All links" className="max-h-[70vh] overflow-y-auto p-3">
          <ul aria-label="All links" className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-x-4 gap-y-1">
            {devices.map(([id, { tag, link }]) => (
              <li key={id} className="flex flex-wrap items-baseline gap-2">
                <span className="tag min-w-9">{tag}</span> <LinkWord link={link} />
              </li>
            ))}
          </ul>
        </PopoverPanel>
      </Popover.Root>
      <ul aria-label="Links that are not up" className="flex min-w-0 gap-4 overflow-hidden whitespace-nowrap">
        {named.map(([id, { tag, link }]) => (
          <li key={id}>
            <span className="tag">{tag}</span> <LinkWord link={link} />
          </li>
        ))}
        {unwell.length > named.length && <li className="text-ink-soft">and {unwell.length - named.length} more</li>}
      </ul>
    </div>
  );
}
