import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled } from '../../../../test/support/records';
import { shippedDrivers } from '../../../drivers';
import { compileDriver, documentFor, encodeCommand, type DriverAdditions, type DriverDocument } from '../../driver';
import type { Scalar } from '../../result';
import { toEscaped } from '../../wire';
import { withoutAddition } from './additions';
import { commandTyped, confirmAfter, emptyCommand, putCommand, type OwnCommand, type OwnValue } from './command';
import { copyAddition } from './copy';
import { messageKinds, messageOf, typedOf, type OwnMessage } from './message';
import { payloadShown } from './payload-shown';
import { emptyReading, putReading, readingTyped, type OwnReading } from './reading';
import { bytesTemplate, typedOfBytes, unknownHoles } from './typed-text';

function present<T>(value: T | undefined): T {
  if (value === undefined) throw new Error('It is not there.');
  return value;
}

const documentOf = (id: string, options = {}): DriverDocument => {
  const source = shippedDrivers.find((each) => (each as { id: string }).id === id);
  return documentFor(compiled(source).whole, { options });
};

const level: OwnValue = {
  name: 'level',
  title: 'Level',
  value: { type: 'decimal', min: 0, max: 100, scale: 0.5 },
  default: undefined,
};
const on: OwnValue = { name: 'on', title: 'On', value: { type: 'onOff', on: '1', off: '0' }, default: true };

const commandFor = (document: DriverDocument, change: Partial<OwnCommand>): OwnCommand => ({
  ...present(emptyCommand(document)),
  title: 'Gain',
  ...change,
});

/** What a command that a show adds puts out, as text. */
function sends(document: DriverDocument, own: OwnCommand, given: Readonly<Record<string, Scalar>> = {}): string {
  const additions = putCommand(document, undefined, undefined, own);
  if (!additions.ok) throw new Error(JSON.stringify(additions.error));
  const driver = compileDriver(document, { additions: additions.value });
  const sent = driver.ok && encodeCommand(driver.value, 'own1', given);
  if (!sent || !sent.ok) throw new Error(JSON.stringify(sent));
  const { out } = sent.value;
  switch (out.kind) {
    case 'bytes':
      return toEscaped(out.bytes);
    case 'http':
      return `${out.request.method} ${out.request.path} ${out.request.body ?? ''}`.trim();
    case 'osc':
      return `${out.message.address} ${JSON.stringify(out.message.args.map((arg) => ('value' in arg ? arg.value : arg.type)))}`;
    case 'modbus':
      return JSON.stringify(out);
    default:
      return out.kind;
  }
}

describe('a command that a show adds', () => {
  const text = documentOf('generic-text-tcp', { ends: 'cr' });

  it('sends text with its values in their places, other braces as they are, and the ending of the device', () => {
    const message = { as: 'text', payload: 'GAIN {level} {"a":1} {other}\\t', ending: '{option.ends}' } as const;
    expect(sends(text, commandFor(text, { message, values: [level] }), { level: 20 })).toBe(
      'GAIN 40 {"a":1} {other}\\x09\\r',
    );
  });

  it('sends bytes with values in them', () => {
    const message = { as: 'hex', payload: '02 {level:u8} 03' } as const;
    expect(sends(text, commandFor(text, { message, values: [level] }), { level: 32.5 })).toBe('\\x02A\\x03');
  });

  it('sends JSON in which a value keeps its type, with or without quotes around it', () => {
    const json = documentOf('generic-websocket');
    for (const payload of [
      '{"gain":{level},"on":{on},"say":"{level} %"}',
      '{"gain":"{level}","on":"{on}","say":"{level} %"}',
    ]) {
      const own = commandFor(json, {
        message: { as: 'json', payload },
        values: [level, { ...on, value: { type: 'onOff', on: 'true', off: 'false' } }],
      });
      expect(sends(json, own, { level: 10 })).toBe('{"gain":20,"on":true,"say":"20 %"}');
    }
  });

  it('sends requests below the base path of the device', () => {
    const http = documentOf('generic-http', { base: '/api/v2' });
    const message = {
      as: 'http',
      method: 'PUT',
      path: '/out/{level}?now=1',
      headers: 'X-One: a',
      body: 'form',
      payload: 'state={on}\nwho=desk',
    } as const;
    expect(sends(http, commandFor(http, { message, values: [level, on] }), { level: 1 })).toBe(
      'PUT /api/v2/out/2?now=1 state=1&who=desk',
    );
  });

  it('sends OSC messages and writes to Modbus tables', () => {
    const osc = documentOf('generic-osc');
    const message = { as: 'osc', address: '/fader/1', args: 'f {level}, s "two, words", i 3, T' } as const;
    expect(sends(osc, commandFor(osc, { message, values: [level] }), { level: 0.5 })).toBe(
      '/fader/1 [1,"two, words",3,"T"]',
    );
    const modbus = documentOf('generic-modbus', { unit: 7 });
    const coil = { as: 'modbus', table: 'coil', address: 4, value: '{on}' } as const;
    expect(JSON.parse(sends(modbus, commandFor(modbus, { message: coil, values: [on] }), { on: true }))).toEqual({
      kind: 'modbus',
      unit: 7,
      request: { do: 'writeCoil', address: 4, on: true },
    });
  });

  it.each<[string, string, Partial<OwnCommand>, string]>([
    ['without a name', 'generic-text-tcp', { title: ' ' }, 'title'],
    ['with a mistake in its hex', 'generic-text-tcp', { message: { as: 'hex', payload: '0A G' } }, 'payload'],
    ['with text that is not JSON', 'generic-websocket', { message: { as: 'json', payload: '{"a":}' } }, 'payload'],
    [
      'with a path without a slash',
      'generic-http',
      { message: { as: 'http', method: 'GET', path: 'x', headers: '', body: 'none', payload: '' } },
      'path',
    ],
    [
      'with a header that is none',
      'generic-http',
      { message: { as: 'http', method: 'GET', path: '/', headers: 'no', body: 'none', payload: '' } },
      'headers',
    ],
    ['with an unknown OSC type', 'generic-osc', { message: { as: 'osc', address: '/a', args: 'q 3' } }, 'args'],
    ['with a value whose name is none', 'generic-text-tcp', { values: [{ ...level, name: 'My level' }] }, 'values'],
    ['with two values of one name', 'generic-text-tcp', { values: [level, level] }, 'values'],
  ])('%s is refused at its field', (_, driver, change, path) => {
    const document = documentOf(driver);
    const put = putCommand(document, undefined, undefined, commandFor(document, change));
    expect(put.ok ? [] : put.error.map((problem) => problem.path)).toEqual([path]);
  });

  it('names the character of a mistake behind a value', () => {
    const message: OwnMessage = { as: 'text', payload: 'A{level}B\\q', ending: '' };
    const put = putCommand(text, undefined, undefined, commandFor(text, { message, values: [level] }));
    expect(put).toEqual({
      ok: false,
      error: [{ path: 'payload', message: expect.stringMatching(/^Character 10: /) }],
    });
  });

  it('is edited as it was entered', () => {
    const own = commandFor(text, {
      message: { as: 'text', payload: 'GAIN {level} \\x02', ending: '\\n' },
      values: [level],
      risky: true,
    });
    const added = putCommand(text, undefined, undefined, own);
    const command = added.ok ? added.value.commands['own1'] : undefined;
    expect(command && commandTyped(command, text)).toEqual(own);
    const again = putCommand(text, added.ok ? added.value : undefined, 'own1', { ...own, title: 'Louder' });
    expect(again.ok && Object.values(again.value.commands).map(({ title }) => title)).toEqual(['Louder']);
  });
});

describe('messages that are typed', () => {
  const known = ['level', 'on'];
  const document = documentOf('generic-text-tcp');

  it('come back as they were typed, whatever is in them', () => {
    const part = fc.constantFrom('{level}', '{on}', '{other}', '{', '}', '"', ' ', 'a', ',', '{"a":1}');
    const texts = fc.array(part, { maxLength: 12 }).map((parts) => parts.join(''));
    let withHoles = 0;
    fc.assert(
      fc.property(texts, (typed) => {
        const template = bytesTemplate(typed, known);
        expect(template.ok && typedOfBytes(template.value)).toBe(typed);
        const message: OwnMessage = {
          as: 'http',
          method: 'POST',
          path: `/${typed}`,
          headers: '',
          body: 'text',
          payload: typed,
        };
        const made = messageOf(message, known, document);
        expect(made.ok && typedOf(made.value, document)).toEqual(message);
        const published: OwnMessage = { as: 'mqtt', topic: 'stage/{level}/set', payload: typed, retain: true };
        const mqtt = messageOf(published, known, documentOf('generic-mqtt'));
        const back = mqtt.ok ? typedOf(mqtt.value, document) : undefined;
        // JSON comes back as JSON, written the usual way.
        const isJson = mqtt.ok && typeof mqtt.value === 'object' && 'mqtt' in mqtt.value && 'json' in mqtt.value.mqtt;
        if (!isJson) expect(back).toEqual(published);
        else expect(JSON.parse((back as { payload: string }).payload)).toEqual(JSON.parse(typed));
        if (typed.includes('{level}')) withHoles += 1;
      }),
    );
    expect(withHoles).toBeGreaterThan(10);
  });

  it('say which names in braces are no values', () => {
    expect(unknownHoles('{level} {lvl} {"a":1} \\{x}', known)).toEqual(['lvl']);
  });

  it('are shown as bytes with the values in their places, and with a mistake at its character', () => {
    expect(payloadShown('text', 'A{level}', '\\r', known)).toEqual({
      ok: true,
      value: { text: 'A{level}\\r', hex: '41 {level} 0D', length: 2, hasHoles: true },
    });
    expect(payloadShown('hex', '02 {level} 0', '', known)).toMatchObject({ ok: false, error: { offset: 12 } });
  });

  it('can be typed for every kind of device but a multiviewer and lights', () => {
    const kinds = shippedDrivers.map((each) => messageKinds(compiled(each).document).length);
    expect(kinds.filter((count) => count === 0)).toHaveLength(3);
  });
});

describe('a reading that a show adds', () => {
  const text = documentOf('generic-text-tcp');
  const modbus = documentOf('generic-modbus', { unit: 9 });
  const put = (document: DriverDocument, change: Partial<OwnReading>, additions?: DriverAdditions, id?: string) => {
    const made = putReading(document, additions, id, { ...emptyReading(document), title: 'Temperature', ...change });
    if (!made.ok) throw new Error(JSON.stringify(made.error));
    return made.value;
  };

  it.each<[string, Partial<OwnReading>]>([
    ['generic-text-tcp', { source: { in: 'line', before: 'T=(', after: ')' }, value: { type: 'decimal', unit: '°C' } }],
    ['generic-text-tcp', { source: { in: 'line', before: '', after: '' } }],
    ['generic-text-tcp', { source: { in: 'pattern', pattern: '^T (?P<value>[0-9]+)$' } }],
    [
      'generic-text-tcp',
      { ask: { message: { as: 'text', payload: 'T?', ending: '\\r' }, everyMs: 700 }, everyMs: 700 },
    ],
    ['generic-websocket', { source: { in: 'json', pointer: '/state/t' } }],
    ['generic-http', { source: { in: 'header', name: 'X-Level', pattern: '' } }],
    ['generic-http', { source: { in: 'header', name: 'X-Level', pattern: 'gain=(?P<value>[0-9]+)' } }],
    ['generic-text-udp', { source: { in: 'line', before: '', after: '' } }],
    ['generic-osc', { source: { in: 'osc', address: '/t/1', argument: 2 } }],
    ['generic-mqtt', { source: { in: 'mqtt', topic: 'stage/lamp.1/state', pointer: '' } }],
    ['generic-mqtt', { source: { in: 'mqtt', topic: 'stage/lamp/state', pointer: '/t' } }],
    [
      'generic-modbus',
      { source: { in: 'modbus', table: 'register', address: 30 }, value: { type: 'whole' }, everyMs: 400 },
    ],
  ])('of %s is edited as it was entered: %o', (driver, change) => {
    const document = documentOf(driver);
    const made = put(document, change);
    expect(readingTyped('own1', made, document)).toEqual({
      ...emptyReading(document),
      title: 'Temperature',
      ...change,
    });
    // Storing it again changes nothing.
    expect(putReading(document, made, 'own1', present(readingTyped('own1', made, document)))).toEqual({
      ok: true,
      value: made,
    });
  });

  it('of a Modbus table is asked for, at the unit of the device, and makes the link a two-way one', () => {
    const additions = put(modbus, { source: { in: 'modbus', table: 'input', address: 3 } });
    const driver = compileDriver(modbus, { additions });
    expect(driver.ok && driver.value.document.questions['own1']?.send).toEqual({
      modbus: { read: 'input', address: 3, count: 1, unit: 9 },
    });
    const osc = documentOf('generic-osc');
    const asked = put(osc, { ask: { message: { as: 'osc', address: '/t', args: '' }, everyMs: 500 } });
    expect([osc.link.direction, documentFor(osc, { additions: asked }).link.direction]).toEqual(['out', 'both']);
  });

  it('that confirms a command is asked for at once, and goes without breaking it', () => {
    const additions = put(modbus, {});
    const confirm = { by: 'reading', reading: 'own1', equals: { name: 'on' }, withinMs: 900 } as const;
    const made = putCommand(modbus, additions, undefined, commandFor(modbus, { values: [on], confirm }));
    if (!made.ok) throw new Error(JSON.stringify(made.error));
    expect(made.value.commands['own1']?.confirm).toMatchObject({
      ask: ['own1'],
      all: [{ reading: 'own1', equals: { param: 'on' } }],
    });
    const left = withoutAddition(made.value, 'reading', 'own1');
    expect(left?.commands['own1']).not.toHaveProperty('confirm');
    expect(compileDriver(modbus, { additions: present(left) }).ok).toBe(true);
    expect(withoutAddition(present(left), 'command', 'own1')).toBeUndefined();
  });

  it('that is no longer asked for loses its question', () => {
    const asked = put(text, { ask: { message: { as: 'text', payload: 'T?', ending: '' }, everyMs: 700 } });
    const quiet = put(text, {}, asked, 'own1');
    expect([asked.polls?.length, quiet.polls, quiet.questions]).toEqual([1, undefined, undefined]);
  });

  it('with a pattern that gives nothing is refused', () => {
    const made = putReading(text, undefined, undefined, {
      ...emptyReading(text),
      title: 'T',
      source: { in: 'pattern', pattern: '^T' },
    });
    expect(made.ok ? [] : made.error.map(({ path }) => path)).toEqual(['pattern']);
  });
});

describe('what confirms a command', () => {
  const confirm = { by: 'reading', reading: 'own1', equals: { name: 'level' }, withinMs: 900 } as const;

  it('stays the same value when that is renamed, and is given up when it is removed', () => {
    const renamed = { ...level, name: 'gain' };
    expect(confirmAfter(confirm, [on, level], [on, renamed])).toEqual({ ...confirm, equals: { name: 'gain' } });
    expect(confirmAfter(confirm, [on, level], [level])).toBe(confirm);
    expect(confirmAfter(confirm, [on, level], [on])).toEqual({ by: 'device' });
  });
});

describe('a value that steps from a reading', () => {
  const json = documentOf('generic-json-tcp');
  const gain = { ...emptyReading(json), title: 'Gain', source: { in: 'json', pointer: '/gain' } as const };
  const reading = putReading(json, undefined, undefined, { ...gain, value: { type: 'whole' } });
  const readings = present(reading.ok ? reading.value : undefined);
  const step = { reading: 'own1', by: -3, wrap: false };
  const own = commandFor(json, {
    title: 'Softer',
    message: { as: 'json', payload: '{"gain":"{level}"}' },
    values: [{ name: 'level', title: 'Level', value: { type: 'whole', min: 0, max: 20 }, default: undefined, step }],
  });
  const made = putCommand(json, readings, undefined, own);
  const additions = present(made.ok ? made.value : undefined);

  it('is sent as what the reading leads to, unless a value is given', () => {
    const driver = compileDriver(json, { additions });
    if (!driver.ok) throw new Error(JSON.stringify(driver.error));
    const sent = (params: Readonly<Record<string, Scalar>>, now: Scalar | undefined) => {
      const encoded = encodeCommand(driver.value, 'own1', params, { readingNow: () => now });
      return encoded.ok ? encoded.value.text : encoded.error.message;
    };
    expect([sent({}, 10), sent({}, 2), sent({ level: 5 }, 10)]).toEqual(['{"gain":7}', '{"gain":0}', '{"gain":5}']);
    expect(sent({}, undefined)).toBe('Level cannot be stepped: what it is now is not known.');
  });

  it('is edited as it was entered, and the sentence of the command leaves it out', () => {
    const command = present(additions.commands['own1']);
    expect(commandTyped(command, json)).toEqual(own);
    expect(command.says).toBe('Softer');
  });

  it('takes its reading along to another device, and stays as a value that is given when the reading is removed', () => {
    const there = putReading(json, undefined, undefined, { ...gain, title: 'Door' });
    const copied = copyAddition({ document: json, additions }, 'command', 'own1', {
      document: json,
      additions: there.ok ? there.value : undefined,
    });
    expect(copied.ok && copied.value.commands['own1']?.params['level']?.step?.from).toBe('own2');
    expect(copied.ok && copied.value.readings['own2']?.title).toBe('Gain');
    const left = present(withoutAddition(additions, 'reading', 'own1'));
    expect(left.commands['own1']?.params['level']).not.toHaveProperty('step');
    expect(compileDriver(json, { additions: left }).ok).toBe(true);
  });
});

describe('copying to another device', () => {
  const modbus = documentOf('generic-modbus');
  const reading = putReading(modbus, undefined, undefined, { ...emptyReading(modbus), title: 'Light' });
  const lit = reading.ok ? reading.value : undefined;
  const off = putCommand(modbus, lit, undefined, commandFor(modbus, { title: 'Light off' }));
  const all = putCommand(
    modbus,
    off.ok ? off.value : undefined,
    undefined,
    commandFor(modbus, {
      title: 'Light on',
      stop: { command: 'own1', longestMs: 5000 },
      confirm: { by: 'reading', reading: 'own1', equals: { fixed: true }, withinMs: 900 },
    }),
  );
  const from = { document: modbus, additions: all.ok ? all.value : undefined };

  it('takes along what confirms and what stops a command, under names that are free there', () => {
    const there = putReading(modbus, undefined, undefined, { ...emptyReading(modbus), title: 'Door' });
    const copied = copyAddition(from, 'command', 'own2', {
      document: modbus,
      additions: there.ok ? there.value : undefined,
    });
    if (!copied.ok) throw new Error(JSON.stringify(copied.error));
    const { commands, readings, questions, polls } = copied.value;
    expect(Object.values(commands).map(({ title }) => title)).toEqual(['Light on', 'Light off']);
    expect(Object.entries(readings).map(([id, { title }]) => [id, title])).toEqual([
      ['own1', 'Door'],
      ['own2', 'Light'],
    ]);
    expect(commands['own1']).toMatchObject({
      stop: { command: 'own2' },
      confirm: { all: [{ reading: 'own2' }], ask: ['own2'] },
    });
    expect([Object.keys(questions ?? {}), polls?.length]).toEqual([['own1', 'own2'], 2]);
  });

  it('twice makes nothing twice', () => {
    const once = copyAddition(from, 'command', 'own2', { document: modbus, additions: undefined });
    const twice = once.ok && copyAddition(from, 'command', 'own2', { document: modbus, additions: once.value });
    expect(twice).toEqual(once);
  });
});

describe('a reading that is computed from others', () => {
  const document = documentOf('generic-text-tcp');
  const line = (title: string, before: string): OwnReading => ({
    ...emptyReading(document),
    title,
    source: { in: 'line', before, after: '' },
    value: { type: 'decimal' },
  });
  const sum: OwnReading = {
    ...emptyReading(document),
    title: 'Sum',
    source: { in: 'others', expression: 'own1 + own2' },
    value: { type: 'decimal' },
  };
  const put = (additions: DriverAdditions | undefined, own: OwnReading, id?: string) => {
    const made = putReading(document, additions, id, own);
    if (!made.ok) throw new Error(JSON.stringify(made.error));
    return made.value;
  };
  const both = put(put(put(undefined, line('Left', 'L=')), line('Right', 'R=')), sum);

  it('is shown again as it was entered, and may become an ordinary one', () => {
    expect(readingTyped('own3', both, document)).toMatchObject(sum);
    const ordinary = put(both, line('Sum', 'S='), 'own3');
    expect(ordinary.readings.own3).not.toHaveProperty('computed');
    expect(readingTyped('own3', ordinary, document)?.source).toEqual({ in: 'line', before: 'S=', after: '' });
  });

  it('is refused at its field while it cannot be computed', () => {
    const wrong = { ...sum, source: { in: 'others' as const, expression: 'own1 + own9' } };
    expect(putReading(document, both, undefined, wrong)).toEqual({
      ok: false,
      error: [{ path: 'expression', message: 'There is no reading “own9”.' }],
    });
  });

  it('goes when a reading goes that it needs, and commands that use it fall back to what is given', () => {
    const scaled: OwnCommand = commandFor(document, {
      values: [{ name: 'level', title: 'Level', value: { type: 'decimal' }, default: undefined, computed: 'own3 / 2' }],
    });
    const made = putCommand(document, both, undefined, scaled);
    if (!made.ok) throw new Error(JSON.stringify(made.error));
    expect(commandTyped(present(made.value.commands.own1), document)?.values).toMatchObject(scaled.values);
    const left = present(withoutAddition(made.value, 'reading', 'own1'));
    expect(Object.keys(left.readings)).toEqual(['own2']);
    expect(left.commands.own1?.params.level).not.toHaveProperty('computed');
    expect(compileDriver(document, { additions: left }).ok).toBe(true);
  });

  it('is copied with what it needs', () => {
    const to = { document, additions: put(undefined, line('Other', 'O=')) };
    const copied = copyAddition({ document, additions: both }, 'reading', 'own3', to);
    if (!copied.ok) throw new Error(JSON.stringify(copied.error));
    const { readings } = copied.value;
    const titles = Object.fromEntries(Object.entries(readings).map(([key, { title }]) => [title, key]));
    expect(readings[titles.Sum ?? '']?.computed).toBe(`${titles.Left} + ${titles.Right}`);
  });
});
