import type { PageLayout } from '../../core/live';

/** What the tints on a page stand for. */
export function Legend({ legend }: Pick<PageLayout, 'legend'>) {
  if (legend.length === 0) return null;
  return (
    <ul
      className="flex flex-wrap gap-x-4.5 gap-y-1 pt-2.5 text-[14px] text-ink-soft [&_li]:flex [&_li]:items-center [&_li]:gap-1.75"
      aria-label="What the tints stand for"
    >
      {legend.map(({ tint, text }) => (
        <li key={tint}>
          <i data-tint={tint} aria-hidden />
          {text}
        </li>
      ))}
    </ul>
  );
}
