import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoShow } from '../../../demo/show';
import { shippedDrivers } from '../../drivers';
import { DriverShelf, expectationsOf, splitKey } from '../driver';
import { ownId, readingsOfCondition, recordSchema, resolveReading, sendsOfControl, type ShowRecord } from '../show';
import {
  bringAbout,
  checkItemSchema,
  checkReportSchema,
  compareReports,
  figuresOf,
  figuresText,
  groupsOf,
  keysOfCommand,
  otherValues,
  planLineCheck,
  putBackOf,
  reportCsv,
  reportOf,
  standingOf,
  tellingResult,
  type CheckItem,
  type CheckResult,
} from '.';

const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const records = demoShow(4700);
const plan = (of: readonly ShowRecord[] = records, canRehearse = true): CheckItem[] =>
  planLineCheck({ records: of, documentOf: ({ data }) => shelf.for(data)?.document, canRehearse: () => canRehearse });
const items = plan();
const documentOf = (driver: string) => {
  const document = shelf.for({ driver })?.document;
  if (!document) throw new Error(`There is no driver ${driver}.`);
  return document;
};

describe('the plan', () => {
  it('has each thing once, in the form that it is handed on in', () => {
    expect(new Set(items.map(({ id }) => id)).size).toBe(items.length);
    for (const item of items) expect(checkItemSchema.parse(item)).toEqual(item);
  });

  it('proves every reference of every kind of record, or says why not', () => {
    const named = new Set(
      items.flatMap(({ devices, controls, pages, macros, panels }) => [
        ...devices,
        ...controls,
        ...pages,
        ...macros,
        ...panels,
      ]),
    );
    for (const record of records) {
      if (record.kind === 'device') expect(named).toContain(record.id);
      if (record.kind === 'panel') expect(named).toContain(record.id);
      if (record.kind === 'macro') expect(named).toContain(record.id);
      if (record.kind === 'tie') expect(items.map(({ id }) => id)).toContain(`tie:${record.id}`);
      if (record.kind === 'inlet') expect(items.map(({ id }) => id)).toContain(`inlet:${record.id}`);
      if (record.kind !== 'control') continue;
      const shown = record.data.lamps
        .flatMap(({ when }) => readingsOfCondition(when).map((ref) => resolveReading(ref, record.data.values)))
        .some(({ device }) => device !== ownId);
      if (sendsOfControl(record.data).length > 0 || shown) expect(named).toContain(record.id);
    }
    expect(items.filter(({ proofs, why }) => proofs.length === 0 && why === undefined)).toEqual([]);
  });

  it('names a command that several controls send once, with all of them', () => {
    const takes = items.filter(({ id }) => id === 'command:dev-switcher:take:{"input":4}');
    expect(takes).toHaveLength(1);
    expect(takes[0]?.controls.length).toBeGreaterThan(1);
    expect(takes[0]?.title).toBe('Take 4 to program');
  });

  it('has the commands that only watches send, those that take graphics out again included', () => {
    const watch: ShowRecord = {
      kind: 'watch',
      id: 'watch-plan',
      version: 1,
      data: {
        name: 'Plan',
        number: 99,
        order: 99,
        note: '',
        when: {
          is: 'key',
          switcher: 'dev-switcher',
          key: 2,
          preRoll: 5,
          out: { sends: [{ device: 'dev-t1', command: 'out', params: { layer: 3 } }], withKey: true },
        },
        delayMs: 0,
        quietMs: 0,
        mostPerMinute: 60,
        sends: [{ device: 'dev-t1', command: 'take', params: { layer: 3 } }],
      },
    };
    const ids = new Set(items.map(({ id }) => id));
    const brought = plan([...records, watch]).filter(({ id }) => !ids.has(id));
    expect(brought.map(({ title }) => title)).toEqual(['Take layer 3', 'Take layer 3 out']);
  });

  it('has each piece of hand gear once for each panel that binds it, and says which binding leads nowhere', () => {
    const binding = (id: string, data: object): ShowRecord => ({
      kind: 'binding',
      id,
      version: 1,
      data: { gear: 'Pads', input: id, page, control, as: 'press', ...data },
    });
    const own = records.find((record) => record.kind === 'control');
    if (own?.kind !== 'control') throw new Error('The demo has controls.');
    const { page } = own.data;
    const control = own.id;
    const reaching = records.find(({ kind, data }) => kind === 'panel' && 'pages' in data && data.pages.includes(page));
    const other = records.find(
      ({ kind, data }) => kind === 'panel' && 'pages' in data && data.pages.length > 0 && !data.pages.includes(page),
    );
    const gear = (more: readonly ShowRecord[]) => plan([...records, ...more]).filter(({ kind }) => kind === 'gear');
    const [here, there, nobody, ...none] = gear([
      binding('note 1 36', { panel: reaching?.id }),
      binding('note 1 37', { panel: reaching?.id }),
      binding('note 1 38', { panel: other?.id }),
      binding('note 1 39', { control: 'gone' }),
    ]);
    expect(none).toEqual([]);
    expect(here).toMatchObject({ panels: [reaching?.id], controls: [control], pages: [page] });
    expect(here?.proofs.map(({ by }) => by)).toEqual(['gear', 'person']);
    expect([here?.fault, here?.why]).toEqual([undefined, undefined]);
    expect(there?.why).toContain('“note 1 38” works a control on a page that the panel does not have');
    expect(nobody).toMatchObject({ title: 'Pads', panels: [] });
    expect(nobody?.fault).toBe('“note 1 39” works a control that is no longer there.');
    const [keys] = gear([binding('key F5', { gear: 'Keyboard' })]);
    expect(keys?.proofs.map(({ by }) => by)).toEqual(['person']);
    const before = here?.fingerprint;
    const [again] = gear([
      binding('note 1 37', { panel: reaching?.id }),
      binding('note 1 36', { panel: reaching?.id }),
    ]);
    expect(again?.fingerprint).toBe(before);
    const [moved] = gear([binding('note 1 36', { panel: reaching?.id, jumps: true })]);
    expect(moved?.fingerprint).not.toBe(before);
  });

  it('has no live proof for what is risky or goes on until it is stopped', () => {
    for (const { proofs, devices, id } of items) {
      const send = proofs.flatMap((proof) => (proof.by === 'put-back' || proof.by === 'query' ? [proof.send] : []))[0];
      const device = records.find((record) => record.id === devices[0]);
      if (!send || device?.kind !== 'device') continue;
      const command = documentOf(device.data.driver).commands[send.command];
      expect([id, command?.risky, command?.stop]).toEqual([id, false, undefined]);
    }
  });

  it('says what cannot work as it is: a command or a device that is gone, a value out of its range', () => {
    const broken = records.map((record): ShowRecord => {
      if (record.id === 'ctl-program-1' && record.kind === 'control')
        return {
          ...record,
          data: { ...record.data, responses: { tap: [{ device: 'dev-switcher', command: 'swap', params: {} }] } },
        };
      if (record.id === 'ctl-program-2' && record.kind === 'control')
        return { ...record, data: { ...record.data, values: { input: 99 } } };
      return record;
    });
    const faults = plan(broken.filter(({ id }) => id !== 'dev-r1')).flatMap(({ fault }) => fault ?? []);
    expect(faults).toContain('The driver has no command “swap” any more.');
    expect(faults.some((fault) => fault.startsWith('“Input”'))).toBe(true);
    expect(faults).toContain('The device or its driver is missing.');
    expect(faults).toContain('A device that it shows is no longer in the rig.');
  });

  it('without stand-ins still proves what the devices can prove', () => {
    const bare = plan(records, false);
    expect(bare.length).toBe(items.length);
    expect(bare.flatMap(({ proofs }) => proofs).some(({ by }) => by === 'rehearsal' || by === 'lamp')).toBe(false);
  });

  it('is of the same fingerprints for the same show, and of others where something that counts has changed', () => {
    const before = new Map(items.map(({ id, fingerprint }) => [id, fingerprint]));
    const moved = records.map((record): ShowRecord =>
      record.id === 'dev-a1' && record.kind === 'device'
        ? { ...record, data: { ...record.data, host: '127.0.0.9' } }
        : record,
    );
    const changed = plan(moved).filter(({ id, fingerprint }) => before.get(id) !== fingerprint);
    expect(changed.length).toBeGreaterThan(20);
    expect(changed.every(({ devices }) => devices.includes('dev-a1'))).toBe(true);
    const renamed = records.map((record): ShowRecord =>
      record.id === 'dev-a1' && record.kind === 'device'
        ? { ...record, data: { ...record.data, name: 'Desk' } }
        : record,
    );
    expect(plan(renamed).filter(({ id, fingerprint }) => before.get(id) !== fingerprint)).toEqual([]);
  });

  it('never throws, whatever of a show is missing', () => {
    let faulty = 0;
    fc.assert(
      fc.property(
        fc.subarray(
          records.filter(({ kind }) => kind !== 'show'),
          { minLength: 20 },
        ),
        (some) => {
          const made = plan(some.map((record) => recordSchema.parse(record)));
          if (made.some(({ fault }) => fault !== undefined)) faulty += 1;
          expect(made.every(({ proofs, why }) => proofs.length > 0 || why !== undefined)).toBe(true);
        },
      ),
      { numRuns: 15 },
    );
    expect(faulty).toBeGreaterThan(5);
  });
});

describe('putting back', () => {
  const mixer = documentOf('audio-mixer');
  const state: Record<string, string | number | boolean> = {
    'strip[2].muted': false,
    'strip[2].level': -7.5,
    lastScene: 1,
  };
  const readingNow = (key: string) => state[key];

  it('finds the command that sets a reading to what it is now', () => {
    const send = { device: 'a', command: 'mute', params: { strip: 2, on: true } };
    const keys = keysOfCommand(mixer, send, readingNow);
    expect(keys).toEqual({ ok: true, value: ['strip[2].muted'] });
    const back = putBackOf(mixer, 'a', ['strip[2].muted'], readingNow);
    expect(back).toMatchObject({
      ok: true,
      value: { sends: [{ device: 'a', command: 'mute', params: { strip: 2, on: false } }] },
    });
  });

  it('refuses what is not known, and what no command or only a risky one sets', () => {
    expect(putBackOf(mixer, 'a', ['strip[3].muted'], readingNow)).toMatchObject({
      ok: false,
      error: expect.stringContaining('not known'),
    });
    const encoder = documentOf('streaming-encoder');
    expect(putBackOf(encoder, 'e', ['kbps'], () => 4000)).toMatchObject({ ok: false });
    expect(putBackOf(encoder, 'e', ['recording'], () => false)).toMatchObject({
      ok: false,
      error: expect.stringContaining('risky'),
    });
  });

  it('restores any state: what is sent back has to report exactly what was before', () => {
    let restored = 0;
    for (const { data } of records.flatMap((record) => (record.kind === 'device' ? [record] : []))) {
      const document = shelf.for(data)?.document;
      for (const item of items.filter(({ kind, devices }) => kind === 'command' && devices[0] !== undefined)) {
        const proof = item.proofs.find(({ by }) => by === 'put-back');
        if (!document || proof?.by !== 'put-back') continue;
        const device = records.find(({ id }) => id === proof.send.device);
        if (device?.kind !== 'device' || device.data.tag !== data.tag) continue;
        fc.assert(
          fc.property(fc.nat({ max: 200 }), (seed) => {
            const now = (key: string) => {
              const shape = document.readings[splitKey(key).family]?.value;
              if (shape?.type === 'onOff') return seed % 2 === 0;
              if (shape?.type === 'choice') return shape.choices[seed % shape.choices.length]?.value;
              return shape?.type === 'whole' ? Number(shape.min ?? 0) + (seed % 3) : undefined;
            };
            const keys = keysOfCommand(document, proof.send, now);
            const back = keys.ok ? putBackOf(document, 'd', keys.value, now) : keys;
            if (!back.ok) return;
            restored += 1;
            const after = new Map<string, unknown>();
            for (const { command, params } of back.value.sends) {
              const sent = document.commands[command];
              for (const { key, equals } of (sent && expectationsOf(sent, params, now)) ?? []) after.set(key, equals);
            }
            for (const [key, value] of back.value.before) expect([key, after.get(key)]).toEqual([key, value]);
          }),
          { numRuns: 4 },
        );
      }
    }
    expect(restored).toBeGreaterThan(100);
  });
});

describe('bringing something about', () => {
  const readings = new Map<string, string | number | boolean>([['program', 2]]);
  const sources = {
    documentOf: (device: string) => (device === 'sw' ? documentOf('vision-switcher') : undefined),
    valueNow: ({ key }: { key: string }) => readings.get(key),
  };
  const test = (op: 'equals' | 'differs', to: number) =>
    ({ op, reading: { device: 'sw', key: 'program' }, to }) as const;

  it.each([
    ['a value', test('equals', 5), true, [{ device: 'sw', command: 'take', params: { input: 5 } }]],
    ['what is so already', test('equals', 2), true, []],
    ['another value', test('equals', 2), false, [{ device: 'sw', command: 'take', params: { input: 1 } }]],
    [
      'the reverse of a difference',
      test('differs', 4),
      false,
      [{ device: 'sw', command: 'take', params: { input: 4 } }],
    ],
    [
      'one of several',
      { any: [test('equals', 7), test('equals', 8)] },
      true,
      [{ device: 'sw', command: 'take', params: { input: 7 } }],
    ],
    ['not', { not: test('equals', 2) }, true, [{ device: 'sw', command: 'take', params: { input: 1 } }]],
  ])('%s', (_name, condition, isTrue, sends) => {
    expect(bringAbout(condition, isTrue, {}, sources)).toEqual({ ok: true, value: sends });
  });

  it('says what no command changes', () => {
    const gone = { op: 'equals', reading: { device: 'no', key: 'x' }, to: 1 } as const;
    expect(bringAbout(gone, true, {}, sources)).toMatchObject({ ok: false, error: 'No command changes “x”.' });
    expect(bringAbout({ cel: 'r0 > 1', readings: [] }, true, {}, sources)).toMatchObject({ ok: false });
  });

  it('knows other values of a kind', () => {
    expect(otherValues(undefined, true)).toEqual([false]);
    expect(otherValues({ type: 'whole', min: 1, max: 3 }, 1)).toEqual([2]);
    expect(otherValues(undefined, 'text')).toEqual([]);
  });
});

describe('where an item stands', () => {
  const item = items.find(({ proofs }) => proofs.map(({ by }) => by).join() === 'put-back,use,rehearsal') as CheckItem;
  const result = (by: CheckResult['by'], state: CheckResult['state'], more: object = {}): CheckResult => ({
    item: item.id,
    fingerprint: item.fingerprint,
    by,
    state,
    at: 1000,
    text: 'seen',
    who: 'Ada',
    ...more,
  });

  it.each([
    ['open at first', {}, 'open'],
    ['passed by a rehearsal', { rehearsal: result('rehearsal', 'passed') }, 'passed'],
    [
      'failed at the device although it passed in the rehearsal',
      { rehearsal: result('rehearsal', 'passed'), 'put-back': result('put-back', 'failed') },
      'failed',
    ],
    [
      'doubtful after a use that was not confirmed, though it passed in the rehearsal',
      { rehearsal: result('rehearsal', 'passed', { at: 2000 }), use: result('use', 'doubtful') },
      'doubtful',
    ],
    [
      'passed where it was tried at the device after a use that was not confirmed',
      { 'put-back': result('put-back', 'passed', { at: 2000 }), use: result('use', 'doubtful') },
      'passed',
    ],
    [
      'doubtful where the use came last',
      { 'put-back': result('put-back', 'passed'), use: result('use', 'doubtful', { at: 2000 }) },
      'doubtful',
    ],
    ['open where it could not be tried', { rehearsal: result('rehearsal', 'unproved') }, 'open'],
    ['due once something has changed', { rehearsal: result('rehearsal', 'passed', { fingerprint: 'another' }) }, 'due'],
    ['due with another firmware', { rehearsal: result('rehearsal', 'passed', { firmware: '1.0' }) }, 'due'],
    [
      'failed while the device is left changed, whatever has changed since',
      {
        'put-back': result('put-back', 'failed', {
          fingerprint: 'another',
          left: [{ device: 'd', key: 'k', before: 1 }],
        }),
      },
      'failed',
    ],
    ['open where the result is of a proof that it does not have', { names: result('names', 'passed') }, 'open'],
  ] as const)('%s', (_name, results, standing) => {
    expect(standingOf(item, results, '2.0')).toBe(standing);
  });

  it('tells the worst of what counts', () => {
    const results = { rehearsal: result('rehearsal', 'passed'), 'put-back': result('put-back', 'failed') };
    expect(tellingResult(item, results)?.by).toBe('put-back');
    expect(standingOf({ ...item, proofs: [], why: 'no way' }, results)).toBe('none');
    expect(standingOf({ ...item, fault: 'gone' }, results)).toBe('failed');
  });

  it('is counted, and told in a line', () => {
    const figures = figuresOf(['passed', 'passed', 'failed', 'none', 'due']);
    expect([figures.total, figures.share]).toEqual([5, 0.5]);
    expect(figuresText(figures)).toBe('2 of 4 proved, 1 failed, 1 due again');
    expect(figuresText(figuresOf([]))).toBe('nothing to prove');
  });

  it('is listed by device or page: what needs somebody first', () => {
    const listed = items.map((each, n) => ({
      ...each,
      standing: n % 7 === 0 ? ('failed' as const) : ('passed' as const),
    }));
    const wanted = { by: 'device', isToDo: false, search: '', titleOf: (id: string) => id } as const;
    const groups = groupsOf(listed, wanted);
    expect(groups.reduce((sum, { items: own }) => sum + own.length, 0)).toBe(items.length);
    expect(groups.slice(-2).map(({ title }) => title)).toEqual(['Inlets', 'Panels and hand gear']);
    for (const { items: own } of groups) {
      const firstPassed = own.findIndex(({ standing }) => standing === 'passed');
      expect(own.slice(firstPassed < 0 ? own.length : firstPassed).some(({ standing }) => standing === 'failed')).toBe(
        false,
      );
    }
    expect(
      groupsOf(listed, { ...wanted, isToDo: true })
        .flatMap((group) => group.items)
        .every(({ standing }) => standing === 'failed'),
    ).toBe(true);
    expect(
      groupsOf(listed, { ...wanted, by: 'page', search: 'program take 4' }).flatMap((group) =>
        group.items.map(({ title }) => title),
      ),
    ).toContain('Take 4 to program');
  });
});

describe('the report', () => {
  const sources = {
    show: 'Tidewick Regatta',
    revision: 3,
    at: 1000,
    items,
    drills: [],
    resultsOf: () => ({}),
    firmwareOf: () => undefined,
    tagOf: (id: string) => id.toUpperCase(),
    pageOf: (id: string) => id,
    timeOf: String,
  };

  it('is as its schema says, without addresses', () => {
    const report = reportOf(sources);
    expect(checkReportSchema.parse(report)).toEqual(report);
    expect(JSON.stringify(report)).not.toMatch(/127\.0\.0\.1|password/);
    expect(report.count.open + report.count.none).toBe(items.length);
  });

  it('has the drills that were run', () => {
    const fault = { fault: 'off' as const, subject: 'cam', name: 'C1', afterSeconds: 5, noticedMs: 300 };
    const drill = { id: 'd', name: 'Power', who: 'Ada', startedAt: 1, endedAt: 2, isCut: true, faults: [fault] };
    const report = reportOf({ ...sources, drills: [drill] });
    expect(checkReportSchema.parse(report).drills).toMatchObject([{ name: 'Power', faults: [{ noticedMs: 300 }] }]);
  });

  it('is compared with an earlier one: what stands otherwise, is new or gone', () => {
    const later = reportOf(sources);
    const [first, second, third] = later.items;
    if (!first || !second || !third) throw new Error('too few items');
    const earlier = {
      ...later,
      items: [{ ...first, standing: 'passed' as const }, { ...second, id: 'gone' }, ...later.items.slice(2)],
    };
    const changes = compareReports(earlier, later).map(({ item, before, now }) => [item.id, before, now]);
    expect(changes).toHaveLength(3);
    expect(changes).toContainEqual([first.id, 'passed', first.standing]);
    expect(changes).toContainEqual([second.id, null, second.standing]);
    expect(changes).toContainEqual(['gone', second.standing, null]);
    expect(compareReports(later, later)).toEqual([]);
  });

  it('is a table with a line for each item', () => {
    const lines = reportCsv(sources).split('\r\n');
    expect(lines[0]).toBe('device,kind,item,pages,result,proof,seen,who,at,ms');
    expect(lines).toHaveLength(items.length + 1);
  });
});
