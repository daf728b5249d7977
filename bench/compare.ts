import { pause } from './processes';
import type { Path } from './paths';
import { median, summarise, type Summary } from './stats';

export interface Scale {
  /** In one run. */
  readonly events: number;
  readonly runs: number;
}

const gapMs = 1;

/** Two ways, measured in turn, and their ratio by the medians of the runs. */
export async function compare(
  { events, runs }: Scale,
  title: string,
  bare: Path,
  own: Path,
  what: 'press' | 'report',
  budget: Partial<Summary>,
): Promise<void> {
  const results = { bare: [] as Summary[], own: [] as Summary[] };
  for (let run = 0; run < runs; run += 1) {
    results.bare.push(await oneRun(bare, what, events));
    results.own.push(await oneRun(own, what, events));
  }
  console.log(`\n${title}`);
  for (const key of ['p50', 'p99'] as const) {
    const base = median(results.bare.map((each) => each[key]));
    const ours = median(results.own.map((each) => each[key]));
    const ratio = ours / base;
    const limit = budget[key];
    const verdict = limit === undefined ? '' : ratio <= limit ? `  within ${limit}x` : `  OVER ${limit}x`;
    console.log(
      `  ${key}  ${bare.name} ${base.toFixed(3)}   ${own.name} ${ours.toFixed(3)}   ratio ${ratio.toFixed(2)}x${verdict}`,
    );
  }
}

async function oneRun(path: Path, what: 'press' | 'report', events: number): Promise<Summary> {
  const samples: number[] = [];
  for (let n = 0; n < events; n += 1) {
    samples.push(await path[what](n));
    await pause(gapMs);
  }
  return summarise(samples);
}
