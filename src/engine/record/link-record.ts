import type { LinkChange } from '../parts';
import type { AsRunEntry } from './as-run';

/** Changes that each get a row. After these, a link that has not been calm in between is unsteady, and its changes are counted. */
const eachOnRecord = 6;
/** A link without a change for this long is calm again. */
const calmAfterMs = 10_000;
/** An unsteady link gets one row in this time. */
const summaryEveryMs = 60_000;

interface Known {
  changes: number;
  /** Changes since the last row. */
  counted: number;
  last: AsRunEntry & { readonly kind: 'link' };
  calm: NodeJS.Timeout;
  summary: NodeJS.Timeout | undefined;
}

/** Records the links: each change of a steady one, and a count of the changes of an unsteady one. */
export class LinkRecord {
  private readonly known = new Map<string, Known>();

  constructor(private readonly record: (entry: AsRunEntry) => void) {}

  onLink({ device, status: { tag, link }, isPassing }: LinkChange): void {
    if (isPassing || link.word === 'off') return;
    const last = { kind: 'link', device: tag, link } as const;
    const before = this.known.get(device);
    clearTimeout(before?.calm);
    const calm = setTimeout(() => this.isCalm(device), calmAfterMs);
    const known = before ?? { changes: 0, counted: 0, last, calm, summary: undefined };
    this.known.set(device, known);
    known.calm = calm;
    known.last = last;
    known.changes += 1;
    if (known.changes <= eachOnRecord) return this.record(last);
    known.counted += 1;
    known.summary ??= setTimeout(() => this.sumUp(known), summaryEveryMs);
  }

  /** Devices whose links are unsteady now, with the number of changes. */
  get flapping(): readonly { readonly device: string; readonly changes: number }[] {
    return [...this.known.values()].flatMap(({ changes, last }) =>
      changes > eachOnRecord ? [{ device: last.device, changes }] : [],
    );
  }

  stop(): void {
    for (const [device, known] of this.known) {
      clearTimeout(known.calm);
      this.isCalm(device);
    }
  }

  private isCalm(device: string): void {
    const known = this.known.get(device);
    this.known.delete(device);
    if (known) this.sumUp(known);
  }

  private sumUp(known: Known): void {
    clearTimeout(known.summary);
    known.summary = undefined;
    if (known.counted > 0) this.record({ ...known.last, changes: known.counted });
    known.counted = 0;
  }
}
