import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Scalar } from '../result';
import { toHex } from '../wire';
import { compileDriver, type CompiledDriver } from './compile';
import { expectationsOf, meets } from './confirm';
import { decodeSaid } from './decode';
import { encodeCommand } from './encode';
import { identityRemark } from './identity';
import { documentFor } from './options';
import { driverDocumentSchema } from './schema';
import type { ValueShape } from './schema-values';
import { DriverShelf } from './shelf';
import { startersOf } from './starters';
import { parseTemplate } from './template';
import { fillTemplateBytes } from './template-fill';
import { readTime, writeTime } from './time-text';
import { checkValue, fromWire, toWire, valueText } from './values';
import { readText, textWritings, writeText } from './written-text';

/** What the complete driver document can do beyond lines of text. */

const base = {
  format: 1,
  id: 'try-out',
  version: 1,
  title: 'Try-out',
  role: 'audio',
  link: { kind: 'tcp', port: 1 },
  framing: { kind: 'lines', ending: 'lf' },
  commands: {},
  readings: {},
};
const bytes = { framing: { kind: 'unframed' } };
const http = { link: { kind: 'http', port: 80 }, framing: { kind: 'http', body: 'json' }, answers: 'matched' };
const compiled = (change: object, use = {}): CompiledDriver => {
  const driver = compileDriver({ ...base, ...change }, use);
  if (!driver.ok) throw new Error(JSON.stringify(driver.error));
  return driver.value;
};
const problems = (change: object) => {
  const driver = compileDriver({ ...base, ...change });
  return driver.ok ? [] : driver.error;
};
const whole = (min: number, max: number, more = {}) => ({ type: 'whole', min, max, ...more });

describe('templates of bytes', () => {
  it.each([
    ['\\x02{n:u8}', { n: '300' }, '022C'],
    ['{n:u16be}{n:u16le}', { n: '258' }, '01020201'],
    ['{n:u32be}{n:u32le}', { n: '1' }, '0000000101000000'],
    ['{n:u16be}', { n: '-2' }, 'FFFE'],
    ['{n:f32be}', { n: '1' }, '3F800000'],
    ['{n:nib4}', { n: '-1' }, '0F0F0F0F'],
    ['{n:bcd2}', { n: '1234' }, '1234'],
    ['{t:pad4}|', { t: 'AB' }, '414220207C'],
    ['é', {}, 'C3A9'],
    ['A{?t|, {t}}!', { t: 'x' }, '412C207821'],
    ['A{?t|, {t}}!', {}, '4121'],
    ['\\x01\\x02{check xor8}', {}, '010203'],
    ['\\x02AB{check sum8 from 1}', {}, '02414283'],
    ['123456789{check crc16modbus}', {}, '3132333435363738394B37'],
    ['AB{check sum8 as hex}', {}, '41423833'],
  ])('%s', (source, values, wanted) => {
    const parts = parseTemplate(source);
    if (!parts.ok) throw new Error(parts.error.message);
    expect(toHex(fillTemplateBytes(parts.value, values, 'utf-8'))).toBe(wanted);
  });

  it('in hexadecimal digits, with holes between them', () => {
    const parts = parseTemplate('81 01 {speed:u8}FF', true);
    if (!parts.ok) throw new Error(parts.error.message);
    expect(toHex(fillTemplateBytes(parts.value, { speed: '7' }, 'utf-8'))).toBe('810107FF');
    const wrong = parseTemplate('81 0G', true);
    expect(!wrong.ok && wrong.error.offset).toBe(3);
  });

  it.each([
    ['{check md5}', 0],
    ['{check xor8 as words}', 0],
    ['A{?t|never ends', 5],
    ['{n:u9}', 0],
  ])('refuse %s at its character', (source, offset) => {
    const parts = parseTemplate(source);
    expect(!parts.ok && parts.error.offset).toBe(offset);
  });
});

describe('a document with a mistake is refused with its path', () => {
  const command = (send: unknown, more = {}) => ({ commands: { go: { title: 'Go', send, ...more } } });
  it.each<[string, object, string]>([
    ['a checksum in a line of text', command('A{check xor8}'), 'commands.go.send'],
    ['JSON over bytes', { ...bytes, ...command({ json: {} }) }, 'commands.go.send'],
    ['OSC over lines', command({ osc: { address: '/a', args: [] } }), 'commands.go.send'],
    [
      'a hole in JSON that is no parameter',
      { ...http, ...command({ http: { path: '/', json: { a: ['{b}'] } } }) },
      'commands.go.send.http.json.a.0',
    ],
    ['two bodies', { ...http, ...command({ http: { path: '/', json: {}, text: 'x' } }) }, 'commands.go.send.http'],
    ['a question that does not exist', { sync: { send: [{ ask: 'none' }] } }, 'sync.send.0.ask'],
    [
      'a poll faster than the smallest gap',
      { link: { kind: 'tcp', port: 1, gapMs: 200 }, polls: [{ send: 'P', everyMs: 100 }] },
      'polls.0.everyMs',
    ],
    ['a stop that does not exist', command('GO', { stop: { command: 'halt' } }), 'commands.go.stop.command'],
    ['HTTP framing over TCP', { framing: { kind: 'http', body: 'json' } }, 'framing.kind'],
    ['a header on a stream', { framing: { kind: 'visca', header: true } }, 'framing.header'],
    ['JSON replies to text', { replies: [{ take: { a: '/a' }, accepts: true }] }, 'replies.0'],
    ['a pattern over JSON', { ...http, replies: [{ match: 'a', accepts: true }] }, 'replies.0.match'],
    [
      'a pattern that is not of the linear-time kind',
      { replies: [{ match: '(?<=a)b', accepts: true }] },
      'replies.0.match',
    ],
    [
      'paging without answers',
      {
        questions: { list: { send: 'L {from}', paging: { first: 1, step: 5, count: 'n' } } },
        readings: { n: { title: 'N', value: whole(0, 9) } },
      },
      'questions.list.paging',
    ],
    [
      'a default out of range',
      command('GO {n}', { params: { n: { title: 'N', value: whole(1, 3), default: 4 } } }),
      'commands.go.params.n.default',
    ],
    ['an option that does not exist', command('GO', { only: { model: ['b'] } }), 'go.only.model'],
    [
      'a starter for a command that does not exist',
      { starters: [{ purpose: 'P', title: 'T', command: 'none' }] },
      'starters.0.command',
    ],
    [
      'a held starter that nothing stops',
      { ...command('GO'), starters: [{ purpose: 'P', title: 'T', command: 'go', held: true }] },
      'starters.0.held',
    ],
    [
      'a payload as a reading',
      { readings: { a: { title: 'A', value: { type: 'payload', as: 'hex' } } } },
      'readings.a.value',
    ],
    ['a field inside a command that does not exist', command('GO', { colour: 'red' }), 'commands.go'],
    [
      'a confirmation with neither value nor change',
      command('GO', { confirm: { by: 'readings', all: [{ reading: 'a' }], withinMs: 9 } }),
      'commands.go.confirm.all.0',
    ],
  ])('%s', (_name, change, path) => {
    expect(problems(change).map((problem) => problem.path)).toContain(path);
  });

  it('in sentences', () => {
    expect(problems({ title: undefined, role: 'dog' })).toEqual([
      { path: 'title', message: 'Is missing: expected a text.' },
      { path: 'role', message: expect.stringMatching(/^Expected one of switcher, camera, /) },
    ]);
    expect(problems({ commands: { go: { title: 'Go', send: 'GO {speed}' } } })[0]?.message).toBe(
      'There is no parameter “speed”. There is none here.',
    );
  });
});

describe('values', () => {
  const shapes: readonly [ValueShape, Scalar, string][] = [
    [{ type: 'decimal', reads: 'hex', signedBits: 16, scale: 5 / 72, decimals: 1 }, -170, 'F670'],
    [{ type: 'whole', reads: 'hex' }, 17, '11'],
    [{ type: 'decimal', scale: 0.1, decimals: 1 }, 4.5, '45'],
    [{ type: 'colour', writes: 'r,g,b' }, '#3A5F0B', '58,95,11'],
    [{ type: 'colour', writes: 'rrggbb' }, '#3A5F0B', '3A5F0B'],
    [{ type: 'time', writes: 'h:mm:ss:ff', fps: 25 }, 3723.2, '1:02:03:05'],
    [{ type: 'time', writes: 'm:ss', fps: 25 }, 62, '1:02'],
    [{ type: 'time', writes: 'milliseconds', fps: 25 }, 1.5, '1500'],
    [{ type: 'text', reads: 'hex' }, 'LANE 4', '4C414E4520342020'],
    [{ type: 'text', reads: 'percent' }, 'a b/ü+', 'a%20b/%C3%BC+'],
    [{ type: 'text', reads: 'base64' }, 'fooba', 'Zm9vYmE='],
    [{ type: 'text', reads: 'hexutf8' }, 'aü', '61c3bc'],
    [{ type: 'text', reads: 'quoted' }, 'a "b" \\c', '"a \\"b\\" \\\\c"'],
    [{ type: 'onOff', on: '1', off: '0', bit: 5 }, true, '2F'],
    [{ type: 'onOff', on: '1', off: '0', bit: 4 }, false, '2F'],
    [{ type: 'onOff', on: '1', off: '0', bit: 0, reads: 'decimal' }, true, '13'],
  ];
  it.each(shapes)('of %o come from the wire', (shape, value, wire) => {
    expect(fromWire(shape, wire)).toEqual({ ok: true, value });
  });

  it('with a scale go out as the device counts them', () => {
    expect(toWire({ type: 'decimal', scale: 5 / 72, decimals: 1 }, -170)).toBe('-2448');
    expect(toWire({ type: 'whole', offset: -32 }, 7)).toBe('39');
  });

  it('are rounded to the decimal places that are declared', () => {
    const shape = { type: 'decimal', decimals: 0 } as const;
    expect([checkValue(shape, 33.4), toWire(shape, 33.4)]).toEqual([{ ok: true, value: 33 }, '33']);
    expect(toWire({ type: 'decimal', decimals: 1, scale: 0.1 }, 4.46)).toBe('45');
  });

  it('that are not written as the driver says are faults, not texts', () => {
    const written = { percent: '%G1', base64: '!', hexutf8: 'C3', quoted: 'bare' } as const;
    for (const [reads, wire] of Object.entries(written))
      expect(fromWire({ type: 'text', reads: reads as 'percent' }, wire).ok).toBe(false);
    expect(fromWire({ type: 'onOff', on: '1', off: '0', bit: 1 }, 'zz').ok).toBe(false);
  });

  it('of any text come back from every way of writing', () => {
    fc.assert(
      fc.property(fc.constantFrom(...textWritings), fc.string({ unit: 'grapheme' }), (as, text) => {
        expect(readText(as, writeText(as, text))).toEqual({ ok: true, value: text.toWellFormed() });
      }),
    );
  });

  it('of times come back as they went', () => {
    const writes = fc.constantFrom('seconds', 'milliseconds', 'h:mm:ss:ff' as const);
    fc.assert(
      fc.property(writes, fc.integer({ min: 0, max: 900_000 }), (how, frames) => {
        const shape = { writes: how as 'seconds', fps: 25 };
        const seconds = frames / 25;
        expect(Math.abs((readTime(shape, writeTime(shape, seconds)) ?? NaN) - seconds)).toBeLessThan(0.001);
      }),
    );
  });

  it('never make a reader throw', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...shapes.map(([shape]) => shape)),
        fc.string(),
        (shape, text) => void fromWire(shape, text),
      ),
    );
  });

  it.each([
    [{ type: 'text', without: '";' }, 'a;b', 'cannot contain “;”'],
    [{ type: 'colour', writes: '#rrggbb' }, 'red', 'expects a colour such as #3A5F0B'],
    [
      { type: 'payload', as: 'hex' },
      '0G',
      'has a mistake at character 2: A byte has two digits: the second one is missing.',
    ],
    [{ type: 'time', writes: 'seconds', fps: 25, min: 0, max: 9 }, 10, 'expects a time from 0 to 9 seconds'],
  ] as const)('%o refuses %s', (shape, value, sentence) => {
    expect(checkValue(shape as ValueShape, value)).toEqual({ ok: false, error: sentence });
  });

  it('are shown as people read them', () => {
    expect([
      valueText({ type: 'time', writes: 'seconds', fps: 25 }, 62.4),
      valueText({ type: 'time', writes: 'seconds', fps: 25 }, 3723),
      valueText(undefined, true),
    ]).toEqual(['1:02', '1:02:03', 'on']);
  });
});

describe('commands', () => {
  it('keep the types of values in JSON and leave out what was left out', () => {
    const driver = compiled({
      ...http,
      commands: {
        set: {
          title: 'Set',
          params: {
            level: { title: 'Level', value: { type: 'decimal' } },
            on: { title: 'On', value: { type: 'onOff', on: 'true', off: 'false' } },
            note: { title: 'Note', value: { type: 'text' }, optional: true },
          },
          send: {
            http: {
              method: 'PUT',
              path: '/ch/{level}/{note}',
              json: { level: '{level}', on: '{on}', note: '{note}', text: 'at {level}' },
            },
          },
        },
      },
    });
    const sent = encodeCommand(driver, 'set', { level: 0.5, on: true });
    expect(sent.ok && sent.value.out).toEqual({
      kind: 'http',
      request: {
        method: 'PUT',
        path: '/ch/0.5/',
        headers: { 'content-type': 'application/json' },
        body: '{"level":0.5,"on":true,"text":"at 0.5"}',
      },
    });
    const escaped = encodeCommand(driver, 'set', { level: 1, on: false, note: 'a/b c' });
    expect(escaped.ok && escaped.value.out.kind === 'http' && escaped.value.out.request.path).toBe('/ch/1/a%2Fb%20c');
  });

  it('take a parameter from a reading when none is given', () => {
    const driver = compiled({
      readings: { input: { title: 'Input', value: whole(1, 9) } },
      commands: {
        again: {
          title: 'Again',
          params: { input: { title: 'Input', value: whole(1, 9), fromReading: 'input' } },
          send: 'TAKE {input}',
        },
      },
    });
    const sent = encodeCommand(driver, 'again', {}, { readingNow: () => 4 });
    expect(sent.ok && sent.value.text).toBe('TAKE 4');
    expect(encodeCommand(driver, 'again', {}).ok).toBe(false);
  });

  it('are confirmed within a tolerance, by a change, or by what was given', () => {
    const driver = compiled({
      readings: { pan: { title: 'Pan', value: { type: 'decimal' } }, row: { title: 'Row', value: whole(0, 9) } },
      commands: {
        turn: {
          title: 'Turn',
          params: { pan: { title: 'Pan', value: { type: 'decimal' }, optional: true } },
          send: 'T{?pan| {pan}}',
          confirm: { by: 'readings', all: [{ reading: 'pan', equals: { param: 'pan' }, within: 0.5 }], withinMs: 9 },
        },
        next: {
          title: 'Next',
          send: 'N',
          confirm: { by: 'readings', all: [{ reading: 'row', changes: true }], withinMs: 9 },
        },
      },
    });
    const of = (id: string, params: Record<string, Scalar>, now: Scalar | undefined) => {
      const command = driver.commands.get(id)?.command;
      return command && expectationsOf(command, params, () => now);
    };
    const [turn] = of('turn', { pan: 10 }, undefined) ?? [];
    expect(turn && [meets(turn, 10.4), meets(turn, 10.6), meets(turn, undefined)]).toEqual([true, false, false]);
    expect(of('turn', {}, undefined)).toBeUndefined();
    const [next] = of('next', {}, 3) ?? [];
    expect(next && [meets(next, 3), meets(next, 4)]).toEqual([false, true]);
  });
});

describe('replies', () => {
  it('to JSON: all that fit, lists element by element, and nothing where nothing was said', () => {
    const driver = compiled({
      ...http,
      readings: {
        kbps: { title: 'Bitrate', value: whole(0, 9999) },
        'feed[].name': { title: 'Feed', value: { type: 'text' }, index: { title: 'Feed', from: 0, to: 9 } },
      },
      replies: [
        { take: { kbps: '/stream/kbps' }, set: { kbps: '{kbps}' } },
        { each: '/feeds', take: { name: '/name' }, clears: ['feed[].name'], set: { 'feed[{index}].name': '{name}' } },
      ],
    });
    const read = (value: object) => decodeSaid(driver, { kind: 'json', text: '', value: value as never }, undefined);
    expect(read({ stream: { kbps: 12 }, feeds: [{ name: 'a' }, { name: 'b' }] })).toMatchObject({
      clears: ['feed[].name'],
      readings: [
        { key: 'kbps', value: 12 },
        { key: 'feed[0].name', value: 'a' },
        { key: 'feed[1].name', value: 'b' },
      ],
    });
    expect(read({ feeds: [] })).toMatchObject({ clears: ['feed[].name'], readings: [] });
    expect(read({ stream: { kbps: 'many' } })?.faults).toHaveLength(1);
    fc.assert(fc.property(fc.jsonValue(), (value) => void read(value as never)));
  });

  it('are only read as an answer to their question', () => {
    const driver = compiled({
      answers: 'in-order',
      questions: { a: { send: 'A?' }, b: { send: 'B?' } },
      readings: { a: { title: 'A', value: whole(0, 9) }, b: { title: 'B', value: whole(0, 9) } },
      replies: [
        { to: ['a'], match: '^(?P<n>[0-9])$', set: { a: '{n}' } },
        { to: ['b'], match: '^(?P<n>[0-9])$', set: { b: '{n}' } },
      ],
    });
    const read = (to: string | undefined) => decodeSaid(driver, { kind: 'text', text: '7' }, to)?.readings;
    expect([read('a'), read('b'), read(undefined)]).toEqual([
      [{ key: 'a', value: 7 }],
      [{ key: 'b', value: 7 }],
      undefined,
    ]);
  });

  it('to OSC see the arguments, and name the request that they answer', () => {
    const driver = compiled({
      link: { kind: 'udp', port: 1 },
      framing: { kind: 'osc' },
      answers: 'matched',
      readings: {
        'ch[].level': { title: 'Level', value: { type: 'decimal' }, index: { title: 'Channel', from: 1, to: 99 } },
      },
      replies: [
        { match: '^/ch/(?P<n>[0-9]+)$', set: { 'ch[{n}].level': '{arg1}' } },
        { match: '^/ok$', ref: '{arg1}', accepts: true },
      ],
    });
    const read = (text: string, ...args: string[]) => decodeSaid(driver, { kind: 'osc', text, args }, undefined);
    expect(read('/ch/07', '0.5')?.readings).toEqual([{ key: 'ch[7].level', value: 0.5 }]);
    expect(read('/ok', '41')).toMatchObject({ accepts: true, ref: 41 });
  });
});

describe('a device’s own use of its driver', () => {
  const document = {
    ...base,
    options: {
      inputs: { title: 'Inputs', value: whole(4, 40), default: 8 },
      model: {
        title: 'Model',
        value: {
          type: 'choice',
          choices: [
            { value: 'a', title: 'A' },
            { value: 'b', title: 'B' },
          ],
        },
        default: 'a',
      },
    },
    commands: {
      take: {
        title: 'Take',
        params: { input: { title: 'Input', value: whole(1, 0, { max: { option: 'inputs' } }) } },
        send: 'TAKE {input}',
      },
      wipe: { title: 'Wipe', send: 'WIPE', only: { model: ['b'] } },
    },
    readings: {
      'input[].name': {
        title: 'Name',
        value: { type: 'text' },
        index: { title: 'Input', from: 1, to: { option: 'inputs' } },
      },
    },
    replies: [{ match: '^(?P<n>[0-9]+) (?P<name>.*)$', set: { 'input[{n}].name': '{name}' } }],
  };

  it('narrows what is offered by its options', () => {
    const shelf = new DriverShelf();
    expect(shelf.put([document])).toEqual([]);
    const small = shelf.for({ driver: 'try-out' });
    const large = shelf.for({ driver: 'try-out', options: { inputs: 20, model: 'b' } });
    expect([small?.commands.has('wipe'), large?.commands.has('wipe')]).toEqual([false, true]);
    const takes = (driver: CompiledDriver | undefined) => driver && encodeCommand(driver, 'take', { input: 12 }).ok;
    expect([takes(small), takes(large)]).toEqual([false, true]);
    expect(small && decodeSaid(small, { kind: 'text', text: '12 Boat' }, undefined)?.faults).toHaveLength(1);
  });

  it('adds commands and readings of the show, and is refused when they do not work', () => {
    const shelf = new DriverShelf();
    shelf.put([document]);
    const commands = {
      own1: {
        title: 'Horn',
        params: {},
        send: { bytes: 'HORN\\r' },
        risky: false,
        harmless: false,
        class: 'ordinary' as const,
      },
    };
    const readings = { own1: { title: 'Level', value: { type: 'text' as const } } };
    const good = { commands, readings, replies: [{ match: '^LEVEL (?P<value>.*)$', set: { own1: '{value}' } }] };
    const driver = shelf.for({ driver: 'try-out', additions: good });
    expect(driver && decodeSaid(driver, { kind: 'text', text: 'LEVEL 3' }, undefined)?.readings).toEqual([
      { key: 'own1', value: '3' },
    ]);
    const bad = { ...good, replies: [{ match: '(', set: { own1: '{value}' } }] };
    expect(shelf.for({ driver: 'try-out', additions: bad })).toBeUndefined();
  });

  it('leaves the document itself as it was', () => {
    const parsed = driverDocumentSchema.parse(document);
    const before = JSON.stringify(parsed);
    documentFor(parsed, { options: { inputs: 20 } });
    expect(JSON.stringify(parsed)).toBe(before);
  });
});

it('offers starters one for each item of a list that the device has reported', () => {
  const document = driverDocumentSchema.parse({
    ...base,
    readings: {
      'clip[].name': { title: 'Clip', value: { type: 'text' }, index: { title: 'Clip', from: 1, to: 99 } },
      loaded: { title: 'Loaded', value: whole(0, 99) },
    },
    commands: { load: { title: 'Load', params: { clip: { title: 'Clip', value: whole(1, 99) } }, send: 'L {clip}' } },
    starters: [
      {
        purpose: 'Clips',
        title: 'Load a clip',
        each: 'clip[].name',
        command: 'load',
        params: { clip: { item: 'index' } },
        lamp: { reading: 'loaded', to: { item: 'index' }, show: 'next' },
      },
    ],
  });
  const readings = { 'clip[2].name': 'Bend', 'clip[10].name': 'Finish', 'clip[3].name': '' };
  expect(startersOf(document, readings)).toMatchObject([
    { title: 'Bend', params: { clip: 2 }, labelFrom: 'clip[2].name', lamps: [{ reading: 'loaded', to: 2 }] },
    { title: 'Finish', params: { clip: 10 } },
  ]);
});

it('says when a device is another model or has a firmware that the driver does not know', () => {
  const document = driverDocumentSchema.parse({
    ...base,
    readings: {
      model: { title: 'Model', value: { type: 'text' } },
      firmware: { title: 'Firmware', value: { type: 'text' } },
    },
    identity: { model: 'model', models: ['M1', 'M2'], firmware: 'firmware', firmwares: ['1.x', '2.3'] },
  });
  const remark = (model: string | undefined, firmware: string) =>
    identityRemark(document, (key) => (key === 'model' ? model : firmware));
  expect([remark('M1', '1.7'), remark(undefined, '2.3')]).toEqual([undefined, undefined]);
  expect(remark('M9', '1.7')).toBe('It says that it is “M9”; this driver is for M1, M2.');
  expect(remark('M1', '2.4')).toBe('Its firmware is 2.4; this driver was tried with 1.x, 2.3.');
});
