import { join } from 'node:path';
import { z } from 'zod';
import { checkResultSchema, type CheckResult, type ItemResults } from '../../core/line-check';
import { scalarSchema } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { Log } from '../../log';
import { LineFile } from '../record/line-file';

/** A trial that changes something has begun: what has to be what again. Its result strikes it out. */
const begunSchema = z.strictObject({
  t: z.literal('begun'),
  item: z.string(),
  fingerprint: z.string(),
  device: z.string(),
  before: z.array(z.tuple([z.string(), scalarSchema])),
});
const lineSchema = z.discriminatedUnion('t', [
  begunSchema,
  checkResultSchema.extend({ t: z.literal('result') }),
  z.strictObject({ t: z.literal('dismissed'), item: z.string() }),
]);
type Begun = z.output<typeof begunSchema>;
type Line = z.output<typeof lineSchema>;

/**
 * The newest result of each proof of each item, kept in the data folder: a line for each, in the system's hands before the call
 * returns, so that a result outlives the engine.
 */
export class ResultBook {
  private readonly results = new Map<string, ItemResults>();
  /** Trials whose end is not known, by item: they were cut off, or the program ended meanwhile. */
  private readonly interrupted = new Map<string, Begun>();
  private readonly file: LineFile<Line>;

  constructor(dataDir: string, log: Log) {
    this.file = new LineFile(join(dataDir, 'line-check.jsonl'), lineSchema, log, 'Results of the line check');
    const { lines, isLong } = this.file.read();
    for (const line of lines) {
      if (line.t === 'begun') this.interrupted.set(line.item, line);
      else if (line.t === 'dismissed') this.forgetLeft(line.item);
      else {
        const { t: _, ...result } = line;
        if (result.by === 'put-back') this.interrupted.delete(result.item);
        this.keep(result);
      }
    }
    if (isLong) this.compact();
  }

  /** When something was proved last, in milliseconds since 1970. */
  get newestAt(): number | null {
    const all = [...this.results.values()].flatMap((each) => Object.values(each).map(({ at }) => at));
    return all.length === 0 ? null : all.reduce((a, b) => Math.max(a, b));
  }

  of(item: string): ItemResults {
    return this.results.get(item) ?? {};
  }

  isInterrupted(device: string): boolean {
    return [...this.interrupted.values()].some((begun) => begun.device === device);
  }

  /** The trials of a device that the end of the program interrupted, each once. */
  takeInterrupted(device: string): readonly Begun[] {
    const taken = [...this.interrupted.values()].filter((begun) => begun.device === device);
    for (const { item } of taken) this.interrupted.delete(item);
    return taken;
  }

  enter(result: CheckResult): void {
    this.keep(result);
    this.file.append({ t: 'result', ...result });
  }

  begin(item: string, fingerprint: string, device: string, before: ReadonlyMap<string, Scalar>): void {
    this.file.append({ t: 'begun', item, fingerprint, device, before: [...before] });
  }

  /** A trial was cut off: it counts as begun until its device has been looked at. */
  cutOff(item: string, fingerprint: string, device: string, before: ReadonlyMap<string, Scalar>): void {
    this.interrupted.set(item, { t: 'begun', item, fingerprint, device, before: [...before] });
    this.begin(item, fingerprint, device, before);
  }

  /** Somebody has dealt with what an item has left changed. */
  dismiss(item: string): void {
    this.forgetLeft(item);
    this.file.append({ t: 'dismissed', item });
  }

  private forgetLeft(item: string): void {
    const { 'put-back': result, ...others } = this.of(item);
    if (!result) return;
    const { left: _, ...rest } = result;
    this.results.set(item, { ...others, 'put-back': rest });
  }

  private keep(result: CheckResult): void {
    this.results.set(result.item, { ...this.results.get(result.item), [result.by]: result });
  }

  private compact(): void {
    const results = [...this.results.values()].flatMap((each) => Object.values(each));
    this.file.rewrite([...results.map((result): Line => ({ t: 'result', ...result })), ...this.interrupted.values()]);
  }
}
