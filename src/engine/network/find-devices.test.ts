import { expect, it } from 'vitest';
import { compiled, deviceRecord } from '../../../test/support/records';
import cameraOnvif from '../../drivers/camera-onvif.json';
import genericHttp from '../../drivers/generic-http.json';
import genericText from '../../drivers/generic-text-tcp.json';
import resultsBoard from '../../drivers/results-board.json';
import relayGateway from '../../drivers/relay-gateway.json';
import type { FindLine, FoundDevice } from '../../core/live';
import { findDevices, type Search } from './find-devices';
import type { Prober } from './prober-client';

/** A prober that finds one open port and hears nothing else. */
const finds = (address: string, port: number): Prober =>
  ({
    ask: () => Promise.reject(new Error('Nothing is asked here.')),
    follow: (order: { do: string }, tell: (line: object) => void) => {
      if (order.do === 'search') tell({ tried: 1, of: 1, hit: { address, port, kind: 'tcp', heard: '' } });
      return Promise.resolve();
    },
  }) as unknown as Prober;

const gateway = deviceRecord('G1', { driver: 'relay-gateway', host: '127.0.0.1', port: 1502 });
const behind = deviceRecord('S1', {
  driver: 'results-board',
  host: '',
  port: 4001,
  through: { device: 'dev-G1', port: 'serial' },
});
const drivers = [compiled(relayGateway), compiled(resultsBoard), compiled(cameraOnvif)];
const rig: Search['rig'] = [gateway, behind].map((record) => ({
  record,
  document: drivers.find(({ document }) => document.id === record.data.driver)?.document,
  link: 'up',
  mac: undefined,
  last: () => undefined,
}));

it.each([
  ['a device of the rig', 1502, 'G1'],
  ['a device behind its gateway', 4001, 'S1'],
  ['nobody’s port', 4002, undefined],
])('a search knows %s', async (_name, port, tag) => {
  const lines: FindLine[] = [];
  const search: Search = { range: '127.0.0.1', ports: [], generic: [], drivers, rig };
  await findDevices(search, finds('127.0.0.1', port), (line) => lines.push(line), new AbortController().signal);
  const found = lines.find((line) => line.is === 'found');
  expect(found?.is === 'found' && found.found.inRig).toBe(tag);
});

it.each([
  [9999, 'generic-text-tcp'],
  [8080, 'generic-http'],
])('a port that was typed is tried, and what is open at %i can be added as any device', async (port, driver) => {
  const lines: FindLine[] = [];
  const orders: { readonly probes?: readonly { readonly port: number }[] }[] = [];
  const found = finds('127.0.0.1', port);
  const prober = {
    ...found,
    follow: (order: object, ...more: []) => (
      orders.push(order),
      (found.follow as (...all: unknown[]) => unknown)(order, ...more)
    ),
  } as unknown as Prober;
  const generic = [compiled(genericText), compiled(genericHttp)];
  const search: Search = { range: '127.0.0.1', ports: [port], generic, drivers, rig: [] };
  await findDevices(search, prober, (line) => lines.push(line), new AbortController().signal);
  expect(orders.flatMap(({ probes }) => probes ?? []).map((probe) => probe.port)).toContain(port);
  const hit = lines.find((line) => line.is === 'found');
  expect(hit?.is === 'found' && hit.found.drivers).toMatchObject([{ id: driver, sure: 'port only' }]);
});

const generic = [compiled(genericText), compiled(genericHttp)];
const announcing = (found: object): Prober =>
  ({
    ask: () => Promise.reject(new Error('Nothing is asked here.')),
    follow: (order: { do: string }, tell: (line: object) => void) => {
      if (order.do === 'announced') tell(found);
      return Promise.resolve();
    },
  }) as unknown as Prober;

async function searched(range: string, prober: Prober, of: Search['rig'] = []): Promise<FoundDevice[]> {
  const lines: FindLine[] = [];
  const search: Search = { range, ports: [], generic, drivers, rig: of };
  await findDevices(search, prober, (line) => lines.push(line), new AbortController().signal);
  return lines.flatMap((line) => (line.is === 'found' ? [line.found] : []));
}

const tower = { name: 'Tower', service: '_http._tcp.local', transport: 'tcp', host: 'tower.local', port: 8000 };

it('what only announced itself can be added, as the kind of device that its service is of', async () => {
  const [found] = await searched('10.0.0.4', announcing({ ...tower, addresses: ['fe80::1', '10.0.0.4'] }));
  expect(found).toMatchObject({
    address: '10.0.0.4',
    port: 8000,
    announced: { name: 'Tower' },
    drivers: [{ id: 'generic-http', sure: 'port only' }],
  });
});

it('a device that says what it speaks can be added as that, whatever its port', async () => {
  const camera = { ...tower, name: 'Heron 3', service: 'ONVIF (WS-Discovery)', addresses: ['10.0.0.7'] };
  const [found] = await searched('10.0.0.7', announcing(camera));
  expect(found?.drivers.map(({ id }) => id)).toEqual(['ptz-camera-onvif', 'generic-http']);
});

it('another service of a device that is in the rig is no new device', async () => {
  const known = { ...rig[0], record: deviceRecord('G1', { host: '10.0.0.4', port: 1502 }) } as Search['rig'][number];
  const [found] = await searched('10.0.0.4', announcing({ ...tower, addresses: ['10.0.0.4'] }), [known]);
  expect(found?.inRig).toBe('G1');
});

it('a search of this computer alone asks nobody else', async () => {
  expect(await searched('127.0.0.1', announcing({ ...tower, addresses: ['10.0.0.4'] }))).toEqual([]);
});

it('a device that is lost is known at another address by its hardware', async () => {
  const lost: Search['rig'][number] = {
    record: deviceRecord('G1', { driver: 'relay-gateway', host: '10.0.0.4', port: 1502 }),
    document: compiled(relayGateway).document,
    link: 'down',
    mac: '02:00:5e:10:00:01',
    last: () => undefined,
  };
  const hit = { address: '10.0.0.9', port: 9999, kind: 'tcp', heard: '', mac: '02:00:5e:10:00:01' };
  const prober = {
    ask: () => Promise.reject(new Error('Nothing is asked here.')),
    follow: (order: { do: string }, tell: (line: object) => void) => {
      if (order.do === 'search') tell({ tried: 1, of: 1, hit });
      return Promise.resolve();
    },
  } as unknown as Prober;
  const drivers: Search['drivers'] = [];
  const lines: FindLine[] = [];
  const search: Search = { range: '10.0.0.9', ports: [9999], generic, drivers, rig: [lost] };
  await findDevices(search, prober, (line) => lines.push(line), new AbortController().signal);
  const found = lines.find((line) => line.is === 'found');
  expect(found?.is === 'found' && found.found.moved).toMatchObject({ tag: 'G1', from: '10.0.0.4:1502' });
});
