import { describe, expect, it } from 'vitest';
import type { PageView } from '../src/core/live';
import type { ControlRecord, ShowRecord } from '../src/core/show';
import { startFleetRig } from './support/fleet';
import { TestClient, until } from './support/rig';

/** What faces show that the program itself says. */

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
