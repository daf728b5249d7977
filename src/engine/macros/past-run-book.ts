import type { AsRunRow, PastRun } from '../../core/live';
import type { AsRun } from '../record/as-run';

const keptRuns = 50;

/** What became of the last runs of each macro. */
export class PastRunBook {
  private readonly pastOf = new Map<string, PastRun[]>();

  constructor(private readonly record: AsRun['record']) {}

  /** The past runs of a macro, newest first. */
  of(macro: string): readonly PastRun[] {
    return this.pastOf.get(macro) ?? [];
  }

  keep(macro: string, past: PastRun): void {
    this.pastOf.set(macro, [past, ...this.of(macro)].slice(0, keptRuns));
  }

  /** What the record still knows of earlier runs; what was under way when the program ended is said to have been cut off. */
  recall(rows: readonly AsRunRow[]): void {
    const begun = new Map<string, Extract<AsRunRow, { kind: 'begin' }>>();
    for (const row of rows) {
      if (row.kind === 'begin') begun.set(row.run, row);
      else if (row.kind === 'run') {
        begun.delete(row.past.id);
        this.keep(row.macroId, row.past);
      }
    }
    for (const { run: id, macro, macroId, who, aim, at } of begun.values()) {
      const last = rows.findLast((row) => row.kind === 'press' && row.run === id);
      const where = last?.kind === 'press' ? `after “${last.label}”` : 'before its first step';
      const text = `The macro ${macro} was cut off ${where} by the end of the program. It does not go on by itself.`;
      this.record({ kind: 'note', text });
      // Ended with that: the next start says nothing of it again.
      const past: PastRun = {
        id,
        at,
        who,
        aim,
        how: 'stopped',
        reason: text,
        lengthMs: (last?.at ?? at) - at,
        steps: [],
      };
      this.keep(macroId, past);
      this.record({ kind: 'run', macro, macroId, past });
    }
  }
}
