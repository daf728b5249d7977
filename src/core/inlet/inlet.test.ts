import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { controlRecord, macroRecord, pageRecord } from '../../../test/support/records';
import { recordSchema, type Edit, type InletRecord, type ShowRecord, type Trigger } from '../show';
import {
  addressesOf,
  answerLine,
  answerStatus,
  isNamed,
  learnEdit,
  mayComeFrom,
  messageText,
  newInletEdit,
  pathText,
  requestOfLine,
  requestOfOsc,
  requestOfPath,
  SourceBudget,
  takenBy,
  triggersOf,
  unlearnEdit,
  valueOfText,
  type Addressed,
  type InletAnswer,
  type LearnedTrigger,
} from '.';
import { inletWords } from './request';

describe('a line that comes in', () => {
  it.each([
    ['press ctl-cut', { do: 'press', control: 'ctl-cut' }],
    ['PRESS Race/Cut to black', { do: 'press', control: 'Race/Cut to black' }],
    ['run Start of race', { do: 'run', macro: 'Start of race', params: {} }],
    [
      'run Start of race lane=3 crew=Alder Eight',
      { do: 'run', macro: 'Start of race', params: { lane: '3', crew: 'Alder Eight' } },
    ],
    ['call 12', { do: 'call', snapshot: 12 }],
    ['set lap 7', { do: 'set', variable: 'lap', value: '7' }],
    ['set  title  The final  race', { do: 'set', variable: 'title', value: 'The final race' }],
    ['step lap', { do: 'step', variable: 'lap', by: 1 }],
    ['step lap -2', { do: 'step', variable: 'lap', by: -2 }],
    ['fire 3', { do: 'fire', watch: 3 }],
    ['list pages', { do: 'list', what: 'pages', of: '' }],
    ['list Controls Pontoon talk', { do: 'list', what: 'controls', of: 'Pontoon talk' }],
    ['read SW1 input[3].name', { do: 'read', subject: { tag: 'SW1', key: 'input[3].name' } }],
    ['read lamp Race/Cut to black', { do: 'read', subject: { control: 'Race/Cut to black' } }],
    ['follow C1 tally.state', { do: 'follow', subject: { tag: 'C1', key: 'tally.state' } }],
    ['unfollow C1 tally.state', { do: 'unfollow', subject: { tag: 'C1', key: 'tally.state' } }],
    ['unfollow', { do: 'unfollow' }],
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
    ['/press/Race/Cut', [], { do: 'press', control: 'Race/Cut' }],
    ['/run/Start%20of%20race', [], { do: 'run', macro: 'Start of race', params: {} }],
    ['/read/lamp/Race/Cut', [], { do: 'read', subject: { control: 'Race/Cut' } }],
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

describe('a path of HTTP', () => {
  it.each<[string, Record<string, string>, string, object]>([
    ['/press/Race/Cut', {}, '', { do: 'press', control: 'Race/Cut' }],
    ['/press/Race/Cut%20to%20black/', {}, '', { do: 'press', control: 'Race/Cut to black' }],
    ['/run/Start', { lane: '3', token: 'x' }, '', { do: 'run', macro: 'Start', params: { lane: '3' } }],
    ['/set/race/7', {}, '', { do: 'set', variable: 'race', value: '7' }],
    ['/set/race', { value: '7' }, '', { do: 'set', variable: 'race', value: '7' }],
    ['/set/title', {}, 'Finals: 1/2', { do: 'set', variable: 'title', value: 'Finals: 1/2' }],
    ['/read/SW1/input%5B3%5D.name', {}, '', { do: 'read', subject: { tag: 'SW1', key: 'input[3].name' } }],
    ['/read/lamp/Race/Cut', {}, '', { do: 'read', subject: { control: 'Race/Cut' } }],
  ])('%s', (path, query, body, request) =>
    expect(requestOfPath(path, query, body)).toEqual({ ok: true, value: request }),
  );

  it.each([
    ['/', 'unknown-request'],
    ['/set/race', 'incomplete'],
    ['/call/three', 'incomplete'],
    ['/%', 'unknown-request'],
  ])('is refused with a code: %s', (path, code) => {
    const request = requestOfPath(path, {}, '');
    expect(!request.ok && request.error.code).toBe(code);
  });

  it('is one text for watches', () => expect(pathText('/goal/home%20team/')).toBe('goal home team'));

  it('never throws', () => {
    fc.assert(
      fc.property(fc.webPath(), fc.string(), (path, body) => void requestOfPath(path, {}, body)),
      { numRuns: 300 },
    );
  });
});

describe('an answer', () => {
  it.each<[InletAnswer, string, number]>([
    [{ is: 'ok', said: 'confirmed 41 ms', outcome: 'confirmed', ms: 41.2 }, 'ok confirmed 41 ms', 200],
    [{ is: 'value', value: 3, isFresh: true }, 'value 3', 200],
    [{ is: 'value', value: 'Finish', isFresh: false }, 'stale Finish', 200],
    [{ is: 'lamp', show: 'onAir', word: 'AIR' }, 'lamp onAir AIR', 200],
    [{ is: 'lamp', show: 'off', word: '' }, 'lamp off', 200],
    [{ is: 'error', code: 'not-found', message: 'There is no macro x.' }, 'error not-found There is no macro x.', 404],
    [{ is: 'error', code: 'refused', message: 'nothing is loaded' }, 'error refused nothing is loaded', 409],
    [{ is: 'error', code: 'late', message: '' }, 'error late', 504],
  ])('%j is the line %s with status %i', (answer, line, status) => {
    expect([answerLine(answer), answerStatus(answer)]).toEqual([line, status]);
  });
});

it.each([
  ['Start of race!', 'start_of_race', true],
  ['Cut', ' CUT ', true],
  ['Zürich 2', 'zürich-2', true],
  ['Cut', 'Cut to black', false],
  ['!!', '?', false],
] as const)('the thing called %s is meant by %s: %s', (name, written, is) => expect(isNamed(name, written)).toBe(is));

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
  expect(isValid({ speaks: 'osc', over: 'tcp' })).toBe(true);
  expect(isValid({ speaks: 'http', over: 'udp' })).toBe(false);
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

describe('the addresses of a record', () => {
  const inlets = (['text', 'osc', 'http'] as const).map((speaks, n): ShowRecord => {
    const [change] = newInletEdit([], () => `inlet-${n}`, speaks).changes;
    if (change?.op !== 'add' || change.record.kind !== 'inlet') throw new Error('It adds an inlet.');
    const data = { ...change.record.data, order: n, ...(n === 2 ? { host: '0.0.0.0', from: ['10.0.4.0/24'] } : {}) };
    return { ...change.record, data };
  });
  const cut = controlRecord('ctl-cut', { label: [{ text: 'Cut to black' }] });
  const records = [...inlets, pageRecord('page', 'Race'), cut, macroRecord('mac-start', [])];
  const texts = (of: ShowRecord, all: readonly ShowRecord[] = records) =>
    addressesOf(all, of as Addressed, '10.0.4.2').map(({ text }) => text);

  it('are made of names, as each inlet has them', () => {
    expect(texts(cut)).toEqual([
      'press Race/Cut to black',
      '/press/Race/Cut_to_black',
      'http://10.0.4.2:4820/press/Race/Cut%20to%20black',
    ]);
  });

  it('are made of the id where a name is used twice, or would be taken apart', () => {
    const twice = controlRecord('ctl-other', { label: [{ text: 'cut, to black' }] });
    expect(texts(cut, [...records, twice])[0]).toBe('press ctl-cut');
    const slashed = controlRecord('ctl-slash', { label: [{ text: '1/2' }] });
    expect(texts(slashed, [...records, slashed])[0]).toBe('press ctl-slash');
  });

  it('mean what they are made for, read by the inlet that they are for', () => {
    const [line = '', osc = '', url = ''] = texts(cut);
    const path = new URL(url).pathname;
    for (const request of [requestOfLine(line), requestOfOsc(osc, []), requestOfPath(path, {}, '')]) {
      if (!request.ok || request.value.do !== 'press') throw new Error('It is a press.');
      const [page = '', ...label] = request.value.control.split('/');
      expect([isNamed('Race', page), isNamed('Cut to black', label.join('/'))]).toEqual([true, true]);
    }
  });
});

describe('what is learned', () => {
  const inlet = (id: string, triggers?: Trigger[]): InletRecord => {
    const [change] = newInletEdit([], () => id, 'osc').changes;
    if (change?.op !== 'add' || change.record.kind !== 'inlet') throw new Error('It adds an inlet.');
    return { ...change.record, data: { ...change.record.data, ...(triggers ? { triggers } : {}) } };
  };
  const learned = ({ changes: [change] }: Edit): InletRecord => {
    if (change?.op !== 'update' || change.to.kind !== 'inlet') throw new Error('It changes an inlet.');
    expect(recordSchema.safeParse(change.to).success).toBe(true);
    return change.to;
  };
  const cut = controlRecord('ctl-cut', { label: [{ text: 'Cut' }] });
  const start = macroRecord('mac-start', []);

  it('is found again by what it is for, and forgotten', () => {
    const first = learned(learnEdit(cut, { inlet: inlet('a'), text: '/cue/7 1' }));
    const second = learned(learnEdit(start, { inlet: first, text: '/cue/8' }));
    const records = [second, cut, start];
    expect(triggersOf(records, cut.id).map(({ text }) => text)).toEqual(['/cue/7 1']);
    expect(triggersOf(records, start.id).map(({ text }) => text)).toEqual(['/cue/8']);
    const [trigger] = triggersOf(records, cut.id);
    expect(learned(unlearnEdit(trigger as LearnedTrigger)).data.triggers).toEqual([
      { text: '/cue/8', run: 'mac-start' },
    ]);
  });

  it('by somebody else is named, and learned again it is only theirs who learned it last', () => {
    const first = learned(learnEdit(cut, { inlet: inlet('a'), text: 'go' }));
    const records = [first, cut, start];
    expect(takenBy(records, { inlet: first, text: 'go' }, start.id)).toBe('Cut');
    expect(takenBy(records, { inlet: first, text: 'go' }, cut.id)).toBeUndefined();
    expect(takenBy(records, { inlet: first, text: 'stop' }, start.id)).toBeUndefined();
    expect(takenBy([first], { inlet: first, text: 'go' }, start.id)).toBe('something that no longer exists');
    const second = learned(learnEdit(start, { inlet: first, text: 'go' }));
    expect(second.data.triggers).toEqual([{ text: 'go', run: 'mac-start' }]);
  });

  it('is told apart from what watches wait for, on this inlet or on any', () => {
    const watch = (on?: string) =>
      ({
        kind: 'watch',
        id: 'w',
        version: 1,
        data: { name: 'Goal', when: { is: 'message', text: 'go', ...(on === undefined ? {} : { inlet: on }) } },
      }) as ShowRecord;
    const one = inlet('a');
    expect(takenBy([one, watch()], { inlet: one, text: 'go' }, cut.id)).toBe('the watch Goal');
    expect(takenBy([one, watch('a')], { inlet: one, text: 'go' }, cut.id)).toBe('the watch Goal');
    expect(takenBy([one, watch('b')], { inlet: one, text: 'go' }, cut.id)).toBeUndefined();
  });
});
