import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { demoShow } from '../../../demo/show';
import { applied, compiled, contentOf, pageRecord, type Doc } from '../../../test/support/records';
import { problemsOf, problemsOfPage } from '../check';
import { shippedDrivers } from '../../drivers';
import { DriverShelf } from '../driver';
import { canonicalJson } from './canonical';
import { startOfStarter } from './control-start';
import { ownDocument } from './own-device';
import { deviceFormOf, freeTag, signsIn, withDeviceForm } from './device-form';
import { differManifests } from './difference';
import { applyEdit, editSchema, invertEdit, rebaseEdit, type Edit, type RecordChange } from './edit';
import type { Condition } from './conditions';
import { recordSchema, type ControlRecord, type LampRule, type PageRecord, type ShowRecord } from './records';

const driver = compiled(visionSwitcher);

const page = (id: string, name: string, version = 1): PageRecord => ({ ...pageRecord(id, name), version });

/** A random edit that fits the document. */
const editFor = (doc: Doc, picks: readonly number[]): Edit => {
  const changes: RecordChange[] = [];
  const touched = new Set<string>();
  for (const pick of picks) {
    const id = `p${pick % 5}`;
    if (touched.has(id)) continue;
    touched.add(id);
    const now = doc.get(id) as PageRecord | undefined;
    if (!now) changes.push({ op: 'add', record: page(id, `name ${pick}`) });
    else if (pick % 3 === 0) changes.push({ op: 'remove', record: now });
    else changes.push({ op: 'update', from: now, to: { ...now, data: { ...now.data, name: `name ${pick}` } } });
  }
  return { title: 'an edit', changes };
};

describe('the title of an edit', () => {
  const long = 'W'.repeat(300);

  it('that quotes a long label is cut, and the control stays editable', () => {
    const edit = editSchema.parse({ title: `Edit “${long}”`, changes: [] });
    expect(edit.title).toHaveLength(120);
    expect(edit.title.endsWith('W…')).toBe(true);
  });

  it('stays as it is when it fits', () => {
    expect(editSchema.parse({ title: 'Edit “Wide”', changes: [] }).title).toBe('Edit “Wide”');
    expect(editSchema.safeParse({ title: '', changes: [] }).success).toBe(false);
  });
});

describe('edits', () => {
  const picks = fc.array(fc.array(fc.nat(200), { minLength: 1, maxLength: 4 }), { maxLength: 12 });

  it('applied and then inverted leave the content as it was', () => {
    fc.assert(
      fc.property(picks, (steps) => {
        let doc: Doc = new Map();
        for (const step of steps) {
          const before = contentOf(doc);
          const done = applied(doc, editFor(doc, step));
          if (!done) throw new Error('A fitting edit was refused.');
          const undone = applied(done.doc, invertEdit(done.edit));
          expect(undone && contentOf(undone.doc)).toBe(before);
          doc = done.doc;
        }
      }),
    );
  });

  it('can be taken back one after the other to the start, and done again to the end', () => {
    fc.assert(
      fc.property(picks, (steps) => {
        let doc: Doc = new Map();
        const log: Edit[] = [];
        for (const step of steps) {
          const done = applied(doc, editFor(doc, step));
          if (!done) throw new Error('A fitting edit was refused.');
          doc = done.doc;
          log.push(done.edit);
        }
        const end = contentOf(doc);
        const turn = (edit: Edit): Edit => {
          const done = applied(
            doc,
            rebaseEdit((id) => doc.get(id), invertEdit(edit)),
          );
          if (!done) throw new Error('An undo was refused.');
          doc = done.doc;
          return done.edit;
        };
        const undone = [...log].reverse().map(turn);
        expect(doc.size).toBe(0);
        for (const edit of undone.reverse()) turn(edit);
        expect(contentOf(doc)).toBe(end);
      }),
    );
  });

  it('go through JSON unchanged', () => {
    const edit = editFor(new Map(), [1, 2]);
    expect(editSchema.parse(JSON.parse(JSON.stringify(edit)))).toEqual(edit);
  });

  it.each([
    ['adding what exists', { op: 'add', record: page('p1', 'x') }, 'exists'],
    ['updating what is gone', { op: 'update', from: page('p9', 'x'), to: page('p9', 'y') }, 'missing'],
    ['updating an older version', { op: 'update', from: page('p1', 'x', 6), to: page('p1', 'y') }, 'changed-meanwhile'],
    ['removing an older version', { op: 'remove', record: page('p1', 'x', 6) }, 'changed-meanwhile'],
    [
      'turning one record into another',
      { op: 'update', from: page('p1', 'one', 7), to: page('p2', 'y') },
      'not-the-same',
    ],
  ] as const)('refuse %s and change nothing', (_name, change, code) => {
    const doc = new Map<string, ShowRecord>([
      ['p1', page('p1', 'one', 7)],
      ['p2', page('p2', 'two', 7)],
    ]);
    const result = applyEdit((id) => doc.get(id), { title: 'x', changes: [change] });
    expect(!result.ok && result.error.code).toBe(code);
  });

  it('do not take back what somebody else has changed since', () => {
    const first = applied(new Map([['p1', page('p1', 'one')]]), {
      title: 'a',
      changes: [{ op: 'update', from: page('p1', 'one'), to: page('p1', 'two') }],
    });
    if (!first) throw new Error('Refused.');
    const foreign = new Map([['p1', page('p1', 'three', 3)]]);
    const undo = rebaseEdit((id) => foreign.get(id), invertEdit(first.edit));
    expect(applied(foreign, undo)).toBeUndefined();
  });
});

describe('the demo show', () => {
  const records = demoShow(4400);

  it('is made of valid records', () => {
    for (const record of records) expect(recordSchema.safeParse(record).error).toBeUndefined();
  });

  it('has nothing in it that does not work', () => {
    const shelf = new DriverShelf();
    expect(shelf.put(shippedDrivers)).toEqual([]);
    expect(problemsOf(records, ({ data }) => shelf.for(data))).toEqual([]);
  });
});

describe('what will not work', () => {
  const records = demoShow(4400);
  const take = records.find((record): record is ControlRecord => record.id === 'ctl-program-1');
  if (!take) throw new Error('The demo show has changed.');
  const messagesWith = (change: (data: ControlRecord['data']) => ControlRecord['data']) =>
    problemsOf(
      [...records.filter((record) => record !== take), { ...take, data: change(take.data) }],
      () => driver,
    ).map(({ message }) => message);

  const program = { device: 'dev-switcher', key: 'program' };
  const name = { device: 'dev-switcher', key: 'input[1].name' };
  const lit = (when: Condition): LampRule => ({ when, show: 'active' });
  it.each([
    [
      'a missing device',
      (data: ControlRecord['data']) => ({
        ...data,
        responses: { tap: [{ device: 'gone', command: 'take', params: {} }] },
      }),
      'no longer in the rig',
    ],
    [
      'a command that the driver does not have',
      (data: ControlRecord['data']) => ({
        ...data,
        responses: { tap: [{ device: 'dev-switcher', command: 'leap', params: {} }] },
      }),
      'no command',
    ],
    [
      'an input that does not exist',
      (data: ControlRecord['data']) => ({ ...data, values: { input: 13 } }),
      'above the largest',
    ],
    ['a place outside the page', (data: ControlRecord['data']) => ({ ...data, col: 40 }), 'outside its page'],
    ['a missing page', (data: ControlRecord['data']) => ({ ...data, page: 'gone' }), 'page no longer exists'],
    [
      'a shift level that its page does not have',
      (data: ControlRecord['data']) => ({ ...data, sets: { shift: 'gone', while: 'held' as const } }),
      'no longer on its page',
    ],
    [
      'a text that is to be above a number',
      (data: ControlRecord['data']) => ({ ...data, lamps: [lit({ op: 'above', reading: name, to: 3 })] }),
      'is a text: it cannot be above or below anything',
    ],
    [
      'a number that is to be a text, deep in a condition',
      (data: ControlRecord['data']) => ({
        ...data,
        lamps: [lit({ not: { any: [{ op: 'equals', reading: program, to: 'three' }] } })],
      }),
      'is a number: it cannot be compared with “three”',
    ],
    [
      'a value that the control does not have',
      (data: ControlRecord['data']) => ({
        ...data,
        lamps: [lit({ op: 'equals', reading: program, to: { value: 'lane' } })],
      }),
      'compared with a value that the control does not have',
    ],
    [
      'an expression whose types do not go together',
      (data: ControlRecord['data']) => ({ ...data, lamps: [lit({ cel: 'r0 == "x"', readings: [program] })] }),
      'These types cannot be combined: int == string',
    ],
    [
      'a reading that is gone, in an expression',
      (data: ControlRecord['data']) => ({
        ...data,
        lamps: [lit({ cel: 'r0 == 3', readings: [{ ...program, key: 'programm' }] })],
      }),
      'Is “program” meant?',
    ],
  ])('names %s', (_name, change, words) => {
    expect(messagesWith(change).join('\n')).toContain(words);
  });

  const page = records.find((record) => record.kind === 'page' && record.id === take.data.page);
  if (page?.kind !== 'page') throw new Error('The demo show has changed.');
  const [zone] = page.data.zones;
  if (!zone) throw new Error('The demo show has changed.');
  const sources = {
    device: (id: string) => {
      const found = records.find((each) => each.id === id);
      return found?.kind === 'device' ? found : undefined;
    },
    page: () => page,
    document: () => driver.document,
  };
  const zoom = { device: 'dev-c1', key: Object.keys(driver.document.readings)[0] ?? '' };
  const last = { whenNone: 'last' as const };
  it.each([
    [
      'a device that a zone picked',
      { zones: [{ ...zone, pick: { devices: ['dev-c1', 'dev-c2', 'gone'] } }] },
      'no longer in the rig',
      { zones: [{ ...zone, pick: { devices: ['dev-c1', 'dev-c2'] } }] },
    ],
    [
      'the last but one that a zone picked',
      { zones: [{ ...zone, pick: { devices: ['dev-c1', 'gone'] } }] },
      'no longer in the rig',
      { zones: [zone] },
    ],
    [
      'a reading that a zone goes with',
      { zones: [{ ...zone, pick: { devices: ['dev-c1'], follow: [{ device: 'dev-c1', key: 'nothing' }], ...last } }] },
      'does not have',
      { zones: [{ ...zone, pick: { devices: ['dev-c1'] } }] },
    ],
    [
      'one of the readings that a zone goes with',
      {
        zones: [
          { ...zone, pick: { devices: ['dev-c1'], follow: [{ device: 'gone', key: 'preview' }, zoom], ...last } },
        ],
      },
      'no longer in the rig',
      { zones: [{ ...zone, pick: { devices: ['dev-c1'], follow: [zoom], ...last } }] },
    ],
    [
      'the device whose reading calls a page',
      { calledBy: { when: { any: [{ op: 'equals', reading: { device: 'gone', key: 'program' }, to: 1 } as const] } } },
      'no longer in the rig',
      {},
    ],
  ])('names and mends %s', (_name, change, words, mended) => {
    const plain = { ...page.data, zones: [zone] };
    const { zones, ...rest } = plain;
    const broken = { ...page, data: { ...rest, zones, ...change } };
    const [problem, ...more] = problemsOfPage(broken, sources);
    expect(problem?.message).toContain(words);
    expect(more).toEqual([]);
    expect(problem?.to).toEqual({ ...plain, ...mended });
    expect(problemsOf([...records.filter(({ id }) => id !== page.id), broken], () => driver)).toContainEqual({
      record: page.id,
      message: problem?.message,
    });
  });
});

it('finds what differs between two manifests', () => {
  const from = new Map([
    ['a', '1'],
    ['b', '2'],
    ['c', '3'],
  ]);
  const to = new Map([
    ['a', '1'],
    ['b', '9'],
    ['d', '4'],
  ]);
  expect(differManifests(from, to)).toEqual({ put: ['b', 'd'], remove: ['c'] });
});

it('writes equal content as equal text', () => {
  expect(canonicalJson({ b: [1, { d: undefined, c: 'x' }], a: null })).toBe('{"a":null,"b":[1,{"c":"x"}]}');
});

describe('the form of a device', () => {
  const sample = demoShow(4400).find((record) => record.kind === 'device' && record.data.tag === 'S1');
  if (sample?.kind !== 'device') throw new Error('no S1');
  const screen = { role: 'screen' } as const;

  it('saved without a change leaves the device as it is', () => {
    expect(withDeviceForm(sample.data, deviceFormOf(sample), screen)).toEqual(sample.data);
  });

  it('moves it to an address of its own, or behind another gateway, and touches nothing else', () => {
    const form = deviceFormOf(sample);
    const own = withDeviceForm(sample.data, { ...form, through: '', host: ' 10.0.0.9 ' }, screen);
    expect([own.host, own.through]).toEqual(['10.0.0.9', undefined]);
    const other = withDeviceForm(sample.data, { ...form, through: 'dev-other', throughPort: 'b' }, screen);
    expect(other).toEqual({ ...sample.data, through: { device: 'dev-other', port: 'b' } });
  });

  it('offers the first free tag', () => {
    expect(freeTag('camera', ['c1', 'C2', 'SW1'])).toBe('C3');
    expect(freeTag('switcher', ['c1'])).toBe('SW1');
    expect(freeTag('lighting', [])).toBe('LIG1');
  });

  it('asks for name and password where the driver signs in', () => {
    const shelf = new DriverShelf();
    shelf.put(shippedDrivers);
    const signs = (id: string) => signsIn((shelf.for({ driver: id }) ?? driver).document);
    expect([signs('streaming-encoder'), signs('vision-switcher')]).toEqual([true, false]);
  });
});

it('makes a held control of a starter for something that goes on', () => {
  const start = startOfStarter(
    'dev',
    {
      purpose: 'Move',
      title: 'Left',
      command: 'move',
      params: { to: 'left' },
      held: true,
      lamps: [],
      label: undefined,
      asks: [],
    },
    ownDocument,
  );
  expect(start.responses).toEqual({ tap: [], held: [{ device: 'dev', command: 'move', params: { to: 'left' } }] });
});
