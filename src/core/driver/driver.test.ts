import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { compileDriver, type CompiledDriver } from './compile';
import { literalPrefix } from './compile-reply';
import { expectationsOf } from './confirm';
import { decodeSaid } from './decode';
import { encodeCommand } from './encode';
import { splitKey } from './reading-key';
import { parseTemplate } from './template';
import { fillTemplate } from './template-fill';
import { checkValue, fromWire, toWire } from './values';

const compiled = (document: unknown): CompiledDriver => {
  const driver = compileDriver(document);
  if (!driver.ok) throw new Error(JSON.stringify(driver.error));
  return driver.value;
};
const switcher = compiled(visionSwitcher);
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
const said = (text: string) => ({ kind: 'text', text }) as const;
const bytesOf = (sent: ReturnType<typeof encodeCommand>) =>
  sent.ok && sent.value.out.kind === 'bytes' ? sent.value.out.bytes : undefined;
const problemsOf = (document: unknown) => {
  const driver = compileDriver(document);
  return driver.ok ? [] : driver.error;
};

describe('templates', () => {
  it.each<{ source: string; values: Record<string, string>; text: string }>([
    { source: 'TAKE {input}', values: { input: '3' }, text: 'TAKE 3' },
    { source: '{a}{b}', values: { a: 'x', b: 'y' }, text: 'xy' },
    { source: '#{n:dec3}', values: { n: '7' }, text: '#007' },
    { source: '{n:hex2}', values: { n: '250' }, text: 'FA' },
    { source: '{n:dec2}', values: { n: '-4' }, text: '-04' },
    { source: '\\{\\}\\\\', values: {}, text: '{}\\' },
    { source: '\\x02A\\x03', values: {}, text: '\x02A\x03' },
    { source: 'T={t:percent}', values: { t: 'a b/ü' }, text: 'T=a%20b%2F%C3%BC' },
    // RFC 4648, 10.
    { source: '{t:base64}', values: { t: 'fooba' }, text: 'Zm9vYmE=' },
    { source: '{t:hexutf8}', values: { t: 'aü' }, text: '61C3BC' },
    { source: 'SAY {t:quoted}', values: { t: 'a "b" \\c' }, text: 'SAY "a \\"b\\" \\\\c"' },
    { source: '{length dec3|{t}}', values: { t: 'aü' }, text: '003aü' },
    { source: '{length hex2+4|{t}}', values: { t: 'abcdefghijkl' }, text: '10abcdefghijkl' },
  ])('fill $source', ({ source, values, text }) => {
    const parts = parseTemplate(source);
    expect(parts.ok && fillTemplate(parts.value, values)).toBe(text);
  });

  it.each([
    { source: 'TAKE {input', offset: 5 },
    { source: 'TAKE }', offset: 5 },
    { source: 'A {not a name}', offset: 2 },
    { source: 'A\\q', offset: 1 },
    { source: 'A\\x0', offset: 1 },
    { source: 'A{n:u9}', offset: 1 },
    { source: 'A{length f32be|B}', offset: 1 },
    { source: 'A{length u8|B', offset: 12 },
  ])('name the character at fault in $source', ({ source, offset }) => {
    const parts = parseTemplate(source);
    expect(!parts.ok && parts.error.offset).toBe(offset);
  });

  it('never throw, whatever is typed', () => {
    fc.assert(fc.property(fc.string(), (source) => void parseTemplate(source)));
  });
});

const again = { title: 'Go', send: 'GO', again: true };

describe('a driver document', () => {
  it('that ships compiles', () => {
    expect(problemsOf(visionSwitcher)).toEqual([]);
  });

  it.each([
    ['a missing field', { ...base, title: undefined }, 'title'],
    ['an unknown field', { ...base, colour: 'red' }, ''],
    [
      'a parameter that does not exist',
      { ...base, commands: { go: { title: 'Go', send: 'GO {speed}' } } },
      'commands.go.send',
    ],
    ['a broken template', { ...base, commands: { go: { title: 'Go', send: 'GO {' } } }, 'commands.go.send'],
    ['a pattern with a back reference', { ...base, replies: [{ match: '(a)\\1', accepts: true }] }, 'replies.0.match'],
    ['a pattern with a look-ahead', { ...base, replies: [{ match: 'a(?=b)', accepts: true }] }, 'replies.0.match'],
    ['a reply that does nothing', { ...base, replies: [{ match: 'a' }] }, 'replies.0'],
    [
      'a reading that does not exist',
      { ...base, replies: [{ match: 'a', set: { level: '1' } }] },
      'replies.0.set.level',
    ],
    [
      'a confirmation by a reading that does not exist',
      {
        ...base,
        commands: {
          go: {
            title: 'Go',
            send: 'GO',
            confirm: { by: 'readings', all: [{ reading: 'on', equals: true }], withinMs: 9 },
          },
        },
      },
      'commands.go.confirm.all.0.reading',
    ],
    [
      'a confirmation by an answer that never comes',
      { ...base, commands: { go: { title: 'Go', send: 'GO', confirm: { by: 'answer', withinMs: 9 } } } },
      'commands.go.confirm',
    ],
    [
      'a family without its members',
      { ...base, readings: { 'ch[].on': { title: 'On', value: { type: 'onOff' } } } },
      'readings.ch[].on',
    ],
    ['a command to send again without a time', { ...base, commands: { go: again } }, 'commands.go.again'],
    [
      'a command to send again of which nobody can tell that it was lost',
      { ...base, link: { ...base.link, again: { times: 2, everyMs: 50 } }, commands: { go: again } },
      'commands.go.again',
    ],
    [
      'a command to send again over TCP that is answered in order',
      {
        ...base,
        answers: 'in-order',
        link: { ...base.link, again: { times: 2, everyMs: 50 } },
        commands: { go: { ...again, confirm: { by: 'answer', withinMs: 500 } } },
      },
      'commands.go.again',
    ],
    [
      'a silence shorter than the pause between two questions',
      {
        ...base,
        link: { ...base.link, keepAlive: { send: 'A', everyMs: 900, silentAfterMs: 900, giveUpAfterMs: 1000 } },
      },
      'link.keepAlive.silentAfterMs',
    ],
  ])('with %s is refused and says where', (_name, document, path) => {
    expect(problemsOf(document).map((problem) => problem.path)).toContain(path);
  });

  it('is refused with sentences, whatever it is', () => {
    fc.assert(
      fc.property(fc.anything(), (anything) => {
        expect(problemsOf(anything).length).toBeGreaterThan(0);
      }),
    );
  });
});

describe('encoding a command', () => {
  it('writes the line with its ending', () => {
    const sent = encodeCommand(switcher, 'take', { input: 3 });
    expect(new TextDecoder().decode(bytesOf(sent))).toBe('TAKE 3\r\n');
  });

  it.each([
    ['an unknown command', 'leap', {}, 'command'],
    ['a missing parameter', 'take', {}, 'params.input'],
    ['a parameter out of range', 'take', { input: 13 }, 'params.input'],
    ['a fraction where a whole number must be', 'take', { input: 1.5 }, 'params.input'],
    ['a parameter of the wrong type', 'take', { input: '3' }, 'params.input'],
    ['a parameter that the command does not have', 'cut', { input: 3 }, 'params.input'],
    ['a text that would be two lines', 'name', { input: 1, text: 'A\r\nCUT' }, 'send'],
    ['a text that is too long', 'name', { input: 1, text: 'x'.repeat(21) }, 'params.text'],
  ])('refuses %s', (_name, command, params, path) => {
    const sent = encodeCommand(switcher, command, params as Record<string, string | number>);
    expect(!sent.ok && sent.error.path).toBe(path);
  });
});

describe('decoding a reply', () => {
  it.each([
    ['NOW program 3', [{ key: 'program', value: 3 }]],
    ['NOW mix running 12', [{ key: 'mixing', value: true }]],
    ['NOW mix idle', [{ key: 'mixing', value: false }]],
    ['NOW name 3 Finish line', [{ key: 'input[3].name', value: 'Finish line' }]],
    ['NOW name 3 ', [{ key: 'input[3].name', value: '' }]],
  ])('reads %s', (line, readings) => {
    expect(decodeSaid(switcher, said(line), undefined)?.readings).toEqual(readings);
  });

  it('says what a refusal means in the words of the driver', () => {
    expect(decodeSaid(switcher, said('FAIL 31 mix running'), undefined)?.refuses).toEqual({
      code: '31',
      reason: 'A mix is running; wait until it has ended.',
    });
  });

  it('keeps the words of the device for a refusal that the driver does not know', () => {
    expect(decodeSaid(switcher, said('FAIL 77 too warm'), undefined)?.refuses).toEqual({
      code: '77',
      reason: 'too warm',
    });
  });

  it.each(['NOW program 13', 'NOW name 14 Nobody', 'NOW program 99999999999999999999'])(
    'drops %s with a remark',
    (line) => {
      const reply = decodeSaid(switcher, said(line), undefined);
      expect(reply?.readings).toEqual([]);
      expect(reply?.faults).toHaveLength(1);
    },
  );

  it('never throws on any line', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.string().map((s) => `NOW ${s}`),
        ),
        (line) => void decodeSaid(switcher, said(line), undefined),
      ),
    );
  });
});

it.each([
  ['^NOW program ([0-9]+)$', 'NOW program '],
  ['^DONE$', 'DONE'],
  ['^AB?C', 'A'],
  ['^AB*', 'A'],
  ['^A{2}', ''],
  ['^A|B', ''],
  ['^(a|b)c', ''],
  ['NOW', ''],
  ['^\\d+', ''],
  ['^a.b', 'a'],
])('knows what every line begins with that fits %s', (pattern, prefix) => {
  expect(literalPrefix(pattern)).toBe(prefix);
});

describe('values', () => {
  const whole = { type: 'whole', min: 1, max: 12 } as const;
  const shapes = [
    whole,
    { type: 'text' },
    { type: 'onOff', on: 'ON', off: 'OFF' },
    { type: 'choice', choices: [{ value: 'a', title: 'A', wire: '0' }] },
  ] as const;

  it('come back from the wire as they went', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...shapes),
        fc.oneof(fc.integer(), fc.string(), fc.boolean(), fc.constant('a')),
        (shape, value) => {
          const checked = checkValue(shape as never, value);
          if (!checked.ok) return;
          expect(fromWire(shape as never, String(toWire(shape as never, checked.value)))).toEqual({ ok: true, value });
        },
      ),
    );
  });

  it('refuse what is no number', () => {
    expect(
      [Number.NaN, Infinity, null, '4', undefined].map((value) => checkValue({ type: 'decimal' }, value).ok),
    ).toEqual(Array(5).fill(false));
  });
});

describe('confirmation', () => {
  const command = (id: string) => {
    const entry = switcher.commands.get(id);
    if (!entry) throw new Error(id);
    return entry.command;
  };

  it('depends on parameters', () => {
    expect(expectationsOf(command('take'), { input: 5 }, () => undefined)).toEqual([{ key: 'program', equals: 5 }]);
  });

  it('depends on readings as they were before', () => {
    const before: Record<string, number> = { program: 1, preview: 2 };
    expect(expectationsOf(command('cut'), {}, (key) => before[key])).toEqual([
      { key: 'program', equals: 2 },
      { key: 'preview', equals: 1 },
    ]);
  });

  it('is not possible while what it compares with is not known', () => {
    expect(expectationsOf(command('cut'), {}, () => undefined)).toBeUndefined();
  });

  it('finds the member of a family', () => {
    expect(expectationsOf(command('name'), { input: 4, text: 'Bank' }, () => undefined)).toEqual([
      { key: 'input[4].name', equals: 'Bank' },
    ]);
  });
});

it('takes a reading key apart', () => {
  expect([splitKey('program'), splitKey('input[12].name')]).toEqual([
    { family: 'program' },
    { family: 'input[].name', index: 12 },
  ]);
});
