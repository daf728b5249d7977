import { inNumberOrder } from '../number-order';
import type { AsRunRow } from './topics';

/** One send and how long it took until the device had confirmed it. */
export interface Delay {
  readonly at: number;
  readonly ms: number;
  readonly device: string;
  readonly command: string;
  readonly late: boolean;
}

export interface DelaySummary {
  readonly device: string;
  readonly count: number;
  readonly p50: number;
  readonly p95: number;
  readonly most: number;
  readonly late: number;
}

/** Every send in these rows whose end a device has told: what was only sent, skipped or lost took no time that says anything. */
export function delaysOf(rows: readonly AsRunRow[]): Delay[] {
  return rows.flatMap((row) =>
    row.kind === 'press'
      ? row.sends.flatMap(({ device, command, ms, outcome }) =>
          outcome === 'confirmed' || outcome === 'late' || outcome === 'refused'
            ? [{ at: row.at, ms, device, command, late: outcome === 'late' }]
            : [],
        )
      : [],
  );
}

/** By device, in the order of their tags. The percentiles are those of the nearest rank. */
export function summaryOf(delays: readonly Delay[]): DelaySummary[] {
  const by = new Map<string, Delay[]>();
  for (const delay of delays) {
    const own = by.get(delay.device);
    if (own) own.push(delay);
    else by.set(delay.device, [delay]);
  }
  return [...by]
    .sort(([a], [b]) => inNumberOrder(a, b))
    .map(([device, own]) => {
      const sorted = own.map(({ ms }) => ms).sort((a, b) => a - b);
      const rank = (share: number) => sorted[Math.max(0, Math.ceil(share * sorted.length) - 1)] ?? 0;
      return {
        device,
        count: sorted.length,
        p50: rank(0.5),
        p95: rank(0.95),
        most: sorted.at(-1) ?? 0,
        late: own.filter(({ late }) => late).length,
      };
    });
}
