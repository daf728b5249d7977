import { open, readdir, stat } from 'node:fs/promises';
import { arch, cpus, platform, release, totalmem } from 'node:os';
import { join } from 'node:path';
import { partsOf } from '../../core/net';
import type { HealthResponse } from '../../core/live';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly dataDir: string;
  readonly show: RunningShow;
  readonly health: () => HealthResponse;
  readonly metrics: () => Promise<string>;
}

const maxLogBytes = 512 * 1024;

/**
 * Everything that somebody needs to look into a failure: health, figures, versions, the log and the show. Without secrets: passwords are in no
 * record, and user names and addresses of devices are left out.
 */
export async function makeReport({ dataDir, show, health, metrics }: Sources): Promise<unknown> {
  const names = [...show.devices.values()].flatMap(({ data: { host, user } }) => [host, user]);
  const veiled = <T>(value: T): T => withoutNames(value, names);
  return {
    madeAt: new Date().toISOString(),
    versions: { node: process.version, platform: `${platform()} ${release()} ${arch()}` },
    computer: { processors: cpus().length, memoryBytes: totalmem() },
    health: veiled(health()),
    metrics: (await metrics()).split('\n'),
    show: {
      name: show.name,
      devices: [...show.devices.values()].map(({ id, data: { host: _, user: __, ...data } }) => ({ id, data })),
      pages: [...show.pages.values()],
      controls: [...show.controls.values()],
      ties: [...show.ties.values()],
      panels: [...show.panels.values()],
      macros: [...show.macros.values()],
    },
    log: veiled(await newestLines(join(dataDir, 'logs'))),
  };
}

/** The same with dots for addresses and for these names, as behind the veil of the desk. */
function withoutNames<T>(value: T, names: readonly string[]): T {
  const veil = (_key: string, each: unknown): unknown =>
    typeof each === 'string'
      ? partsOf(each, names)
          .map(({ text, telling }) => (telling ? '•••' : text))
          .join('')
      : each;
  return JSON.parse(JSON.stringify(value, veil)) as T;
}

/** The newest lines of the newest log file. */
async function newestLines(folder: string): Promise<readonly string[]> {
  // Without a log, or with one that cannot be read, the rest of the report is still of use.
  const names = await readdir(folder).catch(() => []);
  const files = await Promise.all(
    names.map(async (name) => ({ name, ...(await stat(join(folder, name)).catch(() => ({ mtimeMs: 0, size: 0 }))) })),
  );
  const newest = files.sort((a, b) => b.mtimeMs - a.mtimeMs)[0];
  if (!newest || newest.size === 0) return [];
  const file = await open(join(folder, newest.name));
  try {
    const length = Math.min(newest.size, maxLogBytes);
    const { buffer, bytesRead } = await file.read(Buffer.alloc(length), 0, length, newest.size - length);
    const lines = buffer.toString('utf8', 0, bytesRead).split('\n');
    // The first line may be the end of one.
    return (length < newest.size ? lines.slice(1) : lines).filter((line) => line !== '');
  } finally {
    await file.close();
  }
}
