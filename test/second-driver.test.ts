import { createServer, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import { expect, it, onTestFinished } from 'vitest';
import type { PageView } from '../src/core/live';
import type { ShowRecord } from '../src/core/show';
import liftDriver from './fixtures/lift-driver.json';
import { startRig, TestClient } from './support/rig';

/**
 * A device of a quite different grammar, controlled from its document alone: CR endings, another character set, a
 * greeting that the controller begins, hexadecimal numbers, several questions in a line, no answers, polling.
 */
function lift(): Promise<{ port: number; stop: () => void; turnLight: () => void; blocked: (on: boolean) => void }> {
  const sockets = new Set<Socket>();
  let height = 120;
  let light = false;
  let blocked = false;
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    socket.setEncoding('latin1').on('data', (text: string) => {
      for (const line of text.split('\r').slice(0, -1)) {
        if (line === '#WHO') socket.write('#LIFT-0A4F\r');
        for (const word of line.split(';')) {
          if (word === '?H') socket.write(`=H${height}cm\r`);
          if (word === '?L') socket.write(`=L ${light ? 'hell' : 'aus'}\r`);
          if (word.startsWith('!L:')) light = word.endsWith('hell');
          if (!word.startsWith('!H:')) continue;
          if (blocked) socket.write('E7\r');
          else socket.write(`=H${(height = parseInt(word.slice(3), 16))}cm\r`);
        }
      }
    });
  });
  const stop = () => {
    for (const socket of sockets) socket.destroy();
    server.close();
  };
  onTestFinished(stop);
  return new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () =>
      resolve({
        port: (server.address() as AddressInfo).port,
        stop,
        turnLight: () => void (light = !light),
        blocked: (on) => void (blocked = on),
      }),
    );
  });
}

const show = (port: number): ShowRecord[] => [
  { kind: 'show', id: 'show', version: 1, data: { name: 'Lift', note: '' } },
  {
    kind: 'device',
    id: 'dev',
    version: 1,
    data: {
      tag: 'L1',
      name: 'Lift',
      role: 'camera',
      driver: 'lift-column',
      host: '127.0.0.1',
      port,
      enabled: true,
      site: '',
      user: '',
      options: {},
    },
  },
  { kind: 'page', id: 'page', version: 1, data: { name: 'Lift', order: 1, columns: 2, rows: 1, note: '', zones: [] } },
  {
    kind: 'control',
    id: 'high',
    version: 1,
    data: {
      page: 'page',
      type: 'button',
      col: 0,
      row: 0,
      cols: 1,
      rows: 1,
      label: [{ text: 'High, now ' }, { reading: { device: 'dev', key: 'height' } }],
      values: { height: 250 },
      responses: { tap: [{ device: 'dev', command: 'moveTo', params: { height: { value: 'height' } } }] },
      lamps: [
        { when: { op: 'equals', reading: { device: 'dev', key: 'height' }, to: { value: 'height' } }, show: 'active' },
      ],
    },
  },
  {
    kind: 'control',
    id: 'light',
    version: 1,
    data: {
      page: 'page',
      type: 'button',
      col: 1,
      row: 0,
      cols: 1,
      rows: 1,
      label: [{ text: 'Light' }],
      values: {},
      responses: { tap: [{ device: 'dev', command: 'light', params: { state: true } }] },
      lamps: [
        { when: { op: 'equals', reading: { device: 'dev', key: 'light' }, to: true }, show: 'active', word: 'LIGHT' },
      ],
    },
  },
];

it('controls a device nobody has heard of from its document: press, lamp, refusal, lost', async () => {
  const device = await lift();
  const rig = await startRig(show(device.port), [liftDriver]);
  const client = await TestClient.open(rig.url);
  const lampIs = (control: string, state: string, from = 0) =>
    client.next((message) => {
      if (!('topic' in message) || message.topic !== 'page:page' || message.t === 'none') return false;
      const { faces } = message.data as { faces?: PageView['faces'] & { put?: PageView['faces'] } };
      return (faces?.put ?? faces)?.[control]?.lamp.show === state;
    }, from);
  client.say({ t: 'sub', topics: ['page:page'] });
  await lampIs('high', 'off');
  await client.linkIs('dev', 'up');

  expect(await client.press('page', 'high')).toMatchObject({ outcome: 'confirmed' });
  await lampIs('high', 'active');
  // This state is only seen by polling.
  expect(await client.press('page', 'light')).toMatchObject({ outcome: 'confirmed' });
  await lampIs('light', 'active');
  const byHand = client.got.length;
  device.turnLight();
  await lampIs('light', 'off', byHand);
  // It is there already: confirmed at once, for this device answers nothing.
  expect(await client.press('page', 'high')).toMatchObject({ outcome: 'confirmed' });

  rig.edit({
    title: 'Lower',
    changes: show(device.port).flatMap((record) =>
      record.kind === 'control' && record.id === 'high'
        ? [{ op: 'update' as const, from: record, to: { ...record, data: { ...record.data, values: { height: 80 } } } }]
        : [],
    ),
  });
  await lampIs('high', 'off', byHand);
  device.blocked(true);
  expect(await client.press('page', 'high')).toMatchObject({
    outcome: 'refused',
    reason: 'The column is blocked: something is in its way.',
  });

  const gone = client.got.length;
  device.stop();
  await lampIs('high', 'unknown', gone);
  expect(await client.press('page', 'high')).toMatchObject({ outcome: 'lost' });
});
