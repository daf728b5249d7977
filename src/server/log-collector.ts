import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import build from 'pino-roll';
import pretty from 'pino-pretty';
import type { HealthResponse } from '../core/live';

type Failure = HealthResponse['failures'][number];

interface Sink {
  write(line: string): unknown;
}

/** pino's numbers. */
const levels = { info: 30, warn: 40, error: 50 } as const;
const keptFailures = 20;
const maxLineLength = 16 * 1024;
/** One file grows to this size, and this many older ones are kept beside it. */
const fileSize = '5m';
const olderFiles = 4;

export const logFolder = (dataDir: string): string => join(dataDir, 'logs');

/**
 * Collects what all processes log: readable in a terminal, a line of JSON each elsewhere, and in files that follow each other in the data
 * folder. Keeps the last failures for the health report.
 */
export class LogCollector {
  private readonly sinks: Sink[];
  private readonly kept: Failure[] = [];

  constructor(
    terminal: NodeJS.WriteStream,
    private readonly onFailure: () => void,
  ) {
    this.sinks = [terminal.isTTY ? pretty({ ignore: 'pid,hostname', destination: 1, sync: true }) : terminal];
  }

  /** The last failures, the newest last. */
  get failures(): readonly Failure[] {
    return this.kept;
  }

  /** Also writes to files from now on. Without room on the disk the other outputs go on. */
  async openFiles(dataDir: string): Promise<void> {
    try {
      mkdirSync(logFolder(dataDir), { recursive: true, mode: 0o700 });
      const file = await build({
        file: join(logFolder(dataDir), 'sorrelfinch'),
        extension: '.log',
        size: fileSize,
        limit: { count: olderFiles },
        mode: 0o600,
      });
      // A full disk: what could not be written is lost, and the file is tried again with the next line.
      file.on('error', () => undefined);
      this.sinks.push(file);
    } catch (cause) {
      this.enter('supervisor', 'warn', 'The log files cannot be written.', cause);
    }
  }

  /** Enters something of the supervisor itself. */
  enter(process: string, level: keyof typeof levels, message: string, cause?: unknown): void {
    const more =
      cause === undefined
        ? {}
        : { cause: cause instanceof Error ? { message: cause.message, stack: cause.stack } : cause };
    this.take({ level: levels[level], time: Date.now(), process, msg: message, ...more });
  }

  /** Follows what a process says: its own log lines, and whatever else it or a library prints. */
  follow(process: string, out: Readable | null, err: Readable | null): void {
    eachLine(out, (line) => this.takeLine(process, line, 'info'));
    eachLine(err, (line) => this.takeLine(process, line, line.startsWith('(node:') ? 'warn' : 'error'));
  }

  private takeLine(process: string, line: string, otherwise: keyof typeof levels): void {
    const read = line.startsWith('{') ? readJson(line) : undefined;
    if (read) this.take(read, line);
    else if (line.trim() !== '') this.enter(process, otherwise, line);
  }

  private take(entry: Readonly<Record<string, unknown>>, line = JSON.stringify(entry)): void {
    for (const sink of this.sinks) sink.write(`${line}\n`);
    if (typeof entry.level !== 'number' || entry.level < levels.error) return;
    const { cause } = entry as { cause?: { message?: unknown } };
    this.kept.push({
      at: Number(entry.time),
      process: String(entry.process),
      ...(entry.part === undefined ? {} : { part: String(entry.part) }),
      message: String(entry.msg),
      ...(cause?.message === undefined ? {} : { cause: String(cause.message) }),
    });
    if (this.kept.length > keptFailures) this.kept.shift();
    this.onFailure();
  }
}

/** Lines, also where they come in pieces. One that never ends is cut. */
function eachLine(stream: Readable | null, take: (line: string) => void): void {
  let rest = '';
  stream?.setEncoding('utf8');
  stream?.on('data', (text: string) => {
    const lines = (rest + text).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) take(line);
    if (rest.length > maxLineLength) {
      take(rest);
      rest = '';
    }
  });
  stream?.on('end', () => rest !== '' && take(rest));
}

function readJson(line: string): Readonly<Record<string, unknown>> | undefined {
  try {
    const value: unknown = JSON.parse(line);
    return typeof value === 'object' && value !== null && 'level' in value ? { ...value } : undefined;
  } catch {
    // It only looked like a log line: it is entered as it is.
    return undefined;
  }
}
