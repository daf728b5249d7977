/** One line of the table: what was done, how often, what came of it. */
interface Line {
  readonly attack: string;
  readonly figure: string;
  readonly ok: boolean;
}

const lines: Line[] = [];

/** Enters a line, and prints it at once: a long run shows how far it is. */
export function note(attack: string, figure: string, ok: boolean): void {
  lines.push({ attack, figure, ok });
  console.log(`${ok ? 'held  ' : 'FAILED'}  ${attack.padEnd(44)}  ${figure}`);
}

/** The table, and whether everything held. */
export function finish(): boolean {
  const failed = lines.filter(({ ok }) => !ok);
  console.log(`\n${lines.length - failed.length} of ${lines.length} held.`);
  for (const { attack, figure } of failed) console.log(`FAILED  ${attack}: ${figure}`);
  return failed.length === 0;
}

export const percentile = (values: readonly number[], share: number): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? NaN;
};

export const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks again and again until it is so; false when it was not within the time. */
export async function becomes(ask: () => boolean | Promise<boolean>, withinMs: number): Promise<boolean> {
  const until = performance.now() + withinMs;
  for (;;) {
    try {
      if (await ask()) return true;
    } catch {
      // It does not answer yet.
    }
    if (performance.now() > until) return false;
    await sleep(20);
  }
}
