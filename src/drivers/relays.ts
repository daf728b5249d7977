import { is, lamp, reported, text, whole } from './parts';

/** A box of relays and contacts: Modbus TCP (`docs/protocols/relay-box.md`). */

const relays = 8;
const names = [
  'House lights',
  'Work lights',
  'Podium light',
  'Flag light',
  'Coffee machine',
  'Spare 6',
  'Spare 7',
  'Spare 8',
];
const binary = { type: 'onOff', on: '1', off: '0' };
const withinMs = 1500;

const read = (table: string, address: number, count: number) => ({ modbus: { read: table, address, count } });
const write = (address: number | string, value: string) => ({ modbus: { write: 'coil', address, value } });
const asked = (ask: string, ms: number, ...all: readonly object[]) => ({
  ...reported(ms, ...all),
  ask: [ask],
  askEveryMs: 100,
});

/** Relays are counted from 1, their coils from 0. */
const relay = { title: 'Relay', value: { ...whole(1, relays), offset: 1 }, listFrom: 'relay[].name' };

/** The device is told once; it goes on by itself until it is there. */
const pulse = (address: number, title: string, reading: string, ms: number) => ({
  title,
  says: title,
  send: write(address, '1'),
  confirm: asked('inputs', ms, is(reading, true)),
});
const halt = (address: number, title: string) => ({
  title,
  says: title,
  send: write(address, '1'),
  class: 'urgent',
  confirm: { by: 'answer', withinMs },
});

const contacts = [
  ['blindsOpen', 'Blinds open'],
  ['blindsClosed', 'Blinds closed'],
  ['liftTop', 'Lift at the top'],
  ['liftBottom', 'Lift at the bottom'],
  ['door', 'Door closed'],
  ['bell', 'Bell'],
] as const;

export const relayBox = {
  format: 1,
  id: 'relay-box',
  version: 1,
  title: 'Relays, blinds and lift (stand-in)',
  standIn: true,
  role: 'relays',
  searchWords: ['contact', 'GPIO', 'Modbus', 'blinds', 'lift'],
  help: {
    address: 'On the box’s own page. The port of Modbus is usually 502; the stand-ins’ ports follow STANDIN_PORT_BASE.',
    switchOn: 'Modbus must be on.',
  },
  link: {
    kind: 'tcp',
    port: 502,
    answerWithinMs: 1000,
    window: 4,
    keepAlive: { send: { ask: 'relays' }, everyMs: 1000, silentAfterMs: 2500, giveUpAfterMs: 6000 },
  },
  framing: { kind: 'modbus' },
  answers: 'matched',
  identity: { model: 'model', models: ['8'], firmware: 'firmware', firmwares: ['2.x'] },
  options: Object.fromEntries(
    names.map((name, n) => [`name${n + 1}`, { title: `Name of relay ${n + 1}`, value: text(40), default: name }]),
  ),
  questions: {
    relays: { send: read('coil', 0, relays) },
    inputs: { send: read('input', 0, contacts.length) },
    values: { send: read('register', 0, 4) },
  },
  sync: { send: [{ ask: 'values' }, { ask: 'inputs' }, { ask: 'relays' }], answered: true, withinMs: 3000 },
  polls: [
    { send: { ask: 'relays' }, everyMs: 250 },
    { send: { ask: 'inputs' }, everyMs: 250 },
    { send: { ask: 'values' }, everyMs: 500 },
  ],
  commands: {
    relay: {
      title: 'Relay on or off',
      says: '{relay} {on}',
      help: 'The relay stays on or off until the next command.',
      params: {
        relay,
        on: { title: 'On', value: binary, default: true },
      },
      send: write('{relay}', '{on}'),
      confirm: asked('relays', withinMs, is('relay[].on', { param: 'on' }, 'relay')),
    },
    hold: {
      title: 'Relay on while held',
      says: '{relay} on while held',
      params: {
        relay,
      },
      send: write('{relay}', '1'),
      class: 'urgent',
      stop: { command: 'release', longestMs: 30_000 },
      confirm: asked('relays', withinMs, is('relay[].on', true, 'relay')),
    },
    release: {
      title: 'Relay off, after holding',
      says: '{relay} off',
      params: {
        relay,
      },
      send: write('{relay}', '0'),
      class: 'stop',
      confirm: asked('relays', withinMs, is('relay[].on', false, 'relay')),
    },
    openBlinds: pulse(8, 'Open the blinds', 'blindsOpen', 8000),
    closeBlinds: pulse(9, 'Close the blinds', 'blindsClosed', 8000),
    haltBlinds: halt(10, 'Halt the blinds'),
    liftUp: pulse(11, 'Lift up', 'liftTop', 7000),
    liftDown: pulse(12, 'Lift down', 'liftBottom', 7000),
    haltLift: halt(13, 'Halt the lift'),
    look: {
      title: 'Read the relays',
      says: 'Read the relays',
      send: { ask: 'relays' },
      harmless: true,
      confirm: { by: 'answer', withinMs },
    },
  },
  readings: {
    'relay[].on': {
      title: 'Relay on',
      means: 'active',
      value: binary,
      index: { title: 'Relay', from: 1, to: relays },
    },
    'relay[].name': { title: 'Relay', value: text(40), index: { title: 'Relay', from: 1, to: relays } },
    ...Object.fromEntries(
      contacts.map(([key, title]) => [key, { title, ...(key === 'door' ? {} : { means: 'active' }), value: binary }]),
    ),
    blinds: { title: 'Blinds open', value: whole(0, 100, '%'), level: { from: 0, to: 100 } },
    lift: { title: 'Height of the lift', value: whole(0, 100, '%'), level: { from: 0, to: 100 } },
    model: { title: 'Model', value: { type: 'text' } },
    firmware: { title: 'Firmware', value: { type: 'decimal', scale: 0.1, decimals: 1 } },
  },
  replies: [
    ...Array.from({ length: relays }, (_, n) => ({
      match: `^coil ${n} (?P<v>[01])$`,
      set: { [`relay[${n + 1}].on`]: '{v}', [`relay[${n + 1}].name`]: `{option.name${n + 1}}` },
    })),
    ...contacts.map(([key], n) => ({ match: `^input ${n} (?P<v>[01])$`, set: { [key]: '{v}' } })),
    { match: '^register 0 (?P<v>[0-9]+)$', set: { blinds: '{v}' } },
    { match: '^register 1 (?P<v>[0-9]+)$', set: { lift: '{v}' } },
    { match: '^register 2 (?P<v>[0-9]+)$', set: { model: '{v}' } },
    { match: '^register 3 (?P<v>[0-9]+)$', set: { firmware: '{v}' } },
  ],
  errors: {
    '1': 'The box does not know this function.',
    '2': 'The box has no such relay or register.',
    '3': 'The box does not take this value.',
    '4': 'The box failed to do it.',
    '11': 'The unit number is not this box’s.',
  },
  starters: [
    {
      purpose: 'Relays',
      title: 'Relay on',
      each: 'relay[].name',
      command: 'relay',
      params: { relay: { item: 'index' }, on: true },
      lamp: lamp('relay[].on', true, 'active', 'ON'),
    },
    {
      purpose: 'While held',
      title: 'Relay on while held',
      each: 'relay[].name',
      command: 'hold',
      params: { relay: { item: 'index' } },
      held: true,
      lamp: lamp('relay[].on', true, 'active', 'ON'),
    },
    {
      purpose: 'Blinds',
      title: 'Open the blinds',
      command: 'openBlinds',
      lamp: lamp('blindsOpen', true, 'active', 'OPEN'),
    },
    {
      purpose: 'Blinds',
      title: 'Close the blinds',
      command: 'closeBlinds',
      lamp: lamp('blindsClosed', true, 'active', 'CLOSED'),
    },
    { purpose: 'Blinds', title: 'Halt the blinds', command: 'haltBlinds' },
    { purpose: 'Blinds', title: 'Blinds', label: ['Blinds ', { reading: 'blinds' }] },
    { purpose: 'Lift', title: 'Lift up', command: 'liftUp', lamp: lamp('liftTop', true, 'active', 'TOP') },
    { purpose: 'Lift', title: 'Lift down', command: 'liftDown', lamp: lamp('liftBottom', true, 'active', 'BOTTOM') },
    { purpose: 'Lift', title: 'Halt the lift', command: 'haltLift' },
  ],
  samples: [
    { command: 'relay', params: { relay: 2, on: true }, sends: { hex: '00 01 00 00 00 06 01 05 00 01 FF 00' } },
    { command: 'closeBlinds', sends: { hex: '00 01 00 00 00 06 01 05 00 09 FF 00' } },
  ],
};
