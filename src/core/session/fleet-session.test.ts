import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileDriver, type CompiledDriver } from '../driver';
import { gradesOf, noEvidence } from './grades';
import { isSameStop, oweLine, paidLine, readLedger } from './ledger';
import { initialSession, step, type SessionEvent, type SessionState } from './machine';
import { Outbox, type SendClass } from './outbox';

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
const compiled = (change: object): CompiledDriver => {
  const driver = compileDriver({ ...base, ...change });
  if (!driver.ok) throw new Error(JSON.stringify(driver.error));
  return driver.value;
};

/** Plays events without generations; they get the present one. */
function play(driver: CompiledDriver, events: readonly object[], more: object = {}) {
  const context = { driver, user: 'joe', password: 'tide', readingNow: () => undefined, now: 0, random: 0.5, ...more };
  let state: SessionState = initialSession;
  const effects: unknown[] = [];
  for (const event of events) {
    const next = step(context, state, { generation: state.generation, ...event } as SessionEvent);
    state = next.state;
    effects.push(...next.effects);
  }
  const links = effects.flatMap((each) =>
    (each as { do: string }).do === 'link' ? [(each as { link: { word: string } }).link] : [],
  );
  return { state, effects, links, words: links.map(({ word }) => word) };
}
const enable = { type: 'enable' };
const opened = { type: 'opened' };
const heard = (text: string | undefined) => ({ type: 'heard', text });

describe('signing in', () => {
  const signIn = compiled({
    greeting: [
      { expect: '^WHO (?P<nonce>[0-9a-f]+)$', withinMs: 100, occupied: '^BUSY' },
      {
        derive: { digest: { hash: 'md5', of: '{nonce}{password}' } },
        send: 'I AM {user} {digest}',
      },
      { expect: '^WELCOME$', withinMs: 100, lockedOut: '^WRONG' },
    ],
  });

  it('sends a digest over the challenge and the password', () => {
    const { effects } = play(signIn, [enable, opened, heard('WHO 498e4a67')]);
    // The challenge and digest of PJLink class 1, 5.1, with another password.
    expect(effects).toContainEqual(
      expect.objectContaining({
        do: 'send',
        texts: expect.objectContaining({ nonce: '498e4a67', digest: expect.stringMatching(/^[0-9a-f]{32}$/) }),
      }),
    );
  });

  it('is locked out when the sign-in is not accepted, and waits for a person', () => {
    const out = play(signIn, [enable, opened, heard('WHO 1'), heard('WRONG')]);
    expect(out.state.at).toBe('locked out');
    expect(out.effects.at(-1)).not.toMatchObject({ do: 'startTimer' });
    expect(play(signIn, [enable, opened, heard('WHO 1'), heard('WRONG'), { type: 'call again' }]).words.at(-1)).toBe(
      'calling',
    );
  });

  it('is occupied when somebody else has the device, and is tried again', () => {
    const { words, effects } = play(signIn, [enable, opened, heard('BUSY')]);
    expect(words.at(-1)).toBe('occupied');
    expect(effects.at(-1)).toMatchObject({ do: 'startTimer', timer: 'retry' });
  });

  it('is locked out by a refusal code, whenever it comes', () => {
    const driver = compiled({});
    expect(play(driver, [enable, opened, { type: 'rejected', as: 'locked out' }]).words.at(-1)).toBe('locked out');
  });
});

describe('a link', () => {
  it('over which nothing can come back is one-way', () => {
    const driver = compiled({
      link: { kind: 'udp', port: 1, direction: 'out' },
      framing: { kind: 'message', as: 'text' },
    });
    const { words, effects } = play(driver, [enable, opened]);
    expect(words).toEqual(['calling', 'signing in', 'one-way']);
    expect(effects).toContainEqual({ do: 'payOwed' });
  });

  it('of datagrams that nobody answers is down without an answer, not without a greeting', () => {
    const driver = compiled({
      link: { kind: 'udp', port: 1 },
      framing: { kind: 'message', as: 'text' },
      greeting: [{ expect: '.', withinMs: 100 }],
    });
    expect(play(driver, [enable, opened, { type: 'timer', timer: 'step' }]).state).toMatchObject({
      cause: 'no-answer',
    });
  });

  it('through a gateway tells apart the gateway’s trouble and the device’s own', () => {
    const driver = compiled({ greeting: [{ expect: '.', withinMs: 100 }] });
    const through = { through: 'G1' };
    const refused = play(driver, [enable, { type: 'ended', cause: 'refused' }], through);
    expect(refused.links.at(-1)).toMatchObject({ word: 'down', cause: 'gateway', detail: 'G1: refused' });
    const silent = play(driver, [enable, opened, { type: 'timer', timer: 'step' }], through);
    expect(silent.links.at(-1)).toMatchObject({ word: 'down', cause: 'behind-gateway' });
  });

  it('is up when everything that was asked has been answered', () => {
    const driver = compiled({ answers: 'in-order', sync: { send: ['A', 'B'], answered: true } });
    expect(play(driver, [enable, opened]).words).toEqual(['calling', 'signing in', 'syncing']);
    expect(play(driver, [enable, opened, { type: 'synced' }]).words.at(-1)).toBe('up');
  });

  it('pays what is owed before it asks for the state', () => {
    const driver = compiled({ sync: { send: ['A'] } });
    const order = play(driver, [enable, opened]).effects.map((each) => (each as { do: string }).do);
    expect(order.indexOf('payOwed')).toBeLessThan(order.indexOf('send'));
  });

  it('asks a poll only while its reading says so', () => {
    const driver = compiled({
      readings: { moving: { title: 'Moving', value: { type: 'onOff' } } },
      polls: [{ send: 'P', everyMs: 100, while: { reading: 'moving', equals: true } }],
    });
    const tick = [enable, opened, { type: 'timer', timer: 'poll0' }];
    const asks = (moving: boolean) =>
      play(driver, tick, { readingNow: () => moving }).effects.filter((each) => (each as { do: string }).do === 'send')
        .length;
    expect([asks(false), asks(true)]).toEqual([0, 1]);
  });
});

describe('what waits to go out', () => {
  const box = (limits: object = {}) => new Outbox<string>({ window: 2, gapMs: 0, maxWaiting: 3, ...limits });
  const put = (outbox: Outbox<string>, as: SendClass, item: string, newest?: string) =>
    outbox.put({ class: as, newest, item });
  const drain = (outbox: Outbox<string>, inFlight = 0) => {
    const got: string[] = [];
    for (let next = outbox.next(0, inFlight); next.is === 'item'; next = outbox.next(0, inFlight)) got.push(next.item);
    return got;
  };

  it('goes by class, and within a class in the order in which it came', () => {
    const outbox = box({ maxWaiting: 99 });
    for (const [as, item] of [
      ['continuous', 'f'],
      ['ordinary', 'o1'],
      ['own', 'p'],
      ['urgent', 'u'],
      ['ordinary', 'o2'],
      ['stop', 's'],
    ] as const) {
      put(outbox, as, item);
    }
    expect(drain(outbox)).toEqual(['s', 'u', 'o1', 'o2', 'p', 'f']);
  });

  it('lets only stops out while the window is full', () => {
    const outbox = box();
    put(outbox, 'urgent', 'u');
    put(outbox, 'stop', 's');
    expect(drain(outbox, 2)).toEqual(['s']);
    expect([outbox.isFree(0, 2, 'stop'), outbox.isFree(0, 2, 'urgent')]).toEqual([true, false]);
  });

  it('keeps the gap', () => {
    const outbox = box({ gapMs: 30 });
    outbox.sent(100);
    put(outbox, 'ordinary', 'a');
    expect(outbox.next(110, 0)).toEqual({ is: 'wait', forMs: 20 });
    expect(outbox.next(130, 0)).toEqual({ is: 'item', item: 'a' });
  });

  it('of a fader keeps only the newest, in its place', () => {
    const outbox = box();
    put(outbox, 'continuous', '1a', 'one');
    put(outbox, 'continuous', '2a', 'two');
    expect(put(outbox, 'continuous', '1b', 'one')).toBe('1a');
    expect(drain(outbox)).toEqual(['1b', '2a']);
  });

  it('is bounded, but a stop always finds room', () => {
    const outbox = box();
    for (const item of ['a', 'b', 'c']) expect(put(outbox, 'ordinary', item)).toBeUndefined();
    expect(put(outbox, 'ordinary', 'd')).toBe('d');
    expect(put(outbox, 'stop', 's')).toBeUndefined();
    expect(outbox.clear()).toHaveLength(4);
  });

  it('loses nothing and doubles nothing, whatever comes in whatever order', () => {
    const act = fc.record({
      as: fc.constantFrom<SendClass>('stop', 'urgent', 'ordinary', 'own', 'continuous'),
      take: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(act, { maxLength: 60 }), (acts) => {
        const outbox = new Outbox<string>({ window: 4, gapMs: 0, maxWaiting: 1000 });
        const given: string[] = [];
        const got: string[] = [];
        acts.forEach(({ as, take }, n) => {
          given.push(`${n}`);
          outbox.put({ class: as, newest: undefined, item: `${n}` });
          const next = take ? outbox.next(0, 0) : undefined;
          if (next?.is === 'item') got.push(next.item);
        });
        got.push(...outbox.clear());
        expect([...got].sort()).toEqual([...given].sort());
      }),
    );
  });
});

describe('the ledger', () => {
  const stop = (id: string, params = {}) => ({ id, device: 'dev', command: 'halt', params });

  it('gives back what was entered and not struck out, in order', () => {
    const text = oweLine(stop('a')) + oweLine(stop('b', { axis: 1 })) + paidLine('a');
    expect(readLedger(text)).toEqual([stop('b', { axis: 1 })]);
  });

  it('that was cut off in the middle of a line loses nothing but that line', () => {
    const text = oweLine(stop('a')) + oweLine(stop('b'));
    for (let end = oweLine(stop('a')).length; end < text.length - 1; end += 1) {
      expect(readLedger(text.slice(0, end))).toEqual([stop('a')]);
    }
  });

  it('passes over whatever else is in the file', () => {
    fc.assert(
      fc.property(fc.string(), (junk) => {
        expect(readLedger(`${junk.replaceAll('{', '')}\n${oweLine(stop('a'))}`)).toEqual([stop('a')]);
      }),
    );
  });

  it('knows the same stop', () => {
    expect(isSameStop(stop('a', { axis: 1 }), stop('b', { axis: 1 }))).toBe(true);
    expect(isSameStop(stop('a', { axis: 1 }), stop('b', { axis: 2 }))).toBe(false);
    expect(isSameStop(stop('a'), stop('b', { axis: 2 }))).toBe(false);
  });
});

describe('the grades of a connection', () => {
  it.each([
    ['refused', { word: 'down', cause: 'refused' }, noEvidence, ['yes', 'no', 'no', 'no', 'no']],
    ['no answer', { word: 'down', cause: 'no-answer' }, noEvidence, ['no', 'no', 'no', 'no', 'no']],
    ['something else answers', { word: 'down', cause: 'wrong-greeting' }, noEvidence, ['yes', 'yes', 'no', 'no', 'no']],
    ['locked out', { word: 'locked out' }, noEvidence, ['yes', 'yes', 'yes', 'no', 'no']],
    [
      'open, nothing heard',
      { word: 'signing in' },
      { ...noEvidence, connected: true },
      ['yes', 'yes', 'unknown', 'unknown', 'unknown'],
    ],
    [
      'up',
      { word: 'up' },
      { connected: true, heard: true, understood: true, reported: true },
      ['yes', 'yes', 'yes', 'yes', 'yes'],
    ],
    [
      'silent',
      { word: 'silent' },
      { connected: true, heard: true, understood: true, reported: true },
      ['yes', 'yes', 'yes', 'yes', 'no'],
    ],
    ['one-way', { word: 'one-way' }, noEvidence, ['unknown', 'unknown', 'unknown', 'unknown', 'unknown']],
  ] as const)('%s', (_name, link, evidence, grades) => {
    expect(Object.values(gradesOf(link, evidence))).toEqual(grades);
  });
});
