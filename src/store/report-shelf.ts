import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { checkReportSchema, type CheckReport } from '../core/line-check';
import type { SignedReport } from '../core/live';

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
        const { signed, count, total } = this.parsed(name) ?? {};
        return signed && count && total !== undefined
          ? [{ name, ...signed, passed: count.passed ?? 0, failed: count.failed ?? 0, total }]
          : [];
      });
  }

  /** The reports of a show, by its name, the newest first: they go with its file. */
  of(show: string): readonly CheckReport[] {
    return this.list()
      .flatMap(({ name }) => this.parsed(name) ?? [])
      .filter((report) => report.show === show);
  }

  /** Keeps the signed reports among these that are not here yet; what is no report is left out. Returns how many that were. */
  async keepMissing(reports: readonly unknown[]): Promise<number> {
    let count = 0;
    for (const each of reports) {
      const report = checkReportSchema.safeParse(each);
      if (!report.success || !report.data.signed) continue;
      // The same moment is the same report.
      const isNew = await this.keep(report.data).then(
        () => true,
        () => false,
      );
      if (isNew) count += 1;
    }
    return count;
  }

  /** Keeps a report under its time. Fails when there is one of the same moment. */
  async keep(report: CheckReport): Promise<string> {
    const name = `line-check-${new Date(report.at).toISOString().slice(0, 23).replace(/[:.]/g, '-')}.json`;
    mkdirSync(this.folder, { recursive: true });
    await writeFile(join(this.folder, name), JSON.stringify(report), { flag: 'wx', mode: 0o400 });
    return name;
  }

  private parsed(name: string): CheckReport | undefined {
    try {
      return checkReportSchema.parse(JSON.parse(readFileSync(join(this.folder, name), 'utf8')));
    } catch {
      // Somebody has put something else there.
      return undefined;
    }
  }

  /** The text of a report; `undefined` when there is none of this name. */
  async read(name: string): Promise<string | undefined> {
    if (!nameOf.test(name)) return undefined;
    return readFile(join(this.folder, name), 'utf8').catch(() => undefined);
  }
}
