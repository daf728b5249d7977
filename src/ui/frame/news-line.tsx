'use client';

import { useNow, useStatus } from '../live';
import { VeiledText } from '../parts';

const shownMs = 12_000;

/** What somebody has just started or stopped, told to everybody for a while. */
export function NewsLine() {
  const news = useStatus()?.news ?? [];
  const now = useNow();
  const fresh = now === 0 ? [] : news.filter(({ at }) => now - at < shownMs);
  return (
    <div
      className="news pointer-events-none fixed inset-x-0 bottom-0 z-18 over-runs:bottom-[53px] [&_p]:border-t [&_p]:border-rule-strong [&_p]:bg-raised [&_p]:px-4 [&_p]:py-2 [&_p]:font-semibold"
      role="status"
    >
      {fresh.map(({ n, text, by }) => (
        <p key={n}>
          <span aria-hidden>› </span>
          <VeiledText text={text} />
          {by && <span className="text-ink-soft"> by {by}</span>}
        </p>
      ))}
    </div>
  );
}
