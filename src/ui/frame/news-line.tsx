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
    <div className="news" role="status">
      {fresh.map(({ n, text, by }) => (
        <p key={n}>
          <span aria-hidden>› </span>
          <VeiledText text={text} />
          {by && <span className="muted"> by {by}</span>}
        </p>
      ))}
    </div>
  );
}
