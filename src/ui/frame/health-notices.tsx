'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { tellMended, tellNotice } from '../kit';
import { useStatus } from '../live';

const subject = 'health';

/** Tells on every other page of the desk what has gone beyond its limit, in one notice, until it is over or somebody has acknowledged it. */
export function HealthNotices() {
  const open = useStatus()?.health?.open;
  const isThere = usePathname().startsWith('/health');
  /** What somebody has dismissed is not told again. */
  const told = useRef<ReadonlySet<string>>(new Set());
  useEffect(() => {
    if (!open) return;
    const isNew = open.some(({ id }) => !told.current.has(id));
    told.current = new Set(open.map(({ id }) => id));
    if (isThere || open.length === 0) return tellMended(subject);
    if (!isNew) return;
    const [first] = open;
    const more = open.length - 1;
    const notice = (
      <>
        {first?.text}
        {more > 0 && (more === 1 ? ' And 1 more.' : ` And ${more} more.`)}{' '}
        <Link className="underline" href="/health">
          Open Health
        </Link>
      </>
    );
    tellNotice(notice, subject);
  }, [open, isThere]);
  return null;
}
