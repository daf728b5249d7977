import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { Log } from '../../log';
import { replaceFile } from '../record/replace-file';

const keptSchema = z.strictObject({
  /** Until when the program ran, in milliseconds since 1970. */
  seenAt: z.number(),
  /** By watch: what it was switched to, where that is not what its record says, and whether it has fired its only time. */
  watches: z.record(z.string(), z.strictObject({ isOn: z.boolean().optional(), isSpent: z.literal(true).optional() })),
});
type Kept = z.infer<typeof keptSchema>;
export type KeptWatch = Kept['watches'][string];

/** Changes that come at once are written once. */
const writeAfterMs = 50;
const seenEveryMs = 15_000;

/** What the watches know of before this start of the program: until when it ran, and what was switched. */
export class WatchFile {
  /** As it was when this start began; `undefined` at the very first one. */
  readonly before: Kept | undefined;
  private readonly path: string;
  private writing: NodeJS.Timeout | undefined;
  private regular: NodeJS.Timeout | undefined;

  constructor(
    dataDir: string,
    private readonly watches: () => Kept['watches'],
    private readonly log: Log,
  ) {
    this.path = join(dataDir, 'watches.json');
    this.before = this.read();
  }

  /** From now on it is written again and again, so that it is known how long the program was away. */
  start(): void {
    this.regular = setInterval(() => this.soon(), seenEveryMs);
    this.regular.unref();
    this.soon();
  }

  soon(): void {
    if (!this.regular) return;
    this.writing ??= setTimeout(() => void this.write(), writeAfterMs);
  }

  async stop(): Promise<void> {
    if (!this.regular) return;
    clearInterval(this.regular);
    this.regular = undefined;
    await this.write();
  }

  private async write(): Promise<void> {
    clearTimeout(this.writing);
    this.writing = undefined;
    try {
      const kept: Kept = { seenAt: Date.now(), watches: this.watches() };
      await replaceFile(this.path, JSON.stringify(kept));
    } catch (cause) {
      const text = 'The state of the watches could not be saved. It will be lost if the program restarts.';
      this.log.warn({ cause }, text);
    }
  }

  private read(): Kept | undefined {
    let text: string;
    try {
      text = readFileSync(this.path, 'utf8');
    } catch {
      // There is none at the first start.
      return undefined;
    }
    try {
      return keptSchema.parse(JSON.parse(text));
    } catch (cause) {
      this.log.warn({ cause }, 'The saved state of the watches cannot be read. They start as the show defines them.');
      return undefined;
    }
  }
}
