import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { controlRecord, counter, deviceRecord, done, macroRecord, pageRecord } from '../../../test/support/records';
import { shippedDrivers } from '../../drivers';
import { DriverShelf } from '../driver';
import { macrosOf } from '../macro';
import { ownId, type DeviceRecord, type MacroRecord, type ShowRecord, type SnapshotRecord } from '../show';
import { snapshotsOf } from '../snapshot';
import {
  collectionOf,
  importCollectionEdit,
  importEdit,
  importMacrosEdit,
  macroFileOf,
  macroFileText,
  pageFileOf,
  pageFileText,
  readCollection,
  readMacroFile,
  readPageFile,
} from '.';

const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const documentOf = ({ data }: DeviceRecord) => shelf.for(data)?.document;

const snapshot = (number: number, name: string, folder = '', device = 'dev-SW1'): SnapshotRecord => ({
  kind: 'snapshot',
  id: `snap-${device}-${number}-${name}`,
  version: 1,
  data: {
    name,
    number,
    order: number,
    folder,
    note: '',
    parts: [{ device, keep: 'boxes', values: { 'box[1].size': 10 + name.length, 'box[1].source': 2 } }],
    takenAt: '',
  },
});
const callUp = (snapshot: unknown) => ({ device: ownId, command: 'callUp', params: { snapshot } });

/** Everything by which a snapshot can be called: each way calls another one. */
const ways = ['literal', 'value', 'label', 'lamp', 'last', 'shift', 'runs', 'usual', 'step', 'wait', 'morph'] as const;
const records: ShowRecord[] = [
  deviceRecord('SW1'),
  pageRecord('page', 'Talk', { shifts: [{ id: 'more', name: 'More' }] }),
  controlRecord('a', {
    responses: { tap: [callUp(1)] } as never,
    label: [{ reading: { device: ownId, key: 'snapshot[3].name' } }],
    lamps: [
      { when: { op: 'equals', reading: { device: ownId, key: 'snapshot[4].state' }, to: 'there' }, show: 'active' },
      { when: { op: 'equals', reading: { device: ownId, key: 'lastSnapshot' }, to: 5 }, show: 'active' },
    ],
    shifts: { more: { responses: { tap: [callUp(6)] } as never } },
  }),
  controlRecord('b', {
    col: 1,
    values: { n: 2, other: 2 },
    responses: { tap: [callUp({ value: 'n' })], runs: { macro: 'mac', params: { which: 7 } } } as never,
    label: [{ reading: { device: ownId, key: 'snapshot[$n].name' } }],
  }),
  controlRecord('c', {
    col: 2,
    type: 'fader',
    responses: { tap: [] },
    range: {
      send: { device: ownId, command: 'morph', params: { from: 11, to: 1 } },
      param: 'at',
      min: 0,
      max: 100,
    } as never,
  }),
  {
    ...macroRecord('mac', [
      {
        steps: [
          { id: 's1', at: 0, does: { is: 'send', send: callUp({ value: 'which' }) as never } },
          { id: 's2', at: 0, does: { is: 'send', send: callUp(9) as never } },
        ],
        waits: {
          until: { op: 'equals', reading: { device: ownId, key: 'snapshot[10].state' }, to: 'there' },
          mostMs: 1000,
          otherwise: 'stop',
        },
      },
    ]),
  },
  ...ways.map((way, n) => snapshot(n + 1, way)),
  snapshot(40, 'not called'),
];
const mac = records.find(({ id }) => id === 'mac') as MacroRecord;
const withParam = records.map((record) =>
  record.id === 'mac'
    ? { ...mac, data: { ...mac.data, params: [{ name: 'which', title: 'Which', value: 8 }] } }
    : record,
);

/** What is called by each way now, by name. */
function calledIn(all: readonly ShowRecord[]): Record<string, string | undefined> {
  const text = (record: unknown) => JSON.stringify(record);
  const nameOf = (number: unknown) => snapshotsOf(all).find(({ data }) => data.number === Number(number))?.data.name;
  const controls = all.flatMap((record) => (record.kind === 'control' ? [record.data] : []));
  const [a, b, c] = [0, 1, 2].map((col) => controls.find((data) => data.col === col && data.page !== 'other'));
  const macro = macrosOf(all).find(({ data }) => data.name === 'mac')?.data;
  const keyed = (where: unknown) => /snapshot\[(\d+)\]/.exec(text(where) ?? '')?.[1];
  const given = (where: unknown) => /"snapshot":(\d+)/.exec(text(where) ?? '')?.[1];
  const [step1, step2] = macro?.segments[0]?.steps ?? [];
  expect(text(step1)).toContain('"which"');
  expect(b?.values.other).toBe(2);
  const [, last] = a?.lamps ?? [];
  return {
    literal: nameOf(given(a?.responses)),
    value: nameOf(b?.values.n),
    label: nameOf(keyed(a?.label)),
    lamp: nameOf(keyed(a?.lamps[0])),
    last: nameOf(last && 'to' in last.when ? last.when.to : undefined),
    shift: nameOf(given(Object.values(a?.shifts ?? {})[0])),
    runs: nameOf(b?.responses.runs?.params.which),
    usual: nameOf(macro?.params[0]?.value),
    step: nameOf(given(step2)),
    wait: nameOf(keyed(macro?.segments[0]?.waits)),
    morph: nameOf(c?.range?.send.params.from),
  };
}

const asMade = Object.fromEntries(ways.map((way) => [way, way]));
const controls = () => withParam.filter(({ kind }) => kind === 'control' || kind === 'page' || kind === 'macro');
const emptyRig = (tag = 'SW9'): ShowRecord[] => [deviceRecord(tag)];

function importPages(there: readonly ShowRecord[], device = 'dev-SW9') {
  const pages = withParam.filter((record) => record.kind === 'page');
  const read = readPageFile(pageFileText(pageFileOf(withParam, pages)));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  const patch = new Map([['d1', device]]);
  const made = importEdit(there, read.value, patch, new Map(), new Map(), documentOf, counter());
  if (!made.ok) throw new Error(made.error);
  return done(there, made.value.edit);
}

describe('the picture of a snapshot', () => {
  const hash = 'a'.repeat(64);
  const pictures = [
    { hash: 'b'.repeat(64), type: 'image/png' as const, base64: 'AAAA' },
    { hash, type: 'image/jpeg' as const, base64: '/9j/' },
  ];
  const one = snapshot(1, 'One');
  const pictured: SnapshotRecord = { ...one, data: { ...one.data, picture: hash } };
  const all = [...records.filter(({ kind }) => kind !== 'snapshot'), pictured];

  it('travels with it, and no other picture does', () => {
    const collection = collectionOf('', all, [pictured], [], pictures);
    const macros = macroFileOf(
      all,
      [macroRecord('calls', [{ steps: [{ id: 's', at: 0, does: { is: 'send', send: callUp(1) } as never }] }])],
      pictures,
    );
    const pages = pageFileOf(
      all,
      all.filter((record) => record.kind === 'page'),
      pictures,
    );
    for (const file of [collection, macros, pages]) {
      expect(file.snapshots.find(({ name }) => name === 'One')?.picture).toBe(hash);
      expect(file.pictures).toEqual([pictures[1]]);
    }
    const read = readCollection(JSON.stringify(collection));
    expect(read.ok && read.value).toEqual(collection);
  });

  it('is not named where its bytes are not there', () => {
    const file = collectionOf('', all, [pictured]);
    expect([file.snapshots[0]?.picture, file.pictures]).toEqual([undefined, []]);
  });
});

describe('snapshots that travel with pages', () => {
  it('are those that are called, on the devices of the other rig', () => {
    expect(calledIn(withParam)).toEqual(asMade);
    const after = importPages(emptyRig());
    expect(snapshotsOf(after).map(({ data }) => data.name)).toEqual([...ways]);
    expect(snapshotsOf(after).every(({ data }) => data.parts[0]?.device === 'dev-SW9')).toBe(true);
    expect(calledIn(after)).toEqual(asMade);
    expect(controls()).toHaveLength(5);
  });

  it('are called as before, whatever numbers are taken there and whatever is there already', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 24 }), { maxLength: 16 }),
        fc.subarray([...ways]),
        (taken, twins) => {
          const strangers = taken.map((number) => snapshot(number, `stranger ${number}`, '', 'dev-SW9'));
          const known = twins.map((way, n) => snapshot(100 + n, way, '', 'dev-SW9'));
          const there = [...emptyRig(), ...strangers, ...known];
          const after = importPages(there);
          expect(calledIn(after)).toEqual(asMade);
          const numbers = snapshotsOf(after).map(({ data }) => data.number);
          expect(new Set(numbers).size).toBe(numbers.length);
          // What is there already does not come twice, and nothing that was there has changed.
          expect(numbers).toHaveLength(strangers.length + ways.length);
          expect(after).toEqual(expect.arrayContaining(there));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leave a value alone that also says something else: the snapshot gets one of its own', () => {
    const both = controlRecord('both', {
      values: { n: 1 },
      responses: {
        tap: [callUp({ value: 'n' }), { device: 'dev-SW1', command: 'take', params: { input: { value: 'n' } } }],
      } as never,
      label: [
        { reading: { device: ownId, key: 'snapshot[$n].name' } },
        { reading: { device: 'dev-SW1', key: 'input[$n].name' } },
      ],
      lamps: [
        {
          when: { op: 'equals', reading: { device: ownId, key: 'lastSnapshot' }, to: { value: 'n' } },
          show: 'active',
        },
        {
          when: { op: 'equals', reading: { device: 'dev-SW1', key: 'program' }, to: { value: 'n' } },
          show: 'onAir',
        },
      ],
    });
    const all = [deviceRecord('SW1'), pageRecord('page', 'Talk'), both, snapshot(1, 'literal')];
    const file = pageFileOf(all, [all[1] as never]);
    const bring = (there: readonly ShowRecord[]) => {
      const patch = new Map([['d1', 'dev-SW9']]);
      const made = importEdit(there, file, patch, new Map(), new Map(), documentOf, counter());
      if (!made.ok) throw new Error(made.error);
      const after = done(there, made.value.edit);
      return after.flatMap((record) => (record.kind === 'control' ? [record.data] : []))[0];
    };
    // Where the number is free, nothing has to be told apart.
    expect(bring(emptyRig())?.values).toEqual({ n: 1 });
    const moved = bring([...emptyRig(), snapshot(1, 'stranger', '', 'dev-SW9')]);
    expect(moved?.values).toEqual({ n: 1, snapshot: 2 });
    expect(moved?.responses.tap.map(({ params }) => params)).toEqual([
      { snapshot: { value: 'snapshot' } },
      { input: { value: 'n' } },
    ]);
    expect(moved?.label.map((part) => 'reading' in part && part.reading.key)).toEqual([
      'snapshot[$snapshot].name',
      'input[$n].name',
    ]);
    expect(moved?.lamps.map(({ when }) => 'to' in when && when.to)).toEqual([{ value: 'snapshot' }, { value: 'n' }]);
  });

  it('come along by their folder, where a control or a macro goes through that', () => {
    const list = controlRecord('list', {
      type: 'list',
      responses: { tap: [] },
      list: { device: ownId, list: 'snapshots', form: 'large', among: { reading: 'snapshot[].folder', is: 'Talk' } },
    });
    const macro = macroRecord('next', [
      {
        steps: [
          {
            id: 's',
            at: 0,
            does: {
              is: 'send',
              send: { device: ownId, command: 'stepFolder', params: { folder: 'Music', by: 1 } },
            },
          },
        ],
      },
    ]);
    const all = [
      deviceRecord('SW1'),
      pageRecord('page', 'Talk'),
      list,
      macro,
      snapshot(1, 'one', 'Talk'),
      snapshot(2, 'two', 'Music'),
      snapshot(3, 'three', 'Race'),
    ];
    const names = (file: { readonly snapshots: readonly { readonly name: string }[] }) =>
      file.snapshots.map(({ name }) => name);
    expect(names(pageFileOf(all, [all[1] as never]))).toEqual(['one']);
    expect(names(macroFileOf(all, macrosOf(all)))).toEqual(['two']);
  });

  it('are not brought where the numbers do not suffice', () => {
    const full = Array.from({ length: 999 }, (_, n) => snapshot(n + 1, `stranger ${n}`, '', 'dev-SW9'));
    expect(() => importPages([...emptyRig(), ...full])).toThrow('not enough free numbers');
  });
});

describe('snapshots that travel with macros', () => {
  it('are called as before', () => {
    const read = readMacroFile(macroFileText(macroFileOf(withParam, macrosOf(withParam))));
    if (!read.ok) throw new Error('not read');
    expect(read.value.snapshots.map(({ name }) => name)).toEqual(['usual', 'step', 'wait']);
    const there = [...emptyRig(), snapshot(8, 'stranger', '', 'dev-SW9')];
    const made = importMacrosEdit(there, read.value, new Map([['d1', 'dev-SW9']]), counter());
    if (!made.ok) throw new Error(made.error);
    expect(calledIn([...done(there, made.value.edit), ...controlsOnly()])).toMatchObject({
      usual: 'usual',
      step: 'step',
      wait: 'wait',
    });
  });
});

const controlsOnly = () => withParam.filter(({ kind }) => kind === 'control');

describe('a collection of snapshots and macros', () => {
  const chosen = snapshotsOf(withParam).filter(({ data }) => data.name === 'not called');
  const read = readCollection(JSON.stringify(collectionOf('Talk', withParam, chosen, macrosOf(withParam))));
  if (!read.ok) throw new Error(read.error);
  const file = read.value;
  const patch = { devices: new Map([['d1', 'dev-SW9']]), sources: new Map<number, number>(), replaces: false };
  const there = [...emptyRig(), snapshot(8, 'stranger', '', 'dev-SW9')];
  const sources = {
    documentOf: () => documentOf(deviceRecord('SW9', { role: 'switcher', driver: 'vision-switcher' })),
  };

  it('has what is chosen, with the snapshots that the macros call', () => {
    expect(file.snapshots.map(({ name }) => name)).toEqual(['usual', 'step', 'wait', 'not called']);
    expect(file.macros).toHaveLength(1);
  });

  it('comes in with free numbers, and its macros call its own snapshots', () => {
    const made = importCollectionEdit(there, file, patch, sources, counter());
    if (!made.ok) throw new Error(made.error);
    expect(made.value.edit.title).toBe('Import 4 snapshots and 1 macro');
    expect(calledIn([...done(there, made.value.edit), ...controlsOnly()])).toMatchObject({
      usual: 'usual',
      step: 'step',
      wait: 'wait',
    });
    expect(made.value.lacking).toEqual([]);
  });

  it('leaves out what has no device here, and then its macros call nothing rather than something else', () => {
    const bare = importCollectionEdit(there, file, { ...patch, devices: new Map() }, sources, counter());
    if (!bare.ok) throw new Error(bare.error);
    expect(bare.value.lacking).toEqual(['mac']);
    const after = calledIn([...done(there, bare.value.edit), ...controlsOnly()]);
    expect([after.usual, after.step, after.wait]).toEqual([undefined, undefined, undefined]);
  });

  it('says when nothing of it is new, and when it is empty', () => {
    const once = importCollectionEdit(there, { ...file, snapshots: [] }, patch, sources, counter());
    if (!once.ok) throw new Error(once.error);
    const again = importCollectionEdit(
      done(there, once.value.edit),
      { ...file, snapshots: [] },
      patch,
      sources,
      counter(),
    );
    expect(again.ok).toBe(false);
    const empty = readCollection(JSON.stringify({ ...file, snapshots: [], macros: [] }));
    expect(!empty.ok && empty.error).toContain('no snapshots and no macros');
    const newer = readCollection(JSON.stringify({ ...file, version: 4 }));
    expect(!newer.ok && newer.error).toContain('newer version');
  });
});
