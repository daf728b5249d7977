import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { controlRecord, deviceRecord, macroRecord, pageRecord } from '../../../test/support/records';
import { recordSchema, type ControlRecord, type ShowRecord } from './records';
import { deviceFields, usersOfDevice, usersText, usesOfRig } from './references';

/** Every kind of reference to a device that a record can have, each alone in a show: all of them are found. */

const read = { device: 'dev-X', key: 'program' };
const when = { op: 'equals' as const, reading: read, to: 1 };
const send = { device: 'dev-X', command: 'take', params: {} };
const control = (more: Partial<ControlRecord['data']>): ShowRecord => controlRecord('c', more);
const zone = { id: 'z', title: 'Z', col: 0, row: 0, cols: 1, rows: 1 };
const step = (does: object): ShowRecord => macroRecord('m', [{ steps: [{ id: 's', at: 0, does: does as never }] }]);

const references: Readonly<Record<string, ShowRecord>> = {
  'a tap': control({ responses: { tap: [send] } }),
  'what is sent while held': control({ responses: { tap: [], held: [send] } }),
  'a release': control({ responses: { tap: [], release: [send] } }),
  'a turn': control({ responses: { tap: [], turns: [[send]] } }),
  'a long press': control({ responses: { tap: [], long: { afterMs: 500, sends: [send] } } }),
  'a turning off': control({ responses: { tap: [], off: { afterMs: 500, again: 'end', sends: [send] } } }),
  'a label': control({ label: [{ reading: read }] }),
  'a lamp rule': control({ lamps: [{ when, show: 'active' }] }),
  'the label of a rule': control({
    lamps: [{ when: { ...when, reading: { device: 'own', key: 'x' } }, label: [{ reading: read }] }],
  }),
  'a typed expression': control({ lamps: [{ when: { cel: 'r0 == 1', readings: [read] }, show: 'active' }] }),
  'a condition in a condition': control({
    lamps: [{ when: { not: { lasting: { any: [when] }, forMs: 500 } }, show: 'active' }],
  }),
  'a fader': control({ range: { send, param: 'level', min: 0, max: 1 } }),
  'where a fader stands': control({
    range: { send: { ...send, device: 'dev-Y' }, param: 'level', reading: read, min: 0, max: 1 },
  }),
  'a reading that a button sends': control({
    responses: { tap: [{ ...send, device: 'dev-Y', params: { input: { reading: read } } }] },
  }),
  'an expression that a button sends': control({
    responses: { tap: [{ ...send, device: 'dev-Y', params: { input: { cel: 'r0 + 1', readings: [read] } } }] },
  }),
  'a stick': control({ drive: { device: 'dev-X', drive: 'head' } }),
  'a list': control({ list: { device: 'dev-X', list: 'clips', form: 'small' } }),
  'a bar': control({ shows: { kind: 'bar', reading: read, min: 0, max: 1 } }),
  'a still': control({ shows: { kind: 'still', device: 'dev-X', still: 'view' } }),
  'a pick button': control({ sets: { zone: 'z', device: 'dev-X' } }),
  'a shift level': control({ shifts: { s: { responses: { tap: [send] } } } }),
  'the pick of a zone': pageRecord('p', 'Race', { zones: [{ ...zone, pick: { devices: ['dev-Y', 'dev-X'] } }] }),
  'what a zone follows': pageRecord('p', 'Race', {
    zones: [{ ...zone, pick: { devices: ['dev-Y'], follow: [read] } }],
  }),
  'what calls a page': pageRecord('p', 'Race', { calledBy: { when: { op: 'equals', reading: read, to: 1 } } }),
  'the source of a tie': { kind: 'tie', id: 't', version: 1, data: { source: 'dev-X', switcher: 'dev-Y', input: 1 } },
  'the switcher of a tie': { kind: 'tie', id: 't', version: 1, data: { source: 'dev-Y', switcher: 'dev-X', input: 1 } },
  'a device behind it': deviceRecord('S1', { through: { device: 'dev-X', port: 'serial' } }),
  'a display': deviceRecord('M1', { displays: [{ number: 0, switcher: 'dev-X', input: 1 }] }),
  'a step': step({ is: 'send', send }),
  'a pulse': step({ is: 'pulse', on: { ...send, device: 'dev-Y' }, off: send, forMs: 100 }),
  'a reading that a step sends': step({
    is: 'send',
    send: { ...send, device: 'dev-Y', params: { input: { reading: read } } },
  }),
  'a step that picks': step({ is: 'pick', page: 'p', zone: 'z', device: 'dev-X' }),
  'what a segment waits for': macroRecord('m', [{ waits: { until: when, mostMs: 100, otherwise: 'stop' } }]),
  'whether a segment is played': macroRecord('m', [{ onlyIf: when }]),
};

describe('what uses a device', () => {
  it.each(Object.entries(references))('is found: %s', (_name, record) => {
    // Each is what the schema takes, so that the list cannot go stale.
    expect(recordSchema.safeParse(record).error).toBeUndefined();
    const rig = [deviceRecord('X'), deviceRecord('Y'), record];
    expect(usersText(usersOfDevice(rig, 'dev-X'))).not.toBe('');
    expect(usesOfRig(rig).get('dev-X') ?? usersOfDevice(rig, 'dev-X').ties[0]).toBeDefined();
    expect(usersText(usersOfDevice([deviceRecord('X'), deviceRecord('Y')], 'dev-X'))).toBe('');
  });

  it('is not said of a name or a text that only looks like it', () => {
    const named = control({ label: [{ text: 'dev-X' }], values: { device: 'other' } });
    expect(usersText(usersOfDevice([deviceRecord('X'), named], 'dev-X'))).toBe('');
  });

  it('is looked for in every field of records that holds an id: a new one has to be sorted in here', () => {
    const about: Readonly<Record<string, 'device' | 'other'>> = {
      device: 'device',
      devices: 'device',
      switcher: 'device',
      source: 'device',
      id: 'other',
      page: 'other',
      pages: 'other',
      panel: 'other',
      hidden: 'other',
      zone: 'other',
      presses: 'other',
      inlet: 'other',
      base: 'other',
      press: 'other',
      run: 'other',
      shift: 'other',
      macro: 'other',
      control: 'other',
    };
    const found = idFieldsOf(z.toJSONSchema(recordSchema, { io: 'input', unrepresentable: 'any' }));
    expect([...found].filter((field) => !(field in about))).toEqual([]);
    expect(
      Object.keys(about)
        .filter((field) => about[field] === 'device')
        .sort(),
    ).toEqual([...deviceFields].sort());
  });
});

/** The names of all fields in a JSON schema that hold an id, or a list of ids. */
function idFieldsOf(schema: unknown): ReadonlySet<string> {
  const found = new Set<string>();
  const definitions = (schema as { $defs?: Record<string, unknown> }).$defs ?? {};
  const resolve = (at: unknown): { type?: string; pattern?: string; items?: unknown } => {
    const ref = (at as { $ref?: string } | null)?.$ref;
    return (ref === undefined ? at : definitions[ref.replace('#/$defs/', '')]) as never;
  };
  const isId = (at: unknown): boolean => {
    const own = resolve(at);
    if (own?.type === 'array') return isId(own.items);
    return own?.type === 'string' && /A-Za-z0-9_-/.test(own.pattern ?? '') && !/\(\?/.test(own.pattern ?? '');
  };
  const look = (at: unknown): void => {
    if (typeof at !== 'object' || at === null) return;
    if (Array.isArray(at)) return at.forEach(look);
    const { properties } = at as { properties?: Record<string, unknown> };
    for (const [name, property] of Object.entries(properties ?? {})) if (isId(property)) found.add(name);
    Object.values(at).forEach(look);
  };
  look(schema);
  return found;
}
