import { describe, expect, it } from 'vitest';
import {
  applied,
  controlRecord,
  counter,
  deviceRecord,
  done,
  macroRecord,
  must,
  pageRecord,
  type Doc,
} from '../../../test/support/records';
import { shippedDrivers } from '../../drivers';
import { problemsBrought } from '../check';
import { DriverShelf } from '../driver';
import { summaryOf, type ControlRecord, type DeviceRecord, type PanelRecord, type ShowRecord } from '../show';
import { clipText, pasteEdit, readClip } from '../page/clip';
import { changesAllLevels, changedAtLevel, inContext } from '../page/context';
import { usualContext } from '../page/context-key';
import { guessPatch, importEdit, patchRows } from './import-pages';
import { duplicatePageEdit, removeControlsEdit } from '../page/page-edits';
import { pageFileOf, readPageFile, pageFileText, type PageFile } from './page-file';
import { sameControls } from '../page/same-controls';
import { setBy } from '../page/sets';
import { copyZoneEdit } from '../page/zones';

/** What travels with pages and controls, and what must not change on the way. */

const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const documentOf = ({ data }: DeviceRecord) => shelf.for(data)?.document;

const take = (input: number, device = 'dev-SW1') => ({ tap: [{ device, command: 'take', params: { input } }] });
const page = pageRecord('page', 'Race', {
  zones: [{ id: 'z1', title: 'Cameras', col: 0, row: 0, cols: 3, rows: 1, pick: { devices: ['dev-C1', 'dev-C2'] } }],
});
const hidden = controlRecord('secret', { responses: take(1), label: [{ text: 'End of show' }] });
const shown = controlRecord('shown', { col: 1, responses: take(2), label: [{ text: 'Finish' }] });
const picks = (n: 1 | 2) =>
  controlRecord(`pick-${n}`, { col: n, row: 0, sets: { zone: 'z1', device: `dev-C${n}` }, label: [{ text: `C${n}` }] });
const panel: PanelRecord = {
  kind: 'panel',
  id: 'crew',
  version: 1,
  data: { name: 'Crew', path: 'crew', order: 1, pages: [], hidden: ['secret'], brightness: 100 },
};
const rig: ShowRecord[] = [
  { kind: 'show', id: 'show', version: 1, data: { name: 'Trial', note: '' } },
  deviceRecord('SW1', { driver: 'vision-switcher', role: 'switcher' }),
  deviceRecord('C1'),
  deviceRecord('C2'),
  deviceRecord('G1', { driver: 'relay-gateway', role: 'gateway' }),
];
const show = [...rig, page, hidden, shown, panel];
const hiddenIn = (records: readonly ShowRecord[]) =>
  (records.find(({ id }) => id === 'crew') as PanelRecord).data.hidden;
const labelled = (records: readonly ShowRecord[], text: string) =>
  records.filter(
    (record): record is ControlRecord =>
      record.kind === 'control' && record.data.label.some((part) => 'text' in part && part.text === text),
  );
const over = (records: readonly ShowRecord[], file: PageFile) =>
  must(
    importEdit(
      records,
      file,
      guessPatch(file, records),
      new Map([[file.pages[0]?.id ?? '', { over: 'page' }]]),
      new Map(),
      documentOf,
      counter(),
    ),
  ).edit;

describe('what is hidden from a panel', () => {
  it('stays hidden when a page is imported over the one that it is on', () => {
    const file = pageFileOf(show, [page]);
    const changed: PageFile = {
      ...file,
      controls: file.controls.map((data) => (data.col === 1 ? { ...data, label: [{ text: 'Finish line' }] } : data)),
    };
    const edit = over(show, changed);
    const after = done(show, edit);
    const [secret] = labelled(after, 'End of show');
    expect(secret?.id).toBe('secret');
    expect(hiddenIn(after)).toContain(secret?.id);
    // The one that is labelled otherwise lies in the same cell and does the same: it stays the same control, too.
    expect(labelled(after, 'Finish line').map(({ id }) => id)).toEqual(['shown']);
    expect(summaryOf(edit).kinds.find(({ kind }) => kind === 'control')).toMatchObject({
      added: [],
      changed: ['Finish line'],
      gone: [],
    });
  });

  it('is matched each once, the most alike first', () => {
    const twin = controlRecord('twin', { ...shown.data, col: 2 });
    const fresh = [twin.data, { ...shown.data, col: 0 }, shown.data];
    const { pairs, left } = sameControls([shown, twin, hidden], fresh);
    expect(pairs.map(({ was }) => was?.id)).toEqual(['twin', 'secret', 'shown']);
    expect(left).toEqual([]);
  });

  it('stays hidden when it is cut and pasted, and when its page is duplicated', () => {
    const text = clipText(show, [hidden]);
    const cut: Doc = new Map(done(show, removeControlsEdit([hidden], 'Cut')).map((record) => [record.id, record]));
    const clip = must(readClip(text));
    const pasted = must(pasteEdit([...cut.values()], page, clip, { col: 2, row: 1 }, counter()));
    const after = [...(applied(cut, pasted.edit)?.doc.values() ?? [])];
    expect(hiddenIn(after)).toContain(labelled(after, 'End of show')[0]?.id);

    const copied = done(show, duplicatePageEdit(show, page, counter()).edit);
    for (const { id } of labelled(copied, 'End of show')) expect(hiddenIn(copied)).toContain(id);
    for (const { id } of labelled(copied, 'Finish')) expect(hiddenIn(copied)).not.toContain(id);
  });
});

describe('pick buttons', () => {
  const own = [picks(1), picks(2)];

  it('pick what they are made for, also of the first device inside their own zone', () => {
    const inZone = own.map((control) =>
      inContext(control, page, undefined, () => 'dev-C2', { documentOf: () => undefined, roleOf: () => undefined }),
    );
    expect(inZone.map(({ data }) => data.sets)).toEqual(own.map(({ data }) => data.sets));
  });

  it('pick what is picked or followed already, instead of giving it back', () => {
    const sets = { zone: 'z1', device: 'dev-C1' };
    const once = setBy(usualContext, sets, true);
    expect(once.picks).toEqual({ z1: 'dev-C1' });
    expect(setBy(setBy(once, sets, false), sets, true)).toEqual(once);
  });

  it('of a zone that is copied pick in the copy', () => {
    const all = [...rig, page, ...own];
    const made = must(
      copyZoneEdit(all, page, page.data.zones[0] as never, undefined, 'Cameras 2', counter(), {
        documentOf: () => undefined,
        roleOf: () => undefined,
      }),
    );
    const after = done(all, made.edit);
    const zones = after.flatMap((record) =>
      record.kind === 'control' && record.data.sets && 'zone' in record.data.sets ? [record.data.sets.zone] : [],
    );
    expect(zones.sort()).toEqual(['z1', 'z1', made.zone.id, made.zone.id].sort());
  });

  it('of a level: while held, or chosen until it is chosen again', () => {
    const held = { shift: 's1', while: 'held' } as const;
    expect(setBy(setBy(usualContext, held, true), held, false).shift).toBeUndefined();
    const chosen = { shift: 's1', while: 'chosen' } as const;
    const once = setBy(usualContext, chosen, true);
    expect([once.shift, setBy(once, chosen, false).shift, setBy(once, chosen, true).shift]).toEqual([
      's1',
      's1',
      undefined,
    ]);
  });
});

describe('a file of pages', () => {
  const light = (on: boolean) => ({ device: 'dev-G1', command: 'light', params: { light: 'boat', on } });
  const inner = macroRecord('inner', [
    { steps: [{ id: 'p', at: 0, does: { is: 'pulse', on: light(true), off: light(false), forMs: 500 } }] },
  ]);
  const outer = macroRecord('outer', [
    {
      steps: [
        { id: 'n', at: 0, does: { is: 'macro', macro: 'inner', params: {} } },
        { id: 'g', at: 9, does: { is: 'page', page: 'page' } },
        { id: 'o', at: 9, does: { is: 'page', page: 'page-gone', panel: 'crew' } },
      ],
    },
  ]);
  const alone = macroRecord('alone', [{ steps: [] }]);
  const hash = 'a'.repeat(64);
  const runs = controlRecord('runs', {
    responses: { tap: [], runs: { macro: 'outer', params: {} } },
    lamps: [{ when: { op: 'equals', reading: { device: 'dev-SW1', key: 'program' }, to: 1 }, picture: hash }],
  });
  const all = [...rig, page, runs, inner, outer, alone];
  const picture = { hash, type: 'image/png', base64: 'AAAA' } as const;
  const file = must(readPageFile(pageFileText(pageFileOf(all, [page], [picture]))));

  it('takes along the macros that its controls begin, with what those begin, and pictures that only rules show', () => {
    expect(file.macros.map(({ data }) => data.name)).toEqual(['outer', 'inner']);
    expect(file.pictures.map((each) => each.hash)).toEqual([hash]);
    // A device that only a macro names is patched like any other.
    expect(file.devices.map(({ tag }) => tag)).toContain('G1');
  });

  it('brings them into another show, patched, and says what will not work and why', () => {
    const other = rig
      .filter(({ id }) => id !== 'dev-G1')
      .map((record): ShowRecord => (record.kind === 'device' ? { ...record, id: `x-${record.id}` } : record));
    const { edit } = must(
      importEdit(other, file, guessPatch(file, other), new Map(), new Map(), documentOf, counter()),
    );
    const after = done(other, edit);
    const control = after.find((each): each is ControlRecord => each.kind === 'control');
    const begun = after.find(({ id }) => id === control?.data.responses.runs?.macro);
    expect(begun?.kind === 'macro' && begun.data.name).toBe('outer');
    const calls = begun?.kind === 'macro' ? begun.data.segments[0]?.steps.map(({ does }) => does) : [];
    const called = calls?.find((does) => does.is === 'macro');
    expect(after.some(({ id }) => called?.is === 'macro' && id === called.macro)).toBe(true);
    const goes = calls?.find((does) => does.is === 'page');
    expect(goes?.is === 'page' && goes.page).toBe(control?.data.page);
    const broken = problemsBrought(other, edit, (device) => shelf.for(device.data));
    expect(broken.map(({ where }) => where)).toContain('Macro inner');
    expect(broken.find(({ where }) => where === 'Macro outer')?.message).toMatch(/panel no longer exists/);
  });

  it('does not bring a macro that is there to the letter a second time', () => {
    const edit = over(all, file);
    expect(edit.changes.filter(({ op }) => op === 'add')).toEqual([]);
    const rows = patchRows(file, guessPatch(file, all), all, documentOf);
    expect(rows.find(({ mention }) => mention.tag === 'G1')?.cannot).toEqual([]);
  });

  it('of version 1, without macros, is still read', () => {
    const { macros: _, ...rest } = file;
    const old = readPageFile(JSON.stringify({ ...rest, version: 1 }));
    expect(old.ok && old.value.macros).toEqual([]);
  });
});

describe('a change that is made on a shift level', () => {
  const levelled = { ...shown.data, shifts: {} };
  it.each<[string, (data: ControlRecord['data']) => ControlRecord['data'], boolean]>([
    ['a label', (data) => ({ ...data, label: [{ text: 'x' }] }), false],
    ['a picture', (data) => ({ ...data, picture: 'b'.repeat(64) }), false],
    ['a fader', (data) => ({ ...data, range: { send: take(1).tap[0] as never, param: 'x', min: 0, max: 1 } }), true],
    ['a stick', (data) => ({ ...data, drive: { device: 'dev-C1', drive: 'head' } }), true],
    ['a list', (data) => ({ ...data, list: { device: 'dev-R1', list: 'clips', form: 'small' as const } }), true],
  ])('of %s says whether it changes all levels', (_name, change, everywhere) => {
    expect(changesAllLevels(levelled, 's1', change)).toBe(everywhere);
    expect(changesAllLevels(levelled, undefined, change)).toBe(false);
  });

  it('of a picture is that level’s own', () => {
    const hash = 'b'.repeat(64);
    const changed = changedAtLevel(shown.data, 's1', (data) => ({ ...data, picture: hash }));
    expect([changed.picture, changed.shifts?.s1?.picture]).toEqual([undefined, hash]);
  });
});
