import { readFileSync } from 'node:fs';
import { createServer as createHttpServer } from 'node:http';
import { connect, createServer, type AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { stageNames, troubleOf } from '../src/core/diagnosis';
import type { TestLine, TestRequest } from '../src/core/live';
import { testRequestSchema } from '../src/core/live';
import type { Prober } from '../src/engine';
import visionSwitcher from '../src/drivers/vision-switcher.json';
import { freePort } from '../src/server/free-port';
import { encoderPassword } from '../src/standins';
import { directProber } from './support/direct-prober';
import { startFleetRig, type FleetRig } from './support/fleet';
import { onTestFinished, runAsOne, until } from './support/rig';

/** The table of docs/connection-test.md, row by row, against the stand-ins and other servers: each trouble is named, and not another. */

const tags = ['SW1', 'C1', 'C4', 'E1', 'R1', 'G1', 'S1'] as const;
type Tag = (typeof tags)[number];
const calm = {
  refuse: false,
  hang: false,
  garbage: false,
  otherPassword: false,
  otherModel: false,
  taken: false,
  delayMs: 0,
  lossPercent: 0,
};

interface Row {
  readonly made: string;
  readonly stage: string;
  readonly named: string;
  readonly offered: string;
}

/** The switcher's driver as if it were for another firmware, and as if it needed a program that listens where nothing does. */
const variants = [
  { ...visionSwitcher, id: 'switcher-later', identity: { ...visionSwitcher.identity, firmwares: ['9.x'] } },
  { ...visionSwitcher, id: 'switcher-helped', helpers: [{ title: 'The key program', port: 1 }] },
];

const rows = readFileSync('docs/connection-test.md', 'utf8')
  .split('\n')
  .flatMap((line): Row[] => {
    const cells = line.split('|').map((cell) => cell.trim());
    const made = /^`([^`]+)`$/.exec(cells[2] ?? '')?.[1];
    const named = (cells[4] ?? '').replaceAll('`', '');
    return made === undefined ? [] : [{ made, stage: cells[3] ?? '', named, offered: cells[5] ?? '' }];
  });

/** What is done at the next question to the prober, before it is answered: the place to let something go wrong meanwhile. */
let meanwhile: (() => Promise<void>) | undefined;
const prober: Prober = {
  ...directProber,
  ask: async (order, signal) => {
    const act = meanwhile;
    meanwhile = undefined;
    await act?.();
    return directProber.ask(order, signal);
  },
};

describe('the connection test', () => {
  let f: FleetRig;
  let end: () => Promise<void>;
  beforeAll(async () => {
    [f, end] = await runAsOne(() => startFleetRig(tags, [], prober, variants));
    for (const tag of tags) await f.linkIs(tag, 'up');
  });
  afterAll(() => end());

  async function test(request: TestRequest): Promise<TestLine[]> {
    const lines: TestLine[] = [];
    const { tools } = f.rig.engine.api;
    if (!tools) throw new Error('no tools');
    await tools.test(testRequestSchema.parse(request), (line) => lines.push(line), new AbortController().signal);
    return lines;
  }
  const device = (tag: Tag) => {
    const record = f.rig.engine.api.deviceByTag(tag);
    if (!record) throw new Error(`no ${tag}`);
    return record;
  };
  const portOf = async (tag: Tag) => Number((await f.state(tag)).port);
  const candidate = (tag: Tag, more: object = {}): TestRequest => {
    const { driver, host, port, user, options } = device(tag).data;
    return { candidate: { driver, host, port, user, options, ...more } };
  };
  /** Switches a fault on, waits until the rig has noticed, and tests. */
  const withFault = async (tag: Tag, fault: object, notices = true): Promise<TestLine[]> => {
    await f.operate(tag, 'faults', fault);
    if (notices)
      await until(
        () => f.link(tag).word,
        (word) => word !== 'up',
        9000,
      );
    return test({ devices: [tag] });
  };
  const as = (tag: Tag, driver: string) => {
    const { host, port } = device(tag).data;
    return test({ candidate: { id: device(tag).id, driver, host, port }, interrupt: true });
  };
  const edited = async (tag: Tag, more: object): Promise<TestLine[]> => {
    const before = device(tag);
    f.rig.edit({
      title: 'Try',
      changes: [{ op: 'update', from: before, to: { ...before, data: { ...before.data, ...more } } }],
    });
    await until(
      () => device(tag).version,
      (version) => version > before.version,
    );
    const lines = await test({ devices: [tag] });
    const now = device(tag);
    f.rig.edit({ title: 'Back', changes: [{ op: 'update', from: now, to: { ...now, data: before.data } }] });
    return lines;
  };

  const make: Readonly<Record<string, () => Promise<TestLine[]>>> = {
    'no address': () => test(candidate('SW1', { host: '' })),
    'multicast address': () => test(candidate('SW1', { host: '239.1.2.3' })),
    'SW1 typed as deck': () => {
      const { host, port } = device('SW1').data;
      return test({ candidate: { id: device('SW1').id, driver: 'replay-deck', host, port } });
    },
    'used twice': () => test(candidate('SW1')),
    'unknown name': () => test(candidate('SW1', { host: 'nobody.invalid' })),
    'switched off': () => edited('SW1', { enabled: false }),
    'driver missing': () => test(candidate('SW1', { driver: 'no-such-driver' })),
    'SW1 refuse': () => withFault('SW1', { refuse: true }),
    'SW1 moved': async () => {
      await f.operate('SW1', 'move', { port: 0 });
      await f.linkIs('SW1', 'down');
      const moved = await portOf('SW1');
      // A rig in which that port is known: the one that the driver usually has would be found as well.
      const spare = {
        ...device('SW1'),
        id: 'dev-spare',
        version: 1,
        data: { ...device('SW1').data, tag: 'SP1', host: '127.0.0.2', port: moved, enabled: false },
      };
      f.rig.edit({ title: 'Spare', changes: [{ op: 'add', record: spare }] });
      await until(
        () => f.rig.engine.api.deviceByTag('SP1'),
        (found) => found !== undefined,
      );
      const lines = await test({ devices: ['SW1'] });
      f.rig.edit({ title: 'Spare', changes: [{ op: 'remove', record: spare }] });
      await f.operate('SW1', 'move', { port: device('SW1').data.port });
      return lines;
    },
    'C1 refuse': () => withFault('C1', { refuse: true }),
    'C4 as over UDP': () => test(candidate('C4', { driver: 'ptz-camera' })),
    'web server': async () => {
      const server = createHttpServer((_req, res) => res.end('hello'));
      await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
      onTestFinished(() => server.close());
      return test(candidate('SW1', { port: (server.address() as AddressInfo).port }));
    },
    'R1 as switcher': () => as('R1', 'vision-switcher'),
    'SW1 as deck': () => as('SW1', 'replay-deck'),
    'SW1 otherModel': () => withFault('SW1', { otherModel: true }),
    'SW1 garbage': () => withFault('SW1', { garbage: true }),
    'C1 garbage': () => withFault('C1', { garbage: true }),
    'SW1 hang': () => withFault('SW1', { hang: true }),
    'R1 hang, tested at once': () => withFault('R1', { hang: true }, false),
    'C1 goes meanwhile': () => {
      meanwhile = async () => {
        await f.operate('C1', 'faults', { refuse: true });
        await f.linkIs('C1', 'down');
      };
      return test({ devices: ['C1'] });
    },
    'G1 taken': () => withFault('G1', { taken: true }),
    'S1 with G1 refuse': async () => {
      await f.operate('G1', 'faults', { refuse: true });
      await f.linkIs('S1', 'down');
      return test({ devices: ['S1'] });
    },
    'S1 refuse': () => withFault('S1', { refuse: true }),
    'SW1 taken': () => withFault('SW1', { taken: true }),
    'C1 taken': () => withFault('C1', { taken: true }),
    'E1 otherPassword': () => withFault('E1', { otherPassword: true }),
    // The same entry, so that its own address and port are not taken for another's.
    'E1 without password': () => {
      const { driver, host, port, user } = device('E1').data;
      return test({ candidate: { id: device('E1').id, driver, host, port, user, password: '' }, interrupt: true });
    },
    'E1 otherModel': async () => {
      const before = f.reading('E1', 'model');
      await f.operate('E1', 'faults', { otherModel: true });
      await until(
        () => f.reading('E1', 'model'),
        (model) => model !== before,
      );
      return test({ devices: ['E1'] });
    },
    'SW1 with six inputs': () => edited('SW1', { options: { inputs: 6 } }),
    'SW1 as later firmware': () => as('SW1', 'switcher-later'),
    'SW1 with a helper': () => as('SW1', 'switcher-helped'),
    'SW1 delay': () => withFault('SW1', { delayMs: 300 }, false),
    'C1 loss': () => withFault('C1', { lossPercent: 25 }, false),
    'SW1 well': () => test({ devices: ['SW1'] }),
  };

  const restore = async () => {
    for (const tag of tags) await f.operate(tag, 'faults', calm);
    for (const tag of tags) {
      if (f.link(tag).word === 'locked out') f.client.say({ t: 'call', device: f.id(tag) });
    }
    for (const tag of tags) await f.linkIs(tag, 'up', 15_000);
  };

  it('is described row by row', () => {
    expect(rows.map(({ made }) => made).sort()).toEqual(Object.keys(make).sort());
  });

  it.each(rows)('names “$made” $named at $stage', async ({ made, stage, named, offered }) => {
    const lines = await (make[made] ?? (() => Promise.reject(new Error('not made'))))();
    const stages = lines.filter((line) => line.verdict !== undefined);
    const trouble = troubleOf(stages.flatMap(({ verdict }) => verdict ?? []));
    const said = JSON.stringify(stages.map(({ stage: at, verdict }) => [at, verdict?.trouble, verdict?.seen]));
    expect([trouble ?? '–', said]).toEqual([named, said]);
    const at = stages.find(({ verdict }) => verdict?.trouble !== undefined);
    expect(at?.stage ?? '–').toBe(stage);
    if (offered !== '') expect(at?.verdict?.mends?.map((mend) => mend.do)).toContain(offered);
    expect(stages.map((line) => line.stage)).toEqual(stageNames.slice(0, stages.length));
    // The others went on, and the device comes back as if nothing had been tested.
    await restore();
  });

  it('keeps how the conversation began, with secrets masked', async () => {
    const said = (lines: readonly TestLine[]) => lines.at(-1)?.exchange ?? [];
    const text = (hex: string) => Buffer.from(hex, 'hex').toString('latin1');
    const live = said(await test({ devices: ['SW1'] }));
    expect(live.map(({ dir }) => dir)).toEqual(expect.arrayContaining(['out', 'in']));
    const question = live.find(({ dir }) => dir === 'out');
    expect(text(question?.hex ?? '')).toMatch(/^[\x20-\x7e]+\r\n$/);
    const { driver, host, port, user } = device('E1').data;
    const candidateOfE1 = { id: device('E1').id, driver, host, port, user };
    const typed = said(await test({ candidate: candidateOfE1, interrupt: true }));
    const all = typed.map(({ hex }) => text(hex)).join('');
    expect(all).toContain('HTTP/1.1');
    expect(all).not.toContain(encoderPassword);
    expect(all).not.toContain(Buffer.from(`${user}:${encoderPassword}`).toString('base64'));
    expect(said(await test(candidate('SW1', { host: '' })))).toEqual([]);
    await f.linkIs('E1', 'up');
  });

  it('leaves a live connection alone while another port is typed, and says where the device is known to answer', async () => {
    const { port } = device('SW1').data;
    let connections = 0;
    const relay = createServer((near) => {
      connections += 1;
      const far = connect(port, '127.0.0.1');
      near.on('error', () => far.destroy()).on('close', () => far.destroy());
      far.on('error', () => near.destroy()).on('close', () => near.destroy());
      near.pipe(far).pipe(near);
    });
    await new Promise<void>((resolve) => void relay.listen(0, '127.0.0.1', resolve));
    const at = (relay.address() as AddressInfo).port;
    const before = device('SW1');
    const through = { ...before, data: { ...before.data, port: at } };
    f.rig.edit({ title: 'Through a relay', changes: [{ op: 'update', from: before, to: through }] });
    await until(
      () => [device('SW1').data.port, f.link('SW1').word],
      ([now, word]) => now === at && word === 'up',
    );
    expect(connections).toBe(1);
    const { driver, host } = before.data;
    const lines = await test({ candidate: { id: before.id, driver, host, port: await freePort() } });
    const verdict = lines.find(({ stage }) => stage === 'port')?.verdict;
    expect(verdict).toMatchObject({ is: 'failed', trouble: 'port-refused', mends: [{ do: 'port', port: at }] });
    expect([connections, f.link('SW1').word]).toEqual([1, 'up']);

    const now = device('SW1');
    f.rig.edit({ title: 'Back', changes: [{ op: 'update', from: now, to: { ...now, data: before.data } }] });
    await until(
      () => [device('SW1').data.port, f.link('SW1').word],
      ([now2, word]) => now2 === port && word === 'up',
    );
    await new Promise((resolve) => relay.close(resolve));
  });
});
