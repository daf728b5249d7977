import type { PageLayout } from '../../core/live';

/** What the tints on a page stand for. */
export function Legend({ legend }: Pick<PageLayout, 'legend'>) {
  if (legend.length === 0) return null;
  return (
    <ul className="legend" aria-label="What the tints stand for">
      {legend.map(({ tint, text }) => (
        <li key={tint}>
          <i data-tint={tint} aria-hidden />
          {text}
        </li>
      ))}
    </ul>
  );
}
