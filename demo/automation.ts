import {
  ownId,
  type InletRecord,
  type ShowRecord,
  type VariableRecord,
  type WatchData,
  type WatchRecord,
} from '../src/core/show';

/** What of the demo keeps in mind and acts by itself: its variables, its watches, and its inlets. */

const variable = (
  order: number,
  key: string,
  name: string,
  value: VariableRecord['data']['value'],
): VariableRecord => ({
  kind: 'variable',
  id: `var-${key}`,
  version: 1,
  data: { name, key, order, note: '', value },
});

const watch = (
  number: number,
  name: string,
  note: string,
  data: Pick<WatchData, 'when' | 'sends'> & Partial<WatchData>,
): WatchRecord => ({
  kind: 'watch',
  id: `watch-${number}`,
  version: 1,
  data: { name, number, order: number, note, delayMs: 0, quietMs: 0, mostPerMinute: 60, ...data },
});

/** Off until somebody switches it on, and for this computer only. */
const inlet = (order: number, name: string, speaks: InletRecord['data']['speaks'], port: number): InletRecord => ({
  kind: 'inlet',
  id: `inlet-${order}`,
  version: 1,
  data: {
    name,
    order,
    note: '',
    speaks,
    over: speaks === 'osc' ? 'udp' : 'tcp',
    port,
    host: '127.0.0.1',
    from: [],
    on: false,
  },
});

const withPublished = (record: InletRecord, publishes: string[]): InletRecord => ({
  ...record,
  data: { ...record.data, publishes },
});

const light = (on: boolean) => ({ device: 'dev-g1', command: 'light', params: { light: 'boat', on } });
const pontoon = (to: boolean): WatchData['when'] => ({
  is: 'true',
  condition: { op: 'equals', reading: { device: ownId, key: 'variable.pontoon' }, to },
  forMs: 0,
});

export const automation = (): ShowRecord[] => [
  variable(1, 'race', 'Race', {
    type: 'number',
    min: 1,
    max: 24,
    step: 1,
    decimals: 0,
    unit: '',
    wraps: true,
    initial: 1,
  }),
  variable(2, 'round', 'Round', { type: 'choice', choices: ['Heats', 'Semi-finals', 'Finals'], initial: 'Heats' }),
  variable(3, 'pontoon', 'Pontoon open', { type: 'onOff', initial: false }),
  watch(1, 'Recording follows the stream', 'So that nobody forgets it.', {
    when: {
      is: 'true',
      condition: { op: 'equals', reading: { device: 'dev-e1', key: 'stream' }, to: 'live' },
      forMs: 1000,
    },
    unless: { op: 'equals', reading: { device: 'dev-e1', key: 'recording' }, to: true },
    sends: [{ device: 'dev-e1', command: 'startRecord', params: {} }],
  }),
  watch(2, 'Horn at the start', 'Armed for the first race.', {
    when: { is: 'time', schedule: { is: 'show', offset: 0 } },
    once: true,
    sends: [
      { device: 'dev-g1', command: 'horn', params: {} },
      { device: 'dev-g1', command: 'hornOff', params: {}, waitMs: 1200 },
    ],
  }),
  watch(3, 'Light on with the pontoon', '', { when: pontoon(true), sends: [light(true)] }),
  watch(4, 'Light off with the pontoon', '', { when: pontoon(false), sends: [light(false)] }),
  watch(5, 'Titles with key 1', 'What is loaded on layer 1 comes with the key while it shows the title machine.', {
    when: {
      is: 'key',
      switcher: 'dev-switcher',
      key: 1,
      input: 8,
      preRoll: 12,
      out: { sends: [{ device: 'dev-t1', command: 'out', params: { layer: 1 } }], withKey: true },
    },
    sends: [{ device: 'dev-t1', command: 'take', params: { layer: 1 } }],
  }),
  inlet(1, 'Text box', 'text', 4800),
  inlet(2, 'Show control', 'osc', 4810),
  inlet(3, 'Web', 'http', 4820),
  withPublished(inlet(4, 'Club network', 'mqtt', 4830), ['lamp/Race/#', '+/tally/#', 'SW1/program', 'SHOW/variable/+']),
];
