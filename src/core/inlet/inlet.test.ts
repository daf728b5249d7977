import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recordSchema, type ShowRecord } from '../show';
import {
  inletWords,
  mayComeFrom,
  messageText,
  newInletEdit,
  requestOfLine,
  requestOfOsc,
  SourceBudget,
  valueOfText,
} from '.';

describe('a line that comes in', () => {
  it.each([
    ['press ctl-cut', { do: 'press', control: 'ctl-cut' }],
    ['PRESS Race/Cut to black', { do: 'press', control: 'Race/Cut to black' }],
    ['run Start of race', { do: 'run', macro: 'Start of race' }],
    ['call 12', { do: 'call', snapshot: 12 }],
    ['set lap 7', { do: 'set', variable: 'lap', value: '7' }],
    ['set  title  The final  race', { do: 'set', variable: 'title', value: 'The final race' }],
    ['step lap', { do: 'step', variable: 'lap', by: 1 }],
    ['step lap -2', { do: 'step', variable: 'lap', by: -2 }],
    ['fire 3', { do: 'fire', watch: 3 }],
    ['read SW1 input[3].name', { do: 'read', tag: 'SW1', key: 'input[3].name' }],
  ])('%s', (line, request) => expect(requestOfLine(line)).toEqual({ ok: true, value: request }));

  it.each([
    ['press', 'incomplete'],
    ['call three', 'incomplete'],
    ['set lap', 'incomplete'],
    ['step lap two', 'incomplete'],
    ['fire', 'incomplete'],
    ['read SW1', 'incomplete'],
    ['hello there', 'unknown-request'],
    ['', 'unknown-request'],
  ])('is refused with a code: %s', (line, code) => {
    const request = requestOfLine(line);
    expect(!request.ok && request.error.code).toBe(code);
  });

  it('never throws, and names what it takes where it is incomplete', () => {
    let understood = 0;
    const words = fc.constantFrom(...Object.keys(inletWords), 'x');
    fc.assert(
      fc.property(fc.tuple(words, fc.array(fc.string(), { maxLength: 4 })), ([word, rest]) => {
        const request = requestOfLine([word, ...rest].join(' '));
        if (request.ok) understood += 1;
        else expect(request.error.message).not.toBe('');
      }),
    );
    expect(understood).toBeGreaterThan(20);
  });
});

describe('a message of Open Sound Control that comes in', () => {
  it.each([
    ['/press', [{ type: 's', value: 'Race/Cut' }], { do: 'press', control: 'Race/Cut' }],
    ['/press/ctl-cut', [], { do: 'press', control: 'ctl-cut' }],
    ['/run/Start%20of%20race', [], { do: 'run', macro: 'Start of race' }],
    ['/call', [{ type: 'i', value: 3 }], { do: 'call', snapshot: 3 }],
    ['/call/3', [], { do: 'call', snapshot: 3 }],
    ['/set/lap', [{ type: 'f', value: 7.5 }], { do: 'set', variable: 'lap', value: '7.5' }],
    ['/set/door', [{ type: 'T' }], { do: 'set', variable: 'door', value: 'on' }],
  ] as const)('%s', (address, args, request) =>
    expect(requestOfOsc(address, args)).toEqual({ ok: true, value: request }),
  );

  it('is one text for watches', () => {
    expect(messageText('/cue/12/go', [{ type: 'i', value: 1 }])).toBe('/cue/12/go 1');
  });
});

describe('where it may come from', () => {
  it.each<[readonly string[], string, boolean]>([
    [[], '127.0.0.1', true],
    [[], '::1', true],
    [[], '::ffff:127.0.0.1', true],
    [[], '10.0.4.17', false],
    [['10.0.4.0/24'], '10.0.4.17', true],
    [['10.0.4.0/24'], '::ffff:10.0.4.17', true],
    [['10.0.4.0/24'], '10.0.5.17', false],
    [['10.0.4.0/24'], '127.0.0.1', false],
    [['10.0.4.17'], '10.0.4.17', true],
    [['10.0.4.17'], '10.0.4.18', false],
    [['fe80::/10'], 'fe80::1', true],
    [['10.0.4.0/64'], '10.0.4.17', false],
    [['10.0.4.0/24'], 'nowhere', false],
  ])('%j takes %s: %s', (from, address, is) => expect(mayComeFrom({ from: [...from] }, address)).toBe(is));

  it('takes so much of one source in a second, and of others besides', () => {
    const budget = new SourceBudget();
    const taken = Array.from({ length: 300 }, () => budget.takes('a', 500)).filter(Boolean).length;
    expect(taken).toBe(200);
    expect(budget.takes('b', 500)).toBe(true);
    expect(budget.takes('a', 1001)).toBe(true);
  });

  it('takes no more of many made-up sources than it has room for', () => {
    const budget = new SourceBudget();
    const taken = Array.from({ length: 5000 }, (_, n) => budget.takes(`made up ${n}`, 1)).filter(Boolean).length;
    expect(taken).toBe(500 + 200);
  });
});

it('a new inlet is off and for this computer only, and one that others reach says for whom', () => {
  const edit = newInletEdit([], () => 'inlet-1', 'text');
  const [change] = edit.changes;
  if (change?.op !== 'add' || change.record.kind !== 'inlet') throw new Error('It adds an inlet.');
  const { record } = change;
  expect(record.data).toMatchObject({ on: false, host: '127.0.0.1', over: 'tcp' });
  const isValid = (data: object) => recordSchema.safeParse({ ...record, data: { ...record.data, ...data } }).success;
  expect(isValid({})).toBe(true);
  expect(isValid({ host: '0.0.0.0' })).toBe(false);
  expect(isValid({ host: '0.0.0.0', from: ['10.0.4.0/24'] })).toBe(true);
  expect(isValid({ speaks: 'osc', over: 'tcp' })).toBe(false);
  const more: ShowRecord[] = [record];
  const second = newInletEdit(more, () => 'inlet-2', 'text').changes[0];
  expect(second?.op === 'add' && second.record.kind === 'inlet' && second.record.data.port).toBe(4801);
});

it.each([
  ['7', 'number', 7],
  ['on', 'onOff', true],
  ['0', 'onOff', false],
  ['maybe', 'onOff', 'maybe'],
  ['final', 'choice', 'final'],
] as const)('the text %s is %s for a variable', (text, type, value) => expect(valueOfText(text, type)).toBe(value));
