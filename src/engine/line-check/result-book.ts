import { appendFileSync, existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { checkResultSchema, type CheckResult, type ItemResults } from '../../core/line-check';
import { scalarSchema } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { Log } from '../../log';

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

/** A file that is longer than this at a start is written anew with the newest results only. */
const compactAboveBytes = 1024 * 1024;

/**
 * The newest result of each proof of each item, kept in the data folder: a line for each, in the system's hands before the call
 * returns, so that a result outlives the engine.
 */
export class ResultBook {
  private readonly results = new Map<string, ItemResults>();
  /** Trials whose end is not known, by item: they were cut off, or the program ended meanwhile. */
  private readonly interrupted = new Map<string, Begun>();
  private readonly path: string;
  private isFailing = false;

  constructor(
    dataDir: string,
    private readonly log: Log,
  ) {
    this.path = join(dataDir, 'line-check.jsonl');
    const text = existsSync(this.path) ? readFileSync(this.path, 'utf8') : '';
    for (const each of text.split('\n')) {
      const line = read(each);
      if (!line) continue;
      if (line.t === 'begun') this.interrupted.set(line.item, line);
      else if (line.t === 'dismissed') this.forgetLeft(line.item);
      else {
        const { t: _, ...result } = line;
        if (result.by === 'put-back') this.interrupted.delete(result.item);
        this.keep(result);
      }
    }
    if (text.length > compactAboveBytes) this.compact();
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
    this.append({ t: 'result', ...result });
  }

  begin(item: string, fingerprint: string, device: string, before: ReadonlyMap<string, Scalar>): void {
    this.append({ t: 'begun', item, fingerprint, device, before: [...before] });
  }

  /** A trial was cut off: it counts as begun until its device has been looked at. */
  cutOff(item: string, fingerprint: string, device: string, before: ReadonlyMap<string, Scalar>): void {
    this.interrupted.set(item, { t: 'begun', item, fingerprint, device, before: [...before] });
    this.begin(item, fingerprint, device, before);
  }

  /** Somebody has dealt with what an item has left changed. */
  dismiss(item: string): void {
    this.forgetLeft(item);
    this.append({ t: 'dismissed', item });
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

  private append(line: z.output<typeof lineSchema>): void {
    try {
      appendFileSync(this.path, `${JSON.stringify(line)}\n`, { mode: 0o600 });
      this.isFailing = false;
    } catch (cause) {
      // The result is still shown; it only does not outlive the engine.
      if (!this.isFailing) this.log.warn({ cause }, 'Results of the line check cannot be written.');
      this.isFailing = true;
    }
  }

  private compact(): void {
    const rows = [...this.results.values()].flatMap((each) => Object.values(each));
    const lines = [...rows.map((result) => ({ t: 'result', ...result })), ...this.interrupted.values()];
    const text = lines.map((line) => `${JSON.stringify(line)}\n`).join('');
    try {
      writeFileSync(`${this.path}.new`, text, { mode: 0o600 });
      renameSync(`${this.path}.new`, this.path);
    } catch (cause) {
      this.log.warn({ cause }, 'The results of the line check could not be written anew.');
    }
  }
}

function read(text: string): z.output<typeof lineSchema> | undefined {
  if (text === '') return undefined;
  try {
    return lineSchema.parse(JSON.parse(text));
  } catch {
    // A line that an earlier engine did not finish, or that a later version wrote: the item is due again.
    return undefined;
  }
}
