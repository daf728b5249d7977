/** The value below which a share of the samples lies. */
function percentile(sorted: readonly number[], share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;
}

export interface Summary {
  readonly p50: number;
  readonly p99: number;
}

export function summarise(samples: readonly number[]): Summary {
  const sorted = [...samples].sort((a, b) => a - b);
  return { p50: percentile(sorted, 0.5), p99: percentile(sorted, 0.99) };
}

export const median = (values: readonly number[]): number =>
  percentile(
    [...values].sort((a, b) => a - b),
    0.5,
  );
