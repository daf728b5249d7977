import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Reading } from '../reading';
import { ownDocument, ownId, type Condition, type ReadingTest } from '../show';
import { readCel } from './cel';
import { truthOf, type LampSources, type Pass } from './truth';

/** A condition put together from lists and the same condition typed as an expression are judged alike, at any time. */

const clock = { device: ownId, key: 'timeOfDay' };
const plain = { device: ownId, key: 'devicesDown' };
const number = fc.integer({ min: -20, max: 80 });
const decimal = fc.integer({ min: -40, max: 160 }).map((n) => n / 2);

/** The same test in both forms. */
const both = (reading: typeof clock, value: fc.Arbitrary<number>): fc.Arbitrary<readonly [ReadingTest, string]> => {
  const name = `SHOW.${reading.key}`;
  // A clock is a decimal, and lists in CEL are all of one type.
  const cel = (to: number) => (reading === clock && Number.isInteger(to) ? `${to}.0` : String(to));
  return fc.oneof(
    value.map((to) => [{ op: 'above', reading, to }, `${name} > ${cel(to)}`] as const),
    value.map((to) => [{ op: 'below', reading, to }, `${name} < ${cel(to)}`] as const),
    value.map((to) => [{ op: 'equals', reading, to }, `${name} == ${cel(to)}`] as const),
    value.map((to) => [{ op: 'differs', reading, to }, `${name} != ${cel(to)}`] as const),
    fc
      .tuple(value, value)
      .map(
        ([a, b]) =>
          [
            { op: 'within', reading, from: Math.min(a, b), to: Math.max(a, b) },
            `(${name} >= ${cel(Math.min(a, b))} && ${name} <= ${cel(Math.max(a, b))})`,
          ] as const,
      ),
    fc
      .array(value, { minLength: 1, maxLength: 3 })
      .map((list) => [{ op: 'oneOf', reading, to: list }, `${name} in [${list.map(cel).join(', ')}]`] as const),
  );
};

type Two = readonly [Condition, string];
const condition: fc.Arbitrary<Two> = fc.letrec<{ any: Two }>((tie) => ({
  any: fc.oneof(
    { depthSize: 'small' },
    both(clock, decimal),
    both(plain, number),
    tie('any').map(([each, text]) => [{ not: each }, `!(${text})`] satisfies Two),
    fc.tuple(tie('any'), tie('any')).map(([a, b]) => [{ all: [a[0], b[0]] }, `(${a[1]} && ${b[1]})`] satisfies Two),
    fc.tuple(tie('any'), tie('any')).map(([a, b]) => [{ any: [a[0], b[0]] }, `(${a[1]} || ${b[1]})`] satisfies Two),
  ),
})).any;

const start = 1_700_000_000_000;
const fresh = (value: number | boolean): Reading => ({ value, freshness: 'fresh', at: start, since: start });

function judge(when: Condition, sources: LampSources): { readonly is: unknown; readonly again: number } {
  const pass: Pass = { values: {}, sources, memory: new Map(), again: Infinity };
  return { is: truthOf(when, pass, '0').is, again: pass.again };
}

describe('a condition put together and the same one typed', () => {
  const documentOf = (id: string) => (id === ownId ? ownDocument : undefined);

  it('are judged alike at any time, while a clock runs on and while it stands', () => {
    let ran = 0;
    let changed = 0;
    fc.assert(
      fc.property(
        condition,
        fc.boolean(),
        decimal,
        number,
        fc.array(fc.nat(90_000), { minLength: 3, maxLength: 8 }),
        (two, runs, at, down, times) => {
          const [listed, text] = two;
          const typed = readCel(text, (tag) => (tag === 'SHOW' ? ownId : undefined), {});
          if (!typed.ok) throw new Error(`${text}: ${typed.error.message}`);
          const readings: Record<string, Reading> = {
            timeOfDay: fresh(at),
            devicesDown: fresh(down),
            running: fresh(runs),
          };
          const seen = new Set<unknown>();
          for (const time of [0, ...times]) {
            const sources: LampSources = { readingNow: ({ key }) => readings[key], documentOf, now: start + time };
            const own = judge(listed, sources);
            expect(judge(typed.value, sources).is).toBe(own.is);
            seen.add(own.is);
          }
          ran += runs ? 1 : 0;
          changed += seen.size > 1 ? 1 : 0;
        },
      ),
      { numRuns: 400 },
    );
    // Without clocks that run and truths that change, nothing was shown.
    expect(ran).toBeGreaterThan(50);
    expect(changed).toBeGreaterThan(10);
  });

  it('say when to look again before their truth changes', () => {
    fc.assert(
      fc.property(condition, decimal, (two, at) => {
        for (const when of [two[0], typedOf(two[1])]) {
          const readings: Record<string, Reading> = {
            timeOfDay: fresh(at),
            devicesDown: fresh(0),
            running: fresh(true),
          };
          const now = (time: number): LampSources => ({
            readingNow: ({ key }) => readings[key],
            documentOf,
            now: time,
          });
          let time = start;
          for (let looks = 0; looks < 40; looks += 1) {
            const { is, again } = judge(when, now(time));
            const until = Math.min(again, start + 120_000);
            // Halfway to when it asks to be looked at, nothing has changed; an instant at which two are equal is nobody's business.
            if (until > time + 4 && !/==|!=| in /.test(two[1]))
              expect(judge(when, now((time + until) / 2)).is).toBe(is);
            if (again === Infinity || again >= start + 120_000) break;
            time = Math.max(again, time + 1);
          }
        }
      }),
      { numRuns: 200 },
    );
  });

  it('that reckons with a clock is looked at again and again', () => {
    const when = typedOf('SHOW.timeOfDay + 1.0 > 5.0');
    const readings: Record<string, Reading> = { timeOfDay: fresh(1), running: fresh(true) };
    const { again } = judge(when, { readingNow: ({ key }) => readings[key], documentOf, now: start });
    expect(again - start).toBeLessThanOrEqual(100);
  });
});

function typedOf(text: string): Condition {
  const typed = readCel(text, (tag) => (tag === 'SHOW' ? ownId : undefined), {});
  if (!typed.ok) throw new Error(typed.error.message);
  return typed.value;
}
