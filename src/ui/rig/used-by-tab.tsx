'use client';

import Link from 'next/link';
import { useMemo } from 'react';
import { usersOfDevice, type DeskView, type DeviceRecord, type DeviceUses } from '../../core/show';

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly uses: DeviceUses | undefined;
}

/** What would no longer work without the device: its controls page by page, and everything else that names it. */
export function UsedByTab({ show, device, uses }: Props) {
  const { tag } = device.data;
  const pages = useMemo(() => {
    const counts = new Map<string, number>();
    for (const { page } of usersOfDevice(show.records, device.id).controls)
      counts.set(page, (counts.get(page) ?? 0) + 1);
    return [...counts];
  }, [show, device]);
  if (!uses) return <p className="text-ink-soft">Nothing in the show uses {tag} yet.</p>;
  return (
    <>
      {pages.length > 0 && (
        <>
          <p>
            <Link
              href={`/pages?edit=1&find=${tag}`}
              aria-label={`${countText(uses.controls)} with ${tag}: find them on the pages`}
              className="underline decoration-dotted underline-offset-3"
            >
              {countText(uses.controls)}: find them on the pages
            </Link>
          </p>
          <ul aria-label={`Pages that use ${tag}`} className="my-2">
            {pages.map(([page, count]) => (
              <li key={page} className="flex justify-between border-b border-rule py-1.5">
                <span>{page}</span>
                <span className="text-ink-soft">{countText(count)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {uses.others.length > 0 && (
        <ul aria-label={`Also uses or is used by ${tag}`}>
          {uses.others.map((each) => (
            <li key={each} className="border-b border-rule py-1.5">
              {each}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

const countText = (count: number): string => (count === 1 ? '1 control' : `${count} controls`);
