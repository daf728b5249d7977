import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled, deviceRecord } from '../../../test/support/records';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { problemsOfWatch } from '../check';
import { ownDocumentOf, recordSchema, type Schedule, type ShowRecord, type WatchData, type WatchRecord } from '../show';
import {
  isKnownZone,
  judged,
  looked,
  messageMatch,
  newWatchState,
  nextTime,
  patternProblem,
  scheduleProblem,
  switched,
  watchLoop,
  whenText,
  type WatchState,
} from '.';

const zone = 'Europe/Zurich';
const at = (text: string): number => new Date(text).getTime();
const shown = (time: number | undefined) => (time === undefined ? undefined : new Date(time).toISOString());

describe('a schedule', () => {
  it.each<[string, Schedule, string, string | undefined]>([
    ['each day', { is: 'daily', time: '14:05' }, '2026-06-14T10:00:00Z', '2026-06-14T12:05:00.000Z'],
    ['the next day', { is: 'daily', time: '14:05' }, '2026-06-14T12:05:00Z', '2026-06-15T12:05:00.000Z'],
    ['with seconds', { is: 'daily', time: '14:05:07' }, '2026-06-14T10:00:00Z', '2026-06-14T12:05:07.000Z'],
    [
      'on Saturdays and Sundays',
      { is: 'daily', time: '09:00', days: [6, 7] },
      '2026-06-15T00:00:00Z',
      '2026-06-20T07:00:00.000Z',
    ],
    ['once', { is: 'once', date: '2026-06-14', time: '18:00' }, '2026-06-14T10:00:00Z', '2026-06-14T16:00:00.000Z'],
    ['once, and not again', { is: 'once', date: '2026-06-14', time: '18:00' }, '2026-06-14T16:00:00Z', undefined],
    [
      'on a leap day',
      { is: 'once', date: '2028-02-29', time: '08:00' },
      '2026-06-14T10:00:00Z',
      '2028-02-29T07:00:00.000Z',
    ],
    ['before the show', { is: 'show', offset: -90 }, '2026-06-14T00:00:00Z', '2026-06-14T07:58:30.000Z'],
    [
      'every 20 minutes between',
      { is: 'every', minutes: 20, from: '10:00', to: '11:00' },
      '2026-06-14T08:20:00Z',
      '2026-06-14T08:40:00.000Z',
    ],
    [
      'every 20 minutes, with the end in it',
      { is: 'every', minutes: 20, from: '10:00', to: '11:00' },
      '2026-06-14T08:59:59Z',
      '2026-06-14T09:00:00.000Z',
    ],
    [
      'every 20 minutes, the next day',
      { is: 'every', minutes: 20, from: '10:00', to: '11:00' },
      '2026-06-14T09:00:00Z',
      '2026-06-15T08:00:00.000Z',
    ],
    ['by cron', { is: 'cron', cron: '*/15 10-11 * * *' }, '2026-06-14T09:50:00Z', '2026-06-15T08:00:00.000Z'],
    // Clocks go from 02:00 to 03:00 on 29 March 2026, and from 03:00 to 02:00 on 25 October.
    ['left out by summer time', { is: 'daily', time: '02:30' }, '2026-03-28T12:00:00Z', '2026-03-29T01:30:00.000Z'],
    ['twice by winter time', { is: 'daily', time: '02:30' }, '2026-10-24T12:00:00Z', '2026-10-25T00:30:00.000Z'],
    ['not twice by winter time', { is: 'daily', time: '02:30' }, '2026-10-25T00:30:00Z', '2026-10-26T01:30:00.000Z'],
    ['the day after the change', { is: 'daily', time: '14:05' }, '2026-03-29T13:00:00Z', '2026-03-30T12:05:00.000Z'],
  ])('%s', (_name, schedule, after, wanted) => {
    expect(shown(nextTime(schedule, at(after), { zone, beginsAt: '2026-06-14T10:00' }))).toBe(wanted);
  });

  it('counts in the zone of the show, and has no time before the show has a beginning', () => {
    const daily: Schedule = { is: 'daily', time: '12:00' };
    expect(shown(nextTime(daily, at('2026-06-14T00:00:00Z'), { zone: 'Asia/Tokyo' }))).toBe('2026-06-14T03:00:00.000Z');
    expect(nextTime({ is: 'show', offset: 0 }, 0, { zone })).toBeUndefined();
  });

  it('knows the zones of this computer, and no others', () => {
    expect(isKnownZone('Europe/Zurich')).toBe(true);
    expect(isKnownZone('Europe/Nowhere')).toBe(false);
  });

  it('comes after the moment, and strictly later each time, for any of them', () => {
    const time = fc.tuple(fc.nat(23), fc.nat(59)).map(([h, m]) => `${pad(h)}:${pad(m)}`);
    const schedules = fc.oneof(
      time.map((each): Schedule => ({ is: 'daily', time: each })),
      fc
        .tuple(fc.integer({ min: 1, max: 720 }), fc.nat(11), fc.integer({ min: 12, max: 23 }))
        .map(([minutes, from, to]): Schedule => ({
          is: 'every',
          minutes,
          from: `${pad(from)}:15`,
          to: `${pad(to)}:45`,
        })),
    );
    const changes = [at('2026-03-29T01:00:00Z'), at('2026-10-25T01:00:00Z')];
    const over = [0, 0];
    // On any day of the year, or in the last hours before the clocks are changed.
    const starts = fc.oneof(
      fc.integer({ min: 0, max: 366 * 24 * 60 }).map((minutes) => at('2026-01-01T00:00:00Z') + minutes * 60_000),
      fc
        .tuple(fc.constantFrom(...changes), fc.integer({ min: 1, max: 600 }))
        .map(([change, minutes]) => change - minutes * 60_000),
    );
    fc.assert(
      fc.property(schedules, starts, (schedule, first) => {
        let now = first;
        for (let n = 0; n < 5; n += 1) {
          const next = nextTime(schedule, now, { zone });
          expect(next).toBeGreaterThan(now);
          now = next ?? now;
        }
        for (const [n, change] of changes.entries()) if (first < change && now > change) over[n] = (over[n] ?? 0) + 1;
        // Never more than a day and an hour apart.
        expect(now - first).toBeLessThan(5 * 25 * 3_600_000 + 1);
      }),
      { numRuns: 400 },
    );
    // Both changes of summer time are met.
    for (const times of over) expect(times).toBeGreaterThan(10);
  });

  it.each<[Schedule, string]>([
    [{ is: 'once', date: '2026-02-30', time: '10:00' }, '2026-02-30 is not a valid date.'],
    [{ is: 'cron', cron: '61 * * * *' }, 'Invalid cron expression'],
    [{ is: 'cron', cron: '* *' }, 'cron expression'],
    [{ is: 'every', minutes: 5, from: '12:00', to: '11:00' }, 'later in the day'],
    [{ is: 'show', offset: 0 }, 'no start time'],
  ])('is refused with the reason: %j', (schedule, said) => {
    expect(scheduleProblem(schedule, { zone })).toContain(said);
  });
});

const pad = (n: number): string => String(n).padStart(2, '0');

const condition = { op: 'equals', reading: { device: 'sw', key: 'program' }, to: 3 } as const;
const when = { is: 'true', condition, forMs: 0 } as const;
const free = { isInService: true, isKeptFrom: false };

describe('a watch', () => {
  const seen = (values: readonly (boolean | undefined)[]) => {
    let state = newWatchState({});
    return values.map((value) => {
      const next = looked({ when }, state, value);
      state = next.state;
      return next.isMet;
    });
  };

  it.each<[string, (boolean | undefined)[], boolean[]]>([
    ['is met when its condition becomes true', [false, true], [false, true]],
    ['is not met by what is true from the start', [true, true], [false, false]],
    ['is not met again while it stays true', [false, true, true], [false, true, false]],
    ['is met again after it was false', [false, true, false, true], [false, true, false, true]],
    ['is not met when it is known again to be true', [true, undefined, true], [false, false, false]],
    ['is met when it became true while nobody could see it', [false, undefined, true], [false, false, true]],
  ])('%s', (_name, values, met) => expect(seen(values)).toEqual(met));

  it('that waits for a change is met by each other value, or by the wanted one', () => {
    const reading = { device: 'sw', key: 'program' };
    const met = (to: number | undefined) => {
      let state = newWatchState({});
      return [1, 2, 2, undefined, 2, 3, 1].map((value) => {
        const next = looked({ when: { is: 'change', reading, ...(to === undefined ? {} : { to }) } }, state, value);
        state = next.state;
        return next.isMet;
      });
    };
    expect(met(undefined)).toEqual([false, true, false, false, false, true, true]);
    expect(met(3)).toEqual([false, false, false, false, false, true, false]);
  });

  const data = (more: Partial<WatchData> = {}) => ({ quietMs: 0, mostPerMinute: 60, ...more }) as WatchData;
  const verdicts = (watch: WatchData, times: readonly number[]) => {
    let state: WatchState = newWatchState(watch);
    return times.map((now) => {
      const next = judged(watch, state, { now, ...free });
      state = next.state;
      return next.verdict;
    });
  };

  it('keeps quiet for a time after it has fired', () => {
    expect(verdicts(data({ quietMs: 500 }), [0, 499, 500, 600])).toEqual(['fires', 'quiet', 'fires', 'quiet']);
  });

  it('fires so many times a minute and no more', () => {
    const times = [0, 10_000, 20_000, 59_999, 60_000];
    expect(verdicts(data({ mostPerMinute: 2 }), times)).toEqual(['fires', 'fires', 'too often', 'too often', 'fires']);
  });

  it('that fires once is spent until it is switched on again', () => {
    const once = data({ once: true });
    const first = judged(once, newWatchState(once), { now: 0, ...free });
    expect(judged(once, first.state, { now: 9, ...free }).verdict).toBe('spent');
    expect(judged(once, switched(first.state, true), { now: 9, ...free }).verdict).toBe('fires');
  });

  it('that sets itself off is stopped, says why, and goes on when it is switched on', () => {
    const all = verdicts(
      data(),
      Array.from({ length: 12 }, (_, n) => n * 10),
    );
    expect(all.slice(0, 10).every((verdict) => verdict === 'fires')).toBe(true);
    expect(all.slice(10)).toEqual(['loop', 'stopped']);
  });

  it('does nothing while it is off, not in service, or its exception holds', () => {
    const state = newWatchState({ off: true });
    expect(judged(data(), state, { now: 0, ...free }).verdict).toBe('off');
    const on = newWatchState({});
    expect(judged(data({ inService: true }), on, { now: 0, isInService: false, isKeptFrom: false }).verdict).toBe(
      'not in service',
    );
    expect(judged(data(), on, { now: 0, isInService: true, isKeptFrom: true }).verdict).toBe('unless');
  });

  it('that waits for a key is met when the key goes on, and not by one that was on', () => {
    const when = { is: 'key', switcher: 'sw', key: 1, preRoll: 12 } as const;
    const met = (values: readonly (boolean | undefined)[]) => {
      let state: WatchState = newWatchState({});
      return values.map((value) => {
        const next = looked({ when }, state, value);
        state = next.state;
        return next.isMet;
      });
    };
    expect(met([true, undefined, true, false, true, true])).toEqual([false, false, false, false, true, false]);
  });

  it('never fires more often than it may, whatever happens', () => {
    let fired = 0;
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 0, max: 3000 }),
        fc.array(fc.integer({ min: 0, max: 4000 }), { maxLength: 80 }),
        (mostPerMinute, quietMs, waits) => {
          const watch = data({ mostPerMinute, quietMs });
          let now = 0;
          const times = waits.map((wait) => (now += wait));
          const all = verdicts(watch, times);
          const firings = times.filter((_, n) => all[n] === 'fires');
          fired += firings.length;
          firings.forEach((time, n) => {
            if (n > 0) expect(time - (firings[n - 1] ?? 0)).toBeGreaterThanOrEqual(quietMs);
            expect(firings.filter((other) => other <= time && time - other < 60_000).length).toBeLessThanOrEqual(
              mostPerMinute,
            );
          });
        },
      ),
    );
    expect(fired).toBeGreaterThan(200);
  });
});

describe('a watch that may set itself off', () => {
  const variable = (key: string, order: number): ShowRecord => ({
    kind: 'variable',
    id: `var-${key}`,
    version: 1,
    data: { name: key, key, order, note: '', value: { type: 'onOff', initial: false } },
  });
  const watch = (number: number, waitsFor: string, sets: string, more: Partial<WatchData> = {}): WatchRecord => ({
    kind: 'watch',
    id: `watch-${number}`,
    version: 1,
    data: {
      name: `W${number}`,
      number,
      order: number,
      note: '',
      when: {
        is: 'true',
        condition: { op: 'equals', reading: { device: 'own', key: `variable.${waitsFor}` }, to: true },
        forMs: 0,
      },
      delayMs: 0,
      quietMs: 0,
      mostPerMinute: 60,
      sends: [{ device: 'own', command: sets, params: {} }],
      ...more,
    },
  });
  const loopOf = (records: readonly ShowRecord[], number: number) => {
    const own = ownDocumentOf(records);
    const record = records.find(({ id }) => id === `watch-${number}`) as WatchRecord;
    return watchLoop(record, { records, documentOf: (id) => (id === 'own' ? own : undefined) });
  };
  const variables = ['a', 'b', 'c'].map(variable);

  it('is found, alone and round others, and named', () => {
    expect(loopOf([...variables, watch(1, 'a', 'switchA')], 1)).toEqual(['W1', 'W1']);
    const round = [...variables, watch(1, 'a', 'switchB'), watch(2, 'b', 'switchC'), watch(3, 'c', 'switchA')];
    expect(loopOf(round, 1)).toEqual(['W1', 'W2', 'W3', 'W1']);
    expect(loopOf(round, 3)).toEqual(['W3', 'W1', 'W2', 'W3']);
  });

  it('is found through a watch that it fires, a macro and a pressed control', () => {
    const fires = { sends: [{ device: 'own', command: 'fireWatch', params: { watch: 2 } }] };
    expect(loopOf([...variables, watch(1, 'a', 'switchB', fires), watch(2, 'c', 'switchA')], 1)).toEqual([
      'W1',
      'W2',
      'W1',
    ]);
    const control = {
      kind: 'control',
      id: 'key',
      version: 1,
      data: { responses: { tap: [{ device: 'own', command: 'switchA', params: {} }] } },
    } as unknown as ShowRecord;
    expect(loopOf([...variables, control, watch(1, 'a', 'x', { sends: [], presses: 'key' })], 1)).toEqual(['W1', 'W1']);
  });

  it('is found through what a key brings and takes out', () => {
    const when: WatchData['when'] = {
      is: 'key',
      switcher: 'sw',
      key: 1,
      preRoll: 0,
      out: { sends: [{ device: 'own', command: 'switchA', params: {} }], withKey: true },
    };
    const key = { device: 'sw', command: 'key', params: { key: 1, on: true } };
    const records = [...variables, watch(1, 'a', 'x', { when, sends: [] }), watch(2, 'a', 'x', { sends: [key] })];
    const switcher = compiled(visionSwitcher).document;
    const own = ownDocumentOf(records);
    const documentOf = (id: string) => (id === 'own' ? own : switcher);
    expect(watchLoop(records[3] as WatchRecord, { records, documentOf })).toEqual(['W1', 'W2', 'W1']);
    expect(whenText({ when }, { documentOf, tagOf: () => 'SW1' })).toBe('SW1 key 1 goes on');
    expect(whenText({ when: { ...when, input: 8, preRoll: 12 } }, { documentOf, tagOf: () => 'SW1' })).toBe(
      'SW1 key 1 goes on with input 8, 12 frames before',
    );
  });

  it('is not found where there is none', () => {
    expect(loopOf([...variables, watch(1, 'a', 'switchB'), watch(2, 'b', 'switchC')], 1)).toBeUndefined();
    for (const record of [watch(1, 'a', 'switchB'), ...variables])
      expect(recordSchema.safeParse(record).success).toBe(true);
  });
});

describe('graphics with a key', () => {
  const switcher = compiled(visionSwitcher).document;
  const say = (when: object) => {
    const parsed = recordSchema.safeParse({
      kind: 'watch',
      id: 'w',
      version: 1,
      data: { name: 'Titles', number: 1, order: 1, when: { is: 'key', switcher: 'dev-SW1', key: 1, ...when } },
    });
    if (!parsed.success) return parsed.error.issues.map(({ message }) => message);
    const device = (id: string) => (id === 'dev-SW1' ? deviceRecord('SW1') : undefined);
    return problemsOfWatch(parsed.data as WatchRecord, {
      records: [],
      device,
      page: () => undefined,
      document: () => switcher,
    })
      .filter(({ of }) => of === 'when')
      .map(({ message }) => message);
  };
  const out = { sends: [{ device: 'dev-SW1', command: 'cut', params: {} }] };

  it.each<[string, object, string[]]>([
    ['nothing', {}, []],
    ['nothing, with what takes them out', { out }, []],
    ['a switcher that is gone', { switcher: 'dev-X' }, ['The switcher of its key is no longer in the rig.']],
    ['a key that it does not have', { key: 9 }, ['SW1 has no key 9.']],
    ['taking out without a command', { out: { sends: [] } }, ['Choose what takes the graphics out again.']],
    [
      'taking out that never happens',
      { out: { ...out, withKey: false } },
      ['Nothing takes the graphics out: choose with the key, after a time, or both.'],
    ],
    ['a pre-roll that is too long', { preRoll: 251 }, ['at most 250 frames']],
    ['a pre-roll before the beginning', { preRoll: -1 }, ['not negative']],
  ])('say what is wrong: %s', (_name, when, said) => {
    expect(say(when)).toEqual(said);
  });
});

describe('a message that is a pattern', () => {
  const when = (text: string) => ({ is: 'message', text, pattern: true }) as const;

  it('catches its named groups, and fits as a whole or not at all', () => {
    const match = messageMatch(when('goal (?P<team>home|away) (?P<minute>[0-9]+)'));
    expect(match('goal home 42')).toEqual({ team: 'home', minute: '42' });
    expect(match('a goal home 42')).toBeUndefined();
    expect(match('goal home 42 ')).toBeUndefined();
    expect(messageMatch({ is: 'message', text: 'goal (?P<team>home)' })('goal home')).toBeUndefined();
    expect(messageMatch({ is: 'message', text: 'a.c' })('abc')).toBeUndefined();
  });

  it.each([
    ['(a)\\1', /not supported/],
    ['a(?=b)', /not supported/],
    ['(', /not supported/],
  ])('that cannot be matched in linear time is refused: %s', (text, said) => {
    expect(patternProblem(when(text))).toMatch(said);
    expect(messageMatch(when(text))('aa')).toBeUndefined();
  });

  it('takes no longer for what would drive a searching engine mad', () => {
    const match = messageMatch(when('(a+)+b'));
    const began = performance.now();
    expect(match('a'.repeat(300))).toBeUndefined();
    expect(performance.now() - began).toBeLessThan(500);
  });

  it('says which of its groups fill nothing', () => {
    const variable = {
      kind: 'variable',
      id: 'v',
      version: 1,
      data: { name: 'Lap', key: 'lap', value: { type: 'text', initial: '' } },
    } as ShowRecord;
    const record = {
      kind: 'watch',
      id: 'w',
      version: 1,
      data: { name: 'W', number: 1, order: 1, when: when('(?P<lap>[0-9]+) (?P<team>.*)'), sends: [], presses: 'x' },
    } as unknown as WatchRecord;
    const said = problemsOfWatch(record, {
      records: [variable],
      device: () => undefined,
      page: () => undefined,
      document: () => undefined,
    });
    expect(said.filter(({ of }) => of === 'when').map(({ message }) => message)).toEqual([
      'The group team fills nothing: no variable and no parameter of the macro has this name.',
    ]);
  });
});
