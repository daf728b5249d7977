import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { describe, expect, it } from 'vitest';
import type { PageView } from '../src/core/live';
import type { ControlRecord, ShowRecord } from '../src/core/show';
import { startFleetRig } from './support/fleet';
import { inProcessProber } from './support/prober';
import { onTestFinished, TestClient, until } from './support/rig';

/** What stands on faces besides labels: pictures that devices hand out, and what the program itself says. */

const page: ShowRecord = {
  kind: 'page',
  id: 'page-a',
  version: 1,
  data: { name: 'A', order: 1, columns: 4, rows: 1, note: '', zones: [] },
};
const readout = (id: string, more: Partial<ControlRecord['data']>): ControlRecord => ({
  kind: 'control',
  id,
  version: 1,
  data: {
    page: 'page-a',
    type: 'readout',
    col: 0,
    row: 0,
    cols: 1,
    rows: 1,
    label: [],
    values: {},
    responses: { tap: [] },
    lamps: [],
    ...more,
  },
});

const svg = (text: string) => `<svg xmlns="http://www.w3.org/2000/svg"><text>${text}</text></svg>`;

async function pictures(): Promise<{ port: number; say: (status: number, body: string) => void; asked: () => number }> {
  let now = { status: 200, body: svg('one') };
  let count = 0;
  const server: Server = createServer((_req, res) => {
    count += 1;
    res.writeHead(now.status, { 'content-type': 'image/svg+xml' }).end(now.body);
  });
  onTestFinished(() => void server.close());
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()));
  return {
    port: (server.address() as AddressInfo).port,
    say: (status, body) => (now = { status, body }),
    asked: () => count,
  };
}

const shownOf = (client: TestClient, control: string) =>
  (client.topic('page:page-a') as PageView | undefined)?.faces[control]?.shown;

describe('a picture that a device hands out', () => {
  it('comes when somebody looks, follows, is doubtful when it fails or the device is gone, and is left alone unseen', async () => {
    const source = await pictures();
    const options = { stillPort: source.port, stillPath: '/still' };
    const still = readout('still', { shows: { kind: 'still', device: 'dev-C1', still: 'view' } });
    const f = await startFleetRig(['C1'], [page, still], inProcessProber, [], { C1: { options } });
    await f.linkIs('C1', 'up');
    expect(source.asked()).toBe(0);

    const first = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    void first.follow('page:page-a');
    const hash = async (client: TestClient, before = '') => {
      const shown = await until(
        () => shownOf(client, 'still'),
        (each) => each?.kind === 'picture' && each.src !== undefined && each.src !== before && !each.doubt,
      );
      return shown?.kind === 'picture' ? (shown.src ?? '') : '';
    };
    const one = await hash(first);
    const bytes = await f.rig.engine.picture(one.slice('/pictures/'.length));
    expect([bytes?.type, String(bytes?.bytes)]).toEqual(['image/svg+xml', svg('one')]);

    // Who joins later has it at once, and both follow.
    const second = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    void second.follow('page:page-a');
    expect(await hash(second)).toBe(one);
    source.say(200, svg('two'));
    const two = await hash(first, one);
    expect(await hash(second, one)).toBe(two);

    source.say(500, '');
    await until(
      () => shownOf(first, 'still'),
      (shown) => shown?.kind === 'picture' && shown.src === undefined,
      12_000,
    );
    source.say(200, svg('two'));
    expect(await hash(first)).toBe(two);

    await f.operate('C1', 'power', { on: false });
    await until(
      () => shownOf(first, 'still')?.doubt,
      (doubt) => doubt !== undefined,
      20_000,
    );

    first.close();
    second.close();
    await new Promise((resolve) => setTimeout(resolve, 300));
    const before = source.asked();
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect(source.asked()).toBe(before);
  });
});

describe('what the program itself says', () => {
  const own = (key: string) => ({ reading: { device: 'own', key } });
  it('runs as clocks and counts the devices that are down', async () => {
    const minutesAgo = new Date(Date.now() - 5 * 60_000 - new Date().getSeconds() * 1000);
    const local = new Date(minutesAgo.getTime() - minutesAgo.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
    const f = await startFleetRig(
      ['R1'],
      [
        { kind: 'show', id: 'show', version: 1, data: { name: 'Clocks', note: '', beginsAt: local } },
        page,
        readout('time', { label: [own('timeOfDay')] }),
        readout('since', { label: [own('showTime')] }),
        readout('down', {
          label: [own('devicesDown')],
          lamps: [{ when: { op: 'above', reading: { device: 'own', key: 'devicesDown' }, to: 0 }, show: 'fault' }],
        }),
      ],
    );
    await f.linkIs('R1', 'up');
    void f.client.follow('page:page-a');
    const face = (id: string) => (f.client.topic('page:page-a') as PageView | undefined)?.faces[id];
    await until(
      () => face('down'),
      (each) => each?.segments[0]?.text === '0' && each.lamp.show === 'off',
    );
    const clock = face('time')?.segments[0]?.clock;
    const midnight = new Date().setHours(0, 0, 0, 0);
    expect(clock && clock.at - clock.seconds * 1000).toBeCloseTo(midnight, -1);
    const since = face('since')?.segments[0]?.clock;
    expect(since?.rate).toBe(1);
    expect(since && Math.round(since.seconds / 60)).toBeGreaterThanOrEqual(5);
    await f.operate('R1', 'power', { on: false });
    await until(
      () => face('down'),
      (each) => each?.segments[0]?.text === '1' && each.lamp.show === 'fault',
    );
  });
});

describe('what somebody starts', () => {
  it('is told to everybody with who did it, and what was so already is not', async () => {
    const f = await startFleetRig(['E1']);
    await f.linkIs('E1', 'up');
    const panel = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    void panel.follow('status');
    const news = () => (panel.topic('status') as { news?: { text: string; by?: string }[] } | undefined)?.news ?? [];
    await f.send('E1', 'startRecord');
    await until(news, (items) => items.some(({ text, by }) => text === 'The E1 is recording.' && by === 'test'));
    await f.operate('E1', 'operate', { verb: 'record', on: false });
    await until(news, (items) => items.some(({ text }) => text === 'The E1 has stopped recording.'));
    await f.operate('E1', 'drop');
    await f.linkIs('E1', 'up');
    expect(news().filter(({ text }) => text.includes('recording'))).toHaveLength(2);
  });
});
