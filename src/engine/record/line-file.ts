import { appendFileSync, existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { z } from 'zod';
import type { Log } from '../../log';

/** A file that is longer than this is worth writing anew with what still counts. */
const longBytes = 1024 * 1024;

/**
 * A file of JSON values, one a line, that grows at its end: a line is in the system's hands before the call returns, so that it outlives
 * the engine. A line that cannot be read, because it was not finished or comes from a later version, is left out.
 */
export class LineFile<T> {
  private isFailing = false;

  /** @param what it holds, as the beginning of a sentence for the log */
  constructor(
    private readonly path: string,
    private readonly schema: z.ZodType<T>,
    private readonly log: Log,
    private readonly what: string,
  ) {}

  read(): { readonly lines: readonly T[]; readonly isLong: boolean } {
    const text = existsSync(this.path) ? readFileSync(this.path, 'utf8') : '';
    const lines = text.split('\n').flatMap((line) => this.parse(line));
    return { lines, isLong: text.length > longBytes };
  }

  append(line: T): void {
    try {
      appendFileSync(this.path, `${JSON.stringify(line)}\n`, { mode: 0o600 });
      this.isFailing = false;
    } catch (cause) {
      // What it says still holds in this engine; it only does not outlive it.
      if (!this.isFailing) this.log.warn({ cause }, `${this.what} cannot be written.`);
      this.isFailing = true;
    }
  }

  rewrite(lines: readonly T[]): void {
    try {
      writeFileSync(`${this.path}.new`, lines.map((line) => `${JSON.stringify(line)}\n`).join(''), { mode: 0o600 });
      renameSync(`${this.path}.new`, this.path);
    } catch (cause) {
      this.log.warn({ cause }, `${this.what} could not be written anew.`);
    }
  }

  private parse(line: string): readonly T[] {
    if (line === '') return [];
    try {
      return [this.schema.parse(JSON.parse(line))];
    } catch {
      return [];
    }
  }
}
