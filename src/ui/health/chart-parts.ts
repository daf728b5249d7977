import type { ChartDataset } from 'chart.js';

type Points = ChartDataset<'line', { x: number; y: number }[]>;

/** The colours of the theme that is on. */
export function chartInks(): { readonly ink: string; readonly soft: string; readonly rule: string } {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(name) || '#888';
  return { ink: of('--ink'), soft: of('--ink-soft'), rule: of('--rule') };
}

/** A broken line at what is usual. */
export const usualLine = (usual: number | undefined, from: number, to: number, borderColor: string): Points => ({
  data: usual === undefined ? [] : [from, to].map((x) => ({ x, y: usual })),
  borderColor,
  borderWidth: 1,
  borderDash: [4, 4],
  pointRadius: 0,
});
