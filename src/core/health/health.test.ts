import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { usualLimits, type HealthLimits } from '../show';
import {
  AnswerSeries,
  computerConcerns,
  deviceConcerns,
  noIncidents,
  screenConcerns,
  seeIncident,
  shortSpanMs,
  stepIncidents,
  sumOf,
  type Concern,
  type DeviceFacts,
  type Incident,
  type IncidentState,
} from '.';

const start = 1_800_000_000_000;

describe('the answers of a device over time', () => {
  it('says within how many milliseconds half of them came, and which was the longest', () => {
    const series = new AnswerSeries(start);
    for (const ms of [4, 8, 2, 100]) series.answered(ms, start + 10);
    series.wasMissed(2, start + 20);
    expect(series.lately(start + 30, 60_000)).toEqual({ answers: 4, missed: 2, half: 4, longest: 100 });
  });

  it('keeps ten minutes in short spans and hours in long ones', () => {
    const series = new AnswerSeries(start);
    const hour = 3_600_000;
    for (let at = start; at < start + hour; at += 5000) series.answered(10, at);
    const now = start + hour;
    expect(series.minutes(now)).toHaveLength(60);
    expect(series.hours(now)).toHaveLength(30);
    expect(series.hours(now).every(({ answers, half }) => answers === 24 && half === 10)).toBe(true);
    expect(series.lately(now, 60_000).answers).toBe(12);
  });

  it('forgets what is older than ten minutes, also after the computer has slept', () => {
    const series = new AnswerSeries(start);
    series.answered(10, start);
    const later = start + 5 * 3_600_000;
    expect(series.lately(later, 600_000)).toEqual({ answers: 0, missed: 0 });
    expect(series.minutes(later).filter(({ answers }) => answers > 0)).toEqual([]);
  });

  it('takes the first answers as the usual ones, whatever comes later', () => {
    const series = new AnswerSeries(start);
    for (let n = 0; n < 29; n += 1) series.answered(10, start);
    expect(series.usual).toBeUndefined();
    series.answered(10, start);
    for (let n = 0; n < 1000; n += 1) series.answered(900, start);
    expect(series.usual).toBe(10);
  });

  it('loses no answer and no miss of the last ten minutes, and keeps its memory small', () => {
    const event = fc.record({
      after: fc.integer({ min: 0, max: 30_000 }),
      ms: fc.double({ min: 0, max: 5000, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(event, { maxLength: 400 }), (events) => {
        const series = new AnswerSeries(start);
        let now = start;
        const all: { at: number; ms: number }[] = [];
        for (const { after, ms } of events) {
          now += after;
          series.answered(ms, now);
          all.push({ at: now, ms });
        }
        const spans = series.minutes(now);
        const from = spans[0]?.at ?? now;
        const within = all.filter(({ at }) => at >= from);
        const sum = sumOf(spans);
        expect(sum.answers).toBe(within.length);
        if (within.length > 0) expect(sum.longest).toBe(Math.max(...within.map(({ ms }) => ms)));
        expect(spans.length).toBeLessThanOrEqual(61);
        expect(now - from).toBeLessThanOrEqual(600_000 + shortSpanMs);
      }),
    );
  });
});

const now = start + 600_000;
const well: DeviceFacts = {
  id: 'cam',
  tag: 'C2',
  link: { word: 'up' },
  since: start,
  wasUp: true,
  minute: { answers: 60, missed: 0, half: 21, longest: 30 },
  tenMinutes: { answers: 600, missed: 0, half: 21, longest: 40 },
  usual: { ms: 20, from: 'line check' },
  drops: 0,
  sent: 10,
  failed: 0,
  sentAt: now - 60_000,
  heardAt: now - 500,
};
const said = (facts: Partial<DeviceFacts>, limits: HealthLimits = usualLimits) =>
  deviceConcerns({ ...well, ...facts }, limits, now).map(({ code, level, text }) => `${code} ${level}: ${text}`);

describe('what health says of a device', () => {
  it('says nothing while all is well', () => {
    expect(said({})).toEqual([]);
  });

  it.each<[string, Partial<DeviceFacts>, string]>([
    [
      'answers slowly',
      { minute: { answers: 50, missed: 0, half: 84, longest: 200 } },
      'slow crossed: C2 answers 4.2 times slower than at the line check: 84 ms, was 20 ms.',
    ],
    [
      'is on its way there',
      { minute: { answers: 50, missed: 0, half: 78, longest: 200 }, usual: { ms: 30, from: 'start' } },
      'slow rising: C2 answers 2.6 times slower than at the start: 78 ms, was 30 ms.',
    ],
    [
      'says nothing although it was sent something',
      { sentAt: now - 25_000, heardAt: now - 40_000 },
      'quiet crossed: C2 has sent nothing for 40 s, although a command was sent to it.',
    ],
    ['fails', { sent: 12, failed: 3 }, 'failing crossed: 3 of 12 commands to C2 failed in ten minutes.'],
    [
      'misses questions',
      { tenMinutes: { answers: 80, missed: 20 } },
      'missing crossed: C2 left 20 of 100 requests unanswered in ten minutes.',
    ],
    ['drops', { drops: 3 }, 'unsteady crossed: The link of C2 dropped 3 times in ten minutes.'],
    [
      'is lost',
      { link: { word: 'down', cause: 'refused' }, since: now - 5000 },
      'down crossed: C2 is down: port refused.',
    ],
    ['has another time', { clockAhead: -7.3 }, 'clock crossed: The clock of C2 is 7.3 s behind this computer.'],
  ])('that %s', (_, facts, text) => {
    expect(said(facts)).toEqual([text]);
  });

  it.each<[string, Partial<DeviceFacts>]>([
    [
      'is a little slower on a quick network',
      { minute: { answers: 50, missed: 0, half: 9 }, usual: { ms: 1, from: 'start' } },
    ],
    ['is behind a gateway that drops', { drops: 4, gateway: { isLost: false, drops: 3 } }],
    ['is behind a gateway that is lost', { link: { word: 'down' }, since: start, gateway: { isLost: true, drops: 1 } }],
    ['was never up', { link: { word: 'down' }, wasUp: false, since: start }],
    ['has just been lost', { link: { word: 'down' }, since: now - 500 }],
    ['is switched off', { link: { word: 'off' }, drops: 9 }],
    ['was heard after it was sent something', { sentAt: now - 100_000, heardAt: now - 90_000 }],
    ['was asked too little', { tenMinutes: { answers: 1, missed: 5 } }],
  ])('and nothing of one that %s', (_, facts) => {
    expect(said(facts)).toEqual([]);
  });

  it('is silent about what is switched off, and follows the limits of the show', () => {
    expect(said({ drops: 3 }, { ...usualLimits, off: ['unsteady'] })).toEqual([]);
    expect(said({ drops: 3 }, { ...usualLimits, unsteady: 30 })).toEqual([]);
  });
});

it('speaks of screens and of this computer', () => {
  const texts = (concerns: readonly Concern[]) => concerns.map(({ level, text }) => `${level}: ${text}`);
  expect(texts(screenConcerns({ id: 'tablet', delayMs: 400, cuts: 2 }, usualLimits))).toEqual([
    'crossed: tablet: the round trip takes 400 ms.',
    'rising: tablet reconnected twice in ten minutes.',
  ]);
  expect(texts(computerConcerns({ load: 0.97, lateMs: 5, free: 0.02 }, usualLimits))).toEqual([
    'crossed: This computer is 97 % busy.',
    'crossed: 2 % of the memory is free.',
  ]);
  expect(computerConcerns({ load: 0.2, lateMs: 1, free: 0.5 }, usualLimits)).toEqual([]);
});

const slow = (part = 1.2): Concern => ({
  code: 'slow',
  about: { kind: 'device', id: 'cam', name: 'C2' },
  level: part >= 1 ? 'crossed' : 'rising',
  part,
  text: `slow by ${part}`,
});

/** Runs looks every two seconds. */
function play(looks: readonly (readonly Concern[])[]) {
  let state: IncidentState = noIncidents;
  let n = 0;
  const told: string[] = [];
  const all = new Map<string, Incident>();
  looks.forEach((concerns, at) => {
    const step = stepIncidents(state, concerns, start + at * 2000, () => `i${++n}`);
    state = step.state;
    for (const each of step.begun) told.push(`${at} begun ${each.text}`);
    for (const each of step.worse) told.push(`${at} worse ${each.text}`);
    for (const each of step.ended) told.push(`${at} ended ${each.text}`);
    for (const each of [...step.begun, ...step.worse, ...step.ended]) all.set(each.id, each);
  });
  return { told, all: [...all.values()], state };
}
const some = <T>(count: number, what: T): T[] => Array<T>(count).fill(what);

describe('incidents', () => {
  it('begin when something lasts, are told anew when it gets worse, and end when all has been well for a while', () => {
    const { told, all } = play([...some(4, [slow()]), [slow(2)], ...some(20, [])]);
    expect(told).toEqual(['2 begun slow by 1.2', '4 worse slow by 2', '20 ended slow by 2']);
    expect(all).toMatchObject([{ from: start, to: start + 10_000, text: 'slow by 2' }]);
  });

  it('do not come of a moment, nor of what is only on its way', () => {
    expect(play([[slow()], [], [slow()], []]).told).toEqual([]);
    expect(play(some(20, [slow(0.8)])).told).toEqual([]);
  });

  it('stay one while it comes and goes', () => {
    const { told } = play([
      ...some(5, [slow()]),
      ...some(5, []),
      ...some(5, [slow()]),
      ...some(5, []),
      ...some(5, [slow()]),
    ]);
    expect(told).toHaveLength(1);
  });

  it('keep who has seen them', () => {
    const { all, state } = play(some(4, [slow()]));
    const [incident] = all;
    if (!incident) throw new Error('no incident');
    const seen = seeIncident(state, { ...incident, seen: { who: 'Ada', note: '', at: start } });
    const step = stepIncidents(seen, [slow(9)], start + 60_000, () => 'other');
    expect(step.begun).toEqual([]);
    expect(step.worse).toMatchObject([{ text: 'slow by 9', seen: { who: 'Ada' } }]);
  });

  it('begin and end in turn for each subject, whatever is found when', () => {
    const concern = fc.constantFrom<Concern>(
      slow(1),
      slow(3),
      slow(0.7),
      { ...slow(), about: { kind: 'device', id: 'other', name: 'C3' } },
      { ...slow(), code: 'down' },
    );
    let ended = 0;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.array(concern, { maxLength: 3 }), fc.integer({ min: 1, max: 20 })), { maxLength: 20 }),
        (parts) => {
          const { all, state } = play(parts.flatMap(([concerns, count]) => some(count, concerns)));
          ended += all.filter(({ to }) => to !== null).length;
          for (const { from, to } of all) expect(to === null || to > from).toBe(true);
          const lasting = all.filter(({ to }) => to === null).map(({ code, about }) => `${code} ${about.id}`);
          expect(new Set(lasting).size).toBe(lasting.length);
          expect(state.open.size).toBe(lasting.length);
        },
      ),
    );
    expect(ended).toBeGreaterThan(20);
  });
});
