import { spawn, spawnSync } from 'node:child_process';
import { it } from 'vitest';
import { testRequestSchema, type TestLine, type TestRequest } from '../../src/core/live';
import type { Scalar } from '../../src/core/result';
import type { ShowRecord } from '../../src/core/show';
import { shippedDrivers } from '../../src/drivers';
import type { PressResult } from '../../src/engine/presses/presses';
import { directProber } from './direct-prober';
import { onTestFinished, startRig, until, type TestRig } from './rig';

/** Another end in another language, and a show with one device that reaches it. */

const python = '/usr/bin/python3';
const has = spawnSync(python, ['--version'], { stdio: 'ignore' }).error === undefined;
/** On the machine that decides, nothing of this may be passed over. */
export const foreign = has || process.env.CI ? it : it.skip;

/** Starts a program in Python, which prints its port first; `lines` grows by what it prints afterwards. */
export async function startPython(
  program: string,
  ...args: readonly string[]
): Promise<{ readonly port: number; readonly lines: string[] }> {
  const child = spawn(python, ['-u', '-c', program, ...args], { stdio: ['ignore', 'pipe', 'inherit'] });
  onTestFinished(() => void child.kill());
  const lines: string[] = [];
  let rest = '';
  child.stdout.on('data', (chunk) => {
    const parts = (rest + String(chunk)).split('\n');
    rest = parts.pop() ?? '';
    lines.push(...parts);
  });
  await until(
    () => lines.length,
    (count) => count > 0,
  );
  return { port: Number(lines.shift()), lines };
}

/** A show with one device, `D1`, in a running engine. `document`: a driver that does not ship; `records`: what else is in the show. */
export function start(
  driver: string,
  port: number,
  more: object = {},
  password = '',
  document?: unknown,
  records: readonly ShowRecord[] = [],
): Promise<TestRig> {
  const data = { tag: 'D1', name: 'Device', role: 'gateway', driver, host: '127.0.0.1', port, enabled: true, site: '' };
  return startRig(
    [
      { kind: 'show', id: 'show', version: 1, data: { name: 'Ends', note: '' } },
      { kind: 'device', id: 'dev', version: 1, data: { ...data, user: '', options: {}, ...more } } as ShowRecord,
      ...records,
    ],
    document === undefined ? shippedDrivers : [document],
    password === '' ? {} : { dev: password },
    directProber,
  );
}

let sent = 0;
/** Sends a command to `D1`, and gives the end of it. */
export function send(rig: TestRig, command: string, params: Readonly<Record<string, Scalar>>): Promise<PressResult> {
  const device = rig.engine.api.deviceByTag('D1');
  if (!device) throw new Error('There is no D1.');
  return new Promise((resolve) => {
    const request = {
      id: `truth-${(sent += 1)}`,
      device,
      command,
      params,
      guard: true,
      gesture: 'tap',
      who: 'test',
    } as const;
    rig.engine.api.presses.command(request, (report) => 'sends' in report && resolve(report));
  });
}

/** What a reading of `D1` says now. */
export const reading = (rig: TestRig, key: string): Scalar | undefined =>
  rig.engine.api.readings('D1')?.readings.find((each) => each.key === key)?.value;

export const saysOf = (rig: TestRig, key: string, value: Scalar): Promise<unknown> =>
  until(
    () => reading(rig, key),
    (now) => now === value,
  );

export const linkIs = (rig: TestRig, word: string): Promise<unknown> =>
  until(
    () => rig.engine.api.health().links[0]?.link.word,
    (now) => now === word,
  );

/** What the other end prints may come later than what it answers. */
export const printed = (lines: readonly string[], wanted: readonly string[]) =>
  until(
    () => lines.join(' '),
    (text) => text === wanted.join(' '),
  );

/** The stages of a connection test, as they are told. */
export async function tested(
  rig: TestRig,
  request: TestRequest,
): Promise<readonly Required<Pick<TestLine, 'stage' | 'verdict'>>[]> {
  const lines: TestLine[] = [];
  const wanted = testRequestSchema.parse(request);
  await rig.engine.api.tools?.test(wanted, (line) => lines.push(line), new AbortController().signal);
  return lines.flatMap(({ stage, verdict }) => (stage && verdict ? [{ stage, verdict }] : []));
}
