import { spawn } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { createServer, type AddressInfo } from 'node:net';
import { ownId, type InletData, type ShowRecord, type WatchData } from '../../src/core/show';
import type { FleetRig } from './fleet';
import { until } from './rig';

/** What the tests of inlets share: their records, and other programs at the other end. */

export const freeTcpPort = () =>
  new Promise<number>((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

export const freeUdpPort = () =>
  new Promise<number>((resolve) => {
    const socket = createSocket('udp4');
    socket.bind(0, '127.0.0.1', () => {
      const { port } = socket.address();
      socket.close(() => resolve(port));
    });
  });

export const inletRecord = (id: string, port: number, data: Partial<InletData> = {}): ShowRecord => ({
  kind: 'inlet',
  id,
  version: 1,
  data: {
    name: id,
    order: port,
    note: '',
    speaks: 'text',
    over: 'tcp',
    port,
    host: '127.0.0.1',
    from: [],
    on: true,
    ...data,
  },
});

/** A watch that waits for a text, and makes an input ready. */
export const messageWatch = (number: number, text: string, input: number, inlet?: string): ShowRecord => {
  const data: WatchData = {
    name: `Watch ${number}`,
    number,
    order: number,
    note: '',
    when: { is: 'message', text, ...(inlet === undefined ? {} : { inlet }) },
    delayMs: 0,
    quietMs: 0,
    mostPerMinute: 600,
    sends: [{ device: 'dev-SW1', command: 'ready', params: { input } }],
  };
  return { kind: 'watch', id: `watch-${number}`, version: 1, data };
};

/** Resolves when the first so many inlets listen. */
export const allListen = async (f: FleetRig, count: number): Promise<void> => {
  const { readings } = f.rig.engine.running;
  const states = () => Array.from({ length: count }, (_, n) => readings.fresh(ownId, `inlet[${n + 1}].state`));
  await until(states, (now) => now.every((state) => state === 'listening'));
};

/** Runs another program to its end. Returns its status with all that it printed. */
export const run = (
  command: string,
  ...args: string[]
): Promise<{ readonly code: number | null; readonly said: string }> =>
  new Promise((resolve, reject) => {
    const child = spawn(command, args);
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => (said += String(chunk)));
    child.stderr.on('data', (chunk: Buffer) => (said += String(chunk)));
    child.on('error', reject);
    child.on('exit', (code) => resolve({ code, said }));
  });

export const python = async (script: string, ...args: (string | number)[]): Promise<string> => {
  const { code, said } = await run('python3', '-c', script, ...args.map(String));
  if (code !== 0) throw new Error(said);
  return said;
};

interface SwitcherState {
  readonly program: number;
  readonly preview: number;
  readonly aux: readonly number[];
}

export const switcherOf = async (f: FleetRig): Promise<SwitcherState> =>
  (await f.state('SW1')) as unknown as SwitcherState;

/** Input 1 on air and input 2 next, as every test begins. */
export const setSwitcher = async (f: FleetRig): Promise<void> => {
  await f.send('SW1', 'take', { input: 1 });
  await f.send('SW1', 'ready', { input: 2 });
  await until(
    () => switcherOf(f),
    ({ program, preview }) => program === 1 && preview === 2,
  );
  // The engine has heard of it, too: what is asked or followed next begins there.
  await until(
    () => f.reading('SW1', 'program'),
    (program) => program === 1,
  );
};
