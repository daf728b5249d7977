import { expect, it } from 'vitest';
import { compiled, deviceRecord } from '../../../test/support/records';
import resultsBoard from '../../drivers/results-board.json';
import relayGateway from '../../drivers/relay-gateway.json';
import type { FindLine } from '../../core/live';
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
const drivers = [compiled(relayGateway), compiled(resultsBoard)];
const rig: Search['rig'] = [gateway, behind].map((record) => ({
  record,
  document: drivers.find(({ document }) => document.id === record.data.driver)?.document,
  link: 'up',
  last: () => undefined,
}));

it.each([
  ['a device of the rig', 1502, 'G1'],
  ['a device behind its gateway', 4001, 'S1'],
  ['nobody’s port', 4002, undefined],
])('a search knows %s', async (_name, port, tag) => {
  const lines: FindLine[] = [];
  const search: Search = { range: '127.0.0.1', drivers, rig };
  await findDevices(search, finds('127.0.0.1', port), (line) => lines.push(line), new AbortController().signal);
  const found = lines.find((line) => line.is === 'found');
  expect(found?.is === 'found' && found.found.inRig).toBe(tag);
});
