import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { checkReportSchema, type CheckReport } from '../../core/line-check';
import type { SignedReport } from '../../core/live';

const nameOf = /^line-check-[0-9T-]{10,40}\.json$/;

/** Reports that somebody has signed, a file each in the data folder. They are written once and never changed. */
export class ReportShelf {
  private readonly folder: string;

  constructor(dataDir: string) {
    this.folder = join(dataDir, 'line-check-reports');
  }

  /** The newest first. A file that cannot be read is left out. */
  list(): readonly SignedReport[] {
    if (!existsSync(this.folder)) return [];
    return readdirSync(this.folder)
      .filter((name) => nameOf.test(name))
      .sort()
      .reverse()
      .flatMap((name) => {
        try {
          const { signed, count, total } = checkReportSchema.parse(
            JSON.parse(readFileSync(join(this.folder, name), 'utf8')),
          );
          return signed ? [{ name, ...signed, passed: count.passed ?? 0, failed: count.failed ?? 0, total }] : [];
        } catch {
          // Somebody has put something else there.
          return [];
        }
      });
  }

  /** Keeps a report under its time. Fails when there is one of the same moment. */
  async keep(report: CheckReport): Promise<string> {
    const name = `line-check-${new Date(report.at).toISOString().slice(0, 23).replace(/[:.]/g, '-')}.json`;
    mkdirSync(this.folder, { recursive: true });
    await writeFile(join(this.folder, name), JSON.stringify(report), { flag: 'wx', mode: 0o400 });
    return name;
  }

  /** The text of a report; `undefined` when there is none of this name. */
  async read(name: string): Promise<string | undefined> {
    if (!nameOf.test(name)) return undefined;
    return readFile(join(this.folder, name), 'utf8').catch(() => undefined);
  }
}
