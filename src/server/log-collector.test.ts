import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { expect, it, onTestFinished } from 'vitest';
import { until } from '../../test/support/rig';
import { LogCollector, logFolder } from './log-collector';

function made() {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dataDir, { recursive: true, force: true }));
  const lines: Record<string, unknown>[] = [];
  const terminal = { isTTY: false, write: (line: string) => lines.push(JSON.parse(line) as Record<string, unknown>) };
  let told = 0;
  const logs = new LogCollector(terminal as unknown as NodeJS.WriteStream, () => (told += 1));
  return { dataDir, logs, lines, told: () => told };
}

it('takes log lines as they are, and wraps whatever else a process prints', async () => {
  const { logs, lines } = made();
  const [out, err] = [new PassThrough(), new PassThrough()];
  logs.follow('next', out, err);
  out.write('{"level":40,"time":1,"process":"next","msg":"late"}\nplain te');
  out.write('xt\n{"not": "a log line"}\n');
  err.write('(node:7) Warning\nIt broke\n');
  out.end('the end');
  await until(
    () => lines.length,
    (length) => length === 6,
  );
  const said = lines.map(({ level, msg }) => [level, msg]);
  expect(said).toContainEqual([40, 'late']);
  expect(said).toContainEqual([30, 'plain text']);
  expect(said).toContainEqual([30, '{"not": "a log line"}']);
  expect(said).toContainEqual([40, '(node:7) Warning']);
  expect(said).toContainEqual([50, 'It broke']);
  expect(said).toContainEqual([30, 'the end']);
});

it('keeps the last failures with their cause, and tells of each', () => {
  const { logs, told } = made();
  logs.enter('engine', 'info', 'nothing of interest');
  for (let n = 0; n < 30; n += 1) logs.enter('engine', 'error', `failure ${n}`, new Error('why'));
  expect(logs.failures).toHaveLength(20);
  expect(logs.failures.at(-1)).toMatchObject({ process: 'engine', message: 'failure 29', cause: 'why' });
  expect(told()).toBe(30);
});

it('writes to a file in the data folder, and goes on where that cannot be', async () => {
  const { dataDir, logs } = made();
  await logs.openFiles(dataDir);
  logs.enter('engine', 'warn', 'to the file');
  const read = () =>
    readdirSync(logFolder(dataDir)).map((name) => readFileSync(join(logFolder(dataDir), name), 'utf8'));
  await until(read, (texts) => texts.some((text) => text.includes('to the file')));

  const other = made();
  // A file is where the folder should be.
  await other.logs.openFiles(join(dataDir, 'logs', readdirSync(logFolder(dataDir))[0] ?? ''));
  expect(other.lines).toMatchObject([{ level: 40, msg: 'The log files cannot be written.' }]);
});
