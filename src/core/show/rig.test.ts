import { describe, expect, it } from 'vitest';
import { deviceRecord } from '../../../test/support/records';
import { conflictsOf, sameDevice } from '../check';
import { compileDriver, type DriverDocument } from '../driver';
import { parseSubnet } from '../net';
import { shippedDrivers } from '../../drivers';
import { applyEdit, invertEdit, type Edit } from './edit';
import { deviceFormOf, deviceFormProblems } from './device-form';
import { driverOfText, searchDrivers } from './driver-search';
import type { DeviceRecord, ShowRecord, TieRecord } from './records';
import { firstSteps } from './first-steps';
import { usersOfDevice, usersText, usesOfRig } from './references';
import {
  changeDevicesEdit,
  duplicateDeviceEdit,
  enterTableEdit,
  nextTag,
  removeDevicesEdit,
  shiftAddressesEdit,
  tieEdit,
} from './rig-edits';
import { readRigTable, rigTable } from './rig-table';
import { loadEdit, readShowFile, showFileOf, withoutAddresses } from './show-file';

const drivers = shippedDrivers.flatMap((document): DriverDocument[] => {
  const compiled = compileDriver(document);
  return compiled.ok ? [compiled.value.document] : [];
});
const show: ShowRecord = { kind: 'show', id: 'show', version: 1, data: { name: 'Trial', note: '' } };
const apply = (records: readonly ShowRecord[], edit: Edit): Map<string, ShowRecord> => {
  const all = new Map(records.map((record) => [record.id, record]));
  const done = applyEdit((id) => all.get(id), edit);
  if (!done.ok) throw new Error(done.error.message);
  for (const record of done.value.puts) all.set(record.id, record);
  for (const { id } of done.value.removes) all.delete(id);
  return all;
};

describe('a pasted table', () => {
  const read = (text: string, records: readonly ShowRecord[] = []) => readRigTable(text, drivers, records);

  it('is understood with tabs, without a heading, and with what people paste into an address', () => {
    const [row] = read('CAM5\tJib\tptz-camera\thttp://10.0.20.15:52381/\t\t\t');
    expect(row?.device).toMatchObject({ tag: 'CAM5', name: 'Jib', role: 'camera', host: '10.0.20.15', port: 52381 });
    expect(row?.changes).toHaveLength(2);
  });

  it('is understood with a heading in any order, commas, and drivers by their words', () => {
    const rows = read('IP,Tag,Type,Password\n10.0.0.9,ENC1,streaming encoder, geheim \n');
    expect(rows[0]?.device).toMatchObject({ tag: 'ENC1', driver: 'streaming-encoder', host: '10.0.0.9', port: 4406 });
    expect(rows[0]?.password).toBe(' geheim ');
  });

  it('says line by line what is wrong, and takes the rest', () => {
    const rows = read(
      [
        'tag\tdriver\taddress\tport',
        'A1\tptz-camera\t10.0.0.1\t',
        'a1\tptz-camera\t10.0.0.2\t',
        '9x\tnonsense\t10.0.0\t99999',
      ].join('\n'),
    );
    expect(rows.map(({ line, device: made }) => [line, made !== undefined])).toEqual([
      [2, true],
      [3, false],
      [4, false],
    ]);
    expect(rows[1]?.problems).toMatchObject([{ path: 'tag', message: 'line 2 has this tag already' }]);
    expect(rows[2]?.problems.map(({ path }) => path)).toEqual(['tag', 'driver', 'address', 'port']);
  });

  it('changes a device that has the tag, and keeps what the row leaves empty', () => {
    const known = deviceRecord('C1', { name: 'Tower', site: 'Start', host: '10.0.0.1' });
    const [row] = read('C1\t\t\t10.0.7.1\t\t\t', [known]);
    expect(row?.device).toMatchObject({
      name: 'Tower',
      site: 'Start',
      driver: 'ptz-camera',
      host: '10.0.7.1',
      port: 4402,
    });
    const { edit } = enterTableEdit(row ? [row] : [], () => 'never');
    expect(apply([known], edit).get('dev-C1')).toMatchObject({ version: 2, data: { host: '10.0.7.1' } });
  });

  it('comes back out as it went in, without passwords', () => {
    const records = [deviceRecord('C2', { host: '10.0.0.2' }), deviceRecord('C10', { host: '10.0.0.10' })];
    const table = rigTable(records);
    expect(table.split('\n').map((line) => line.split('\t')[0])).toEqual(['tag', 'C2', 'C10']);
    expect(table).not.toContain('password');
    expect(read(table).map((row) => row.device?.host)).toEqual(['10.0.0.2', '10.0.0.10']);
  });

  it('that says nothing or nonsense makes nothing', () => {
    expect(read('')).toEqual([]);
    expect(read('\0\t\t').every((row) => row.device === undefined)).toBe(true);
  });
});

describe('drivers', () => {
  it('are found by role, protocol, function and any mixture of these', () => {
    const ids = (typed: string) => searchDrivers(drivers, typed).map(({ id }) => id);
    expect(ids('visca udp')).toContain('ptz-camera');
    expect(
      ids('camera')
        .slice(0, 2)
        .every((id) => id.startsWith('ptz-camera')),
    ).toBe(true);
    expect(ids('fade')).toContain('vision-switcher');
    expect(ids('zzz')).toEqual([]);
    const known = drivers.map((each) =>
      each.id === 'generic-osc' ? { ...each, searchWords: ['regatta bell'] } : each,
    );
    expect(searchDrivers(known, 'regatta bell').map(({ id }) => id)).toEqual(['generic-osc']);
    expect(driverOfText(drivers, 'Vision Switcher')?.id).toBe('vision-switcher');
    expect(driverOfText(drivers, 'camera')).toBeUndefined();
  });
});

describe('edits of the rig', () => {
  const c1 = deviceRecord('C1');
  const sw = deviceRecord('SW1', { role: 'switcher', driver: 'vision-switcher', host: '10.0.0.2', port: 4401 });

  it('duplicate a device under the next tag, without its address', () => {
    const copy = apply([c1], duplicateDeviceEdit(c1, [c1, deviceRecord('C2')], 'new')).get('new');
    expect(copy).toMatchObject({ version: 1, data: { tag: 'C3', host: '', driver: 'ptz-camera' } });
    expect(nextTag('CAMERA_NUMBER_99', [])).toHaveLength(16);
  });

  it('shift a block of addresses and keep the host part; names stay', () => {
    const subnet = parseSubnet('192.168.40.0/24');
    if (!subnet.ok) throw new Error(subnet.error);
    const named = deviceRecord('C2', { host: 'cam.local' });
    const edit = shiftAddressesEdit([c1, named], subnet.value);
    expect(edit.changes).toHaveLength(1);
    expect(apply([c1, named], edit).get('dev-C1')).toMatchObject({ data: { host: '192.168.40.5' } });
  });

  it('change several in one step that one undo takes back', () => {
    const c2 = deviceRecord('C2');
    const edit = changeDevicesEdit([c1, c2], 'Site', (data) => ({ ...data, site: 'Hall' }));
    const after = apply([c1, c2], edit);
    expect([...after.values()].map((record) => record.kind === 'device' && record.data.site)).toEqual(['Hall', 'Hall']);
    const done = applyEdit((id) => [c1, c2].find((each) => each.id === id), edit);
    if (!done.ok) throw new Error('not applied');
    const back = apply([...after.values()], invertEdit(done.value.applied, 'back'));
    expect([...back.values()].map((record) => record.data)).toEqual([c1.data, c2.data]);
  });

  it('tie a source to an input, in place of another, and take the tie away with the device', () => {
    const first = apply([c1, sw], tieEdit([c1, sw], sw, 3, c1, 'tie-1'));
    const tie = first.get('tie-1') as TieRecord;
    expect(tie.data).toEqual({ source: 'dev-C1', switcher: 'dev-SW1', input: 3 });
    const c2 = deviceRecord('C2');
    const all = [...first.values(), c2];
    expect(apply(all, tieEdit(all, sw, 3, c2, 'never')).get('tie-1')).toMatchObject({ data: { source: 'dev-C2' } });
    expect(usersText(usersOfDevice(all, 'dev-C1'))).toBe('1 tie');
    const without = apply(all, removeDevicesEdit([c1], all));
    expect([...without.keys()].sort()).toEqual(['dev-C2', 'dev-SW1']);
    expect(tieEdit(all, sw, 3, c1, 'never').changes).toEqual([]);
    expect(apply(all, tieEdit(all, sw, 3, undefined, 'never')).has('tie-1')).toBe(false);
  });
});

describe('conflicts', () => {
  const documentOf = (each: DeviceRecord) => {
    const document = drivers.find(({ id }) => id === each.data.driver);
    return document && { document };
  };
  it('are found between two at one address and port, not between datagrams and a stream', () => {
    const bare = deviceRecord('C4', { driver: 'ptz-camera-bare' });
    expect(conflictsOf([deviceRecord('C1'), bare], documentOf)).toEqual([]);
    const [found] = conflictsOf(
      [deviceRecord('C1'), deviceRecord('C2'), deviceRecord('C3', { enabled: false })],
      documentOf,
    );
    expect(found).toMatchObject({ devices: ['dev-C1', 'dev-C2'] });
    expect(found?.message).toContain('C1 and C2 want the same: 10.0.0.5, port 4402');
  });
  it('are found when two entries reach one device', () => {
    const say = (tag: string, serial: string | undefined) => ({ id: tag, tag, driver: 'x', serial });
    expect(sameDevice([say('E1', 'S-1'), say('E2', 'S-1'), say('E3', undefined)])).toMatchObject([
      { devices: ['E1', 'E2'] },
    ]);
  });
});

describe('a show file', () => {
  const records: ShowRecord[] = [show, deviceRecord('C1')];
  const file = showFileOf(records, [], '2026-01-01T00:00:00.000Z');

  it('comes back as it was', () => {
    expect(readShowFile(JSON.stringify(file))).toEqual({ ok: true, value: file });
  });

  it.each([
    ['cut off', JSON.stringify(file).slice(0, 200), 'file'],
    ['foreign', JSON.stringify({ hello: 1 }), 'format'],
    ['later', JSON.stringify({ ...file, version: 2 }), 'version'],
    [
      'with a bad port',
      JSON.stringify({ ...file, records: [show, deviceRecord('C1', { port: 0 })] }),
      'records.1.data.port',
    ],
    ['with a record twice', JSON.stringify({ ...file, records: [...records, deviceRecord('C1')] }), 'records'],
    ['without a show', JSON.stringify({ ...file, records: [deviceRecord('C1')] }), 'records'],
  ])('that is %s is refused with its place', (_name, text, path) => {
    const read = readShowFile(text);
    expect(read.ok ? undefined : read.error[0]?.path).toBe(path);
  });

  it('replaces what is there in one edit', () => {
    const now: ShowRecord[] = [
      { ...show, version: 7 },
      deviceRecord('SW1'),
      { ...deviceRecord('C1', { host: '10.9.9.9' }), version: 3 },
    ];
    const after = apply(now, loadEdit(now, file));
    expect([...after.keys()].sort()).toEqual(['dev-C1', 'show']);
    expect(after.get('dev-C1')).toMatchObject({ version: 4, data: { host: '10.0.0.5' } });
  });

  it('as a template has no addresses', () => {
    expect(withoutAddresses(records)[1]).toMatchObject({ data: { host: '', port: 4402 } });
  });
});

describe('what a rig is used for', () => {
  const c1 = deviceRecord('C1');
  const sw = deviceRecord('SW1', { role: 'switcher', driver: 'vision-switcher' });
  const control: ShowRecord = {
    kind: 'control',
    id: 'ctl-1',
    version: 1,
    data: {
      page: 'p',
      type: 'button',
      col: 0,
      row: 0,
      cols: 1,
      rows: 1,
      label: [{ text: 'Both' }],
      values: {},
      responses: { tap: [c1.id, sw.id, sw.id].map((id) => ({ device: id, command: 'cut', params: {} })) },
      lamps: [],
    },
  };
  const tie: TieRecord = {
    kind: 'tie',
    id: 'tie-1',
    version: 1,
    data: { switcher: sw.id, input: 3, source: c1.id },
  };

  it('is said for each device in a few words, each control counted once', () => {
    const behind = deviceRecord('S1', { host: '', through: { device: sw.id, port: 'serial' } });
    const uses = usesOfRig([c1, sw, control, tie, behind]);
    expect([...uses]).toEqual([
      ['dev-C1', { controls: 1, others: ['feeds SW1 3'] }],
      ['dev-SW1', { controls: 1, others: ['S1 behind it'] }],
    ]);
  });
});

describe('the first steps', () => {
  const nothing = { devices: 0, addressed: 0, up: 0, pages: 0, controls: 0, pressed: false, tested: false };
  const next = (facts: object) => firstSteps({ ...nothing, ...facts }).find(({ done }) => !done);
  it.each([
    [{}, 'Patch', 'Enter the first device'],
    [{ devices: 3, addressed: 1, up: 1 }, 'Patch', 'the 2 devices that have none'],
    [{ devices: 3, addressed: 3, up: 2 }, 'Patch', '2 of 3 answer'],
    [{ devices: 3, addressed: 3, up: 3 }, 'Page', 'Make a page'],
    [{ devices: 3, addressed: 3, up: 3, pages: 1 }, 'Page', 'choose an empty cell'],
    [{ devices: 3, addressed: 3, up: 3, pages: 1, controls: 1 }, 'Press', 'aim on dry'],
    [{ devices: 3, addressed: 3, up: 3, pages: 1, controls: 1, pressed: true }, 'Test', 'Test the whole rig'],
  ])('after %o comes %s', (facts, name, say) => {
    expect(next(facts)?.name).toBe(name);
    expect(next(facts)?.say).toContain(say);
  });

  it('end when all is done', () => {
    const all = { devices: 1, addressed: 1, up: 1, pages: 1, controls: 1, pressed: true, tested: true };
    expect(next(all)).toBeUndefined();
  });
});

describe('what is typed of a device', () => {
  const c1 = deviceRecord('C1');
  const form = deviceFormOf(c1);
  it.each([
    [{ tag: 'c2' }, undefined, { tag: 'The C2 has the tag C2 already.' }],
    [{ tag: '2C' }, undefined, { tag: 'A letter first, then letters, digits or underscores, 16 at most.' }],
    [{ name: '  ' }, undefined, { name: 'A device needs a name.' }],
    [{ port: 70_000 }, undefined, { port: 'A port is a whole number from 1 to 65535.' }],
    [{ port: 0 }, 'two\nlines', { port: expect.any(String), password: 'A password cannot contain a line break.' }],
    [{}, 'tide', {}],
  ])('%o is told field by field', (typed, password, problems) => {
    const records = [c1, deviceRecord('C2', { name: 'The C2' })];
    expect(deviceFormProblems({ ...form, ...typed }, records, c1.id, password)).toEqual(problems);
  });
});
