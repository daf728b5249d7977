import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Condition, WatchData, WatchWhen } from '../show';
import { devicesOfTrial, tryDry, type PastEvent } from '.';

const hour = 3_600_000;
const from = Date.UTC(2026, 5, 14, 10);
const to = from + hour;
const is = (device: string, key: string, value: number | boolean): Condition => ({
  op: 'equals',
  reading: { device, key },
  to: value,
});
const watch = (when: WatchWhen, more: Partial<WatchData> = {}): WatchData => ({
  name: 'W',
  number: 1,
  order: 1,
  note: '',
  when,
  delayMs: 0,
  quietMs: 0,
  mostPerMinute: 60,
  sends: [],
  ...more,
});
const onProgram = (input: number, forMs = 0): WatchWhen => ({
  is: 'true',
  condition: is('sw', 'program', input),
  forMs,
});
const program = (...all: readonly (readonly [s: number, value: number])[]): PastEvent[] =>
  all.map(([s, value]) => ({ at: from + s * 1000, device: 'sw', key: 'program', value }));
const fired = (data: WatchData, events: readonly PastEvent[]) =>
  tryDry(data, events, { documentOf: () => undefined, from, to }).firings.map(({ at, kept }) =>
    kept === undefined ? (at - from) / 1000 : `${(at - from) / 1000}: ${kept}`,
  );

describe('a watch that is held against the past', () => {
  it('would have fired whenever its condition became true, and not by what was known before', () => {
    expect(fired(watch(onProgram(3)), program([-60, 3], [1, 1], [2, 3], [3, 3], [4, 2], [5, 3]))).toEqual([2, 5]);
    expect(fired(watch(onProgram(3)), program([-60, 1], [-30, 3], [10, 3]))).toEqual([]);
  });

  it('needs it to last, and looks also when nothing is reported', () => {
    expect(fired(watch(onProgram(3, 5000)), program([0, 1], [10, 3], [12, 1], [20, 3]))).toEqual([25]);
  });

  it('knows nothing while the link is lost', () => {
    const events: PastEvent[] = [
      ...program([0, 1], [10, 3]),
      { at: from + 20_000, device: 'sw', lost: true },
      ...program([30, 3], [40, 1], [50, 3]),
    ];
    expect(fired(watch(onProgram(3)), events)).toEqual([10, 50]);
  });

  it('says what would have kept it from firing', () => {
    const data = watch(onProgram(3), { unless: is('sw', 'mixing', true), quietMs: 10_000 });
    const events: PastEvent[] = [
      { at: from, device: 'sw', key: 'mixing', value: false },
      ...program([1, 1], [2, 3], [4, 1], [6, 3], [7, 1]),
      { at: from + 20_000, device: 'sw', key: 'mixing', value: true },
      ...program([30, 3]),
    ];
    expect(fired(data, events)).toEqual([2, '6: Its quiet time is not over.', '30: Its exception is true.']);
  });

  it('fires with changes and with keys', () => {
    const change = watch({ is: 'change', reading: { device: 'sw', key: 'program' } });
    expect(fired(change, program([0, 1], [1, 2], [2, 2], [3, 1]))).toEqual([1, 3]);
    const key = watch({ is: 'key', switcher: 'sw', key: 1, preRoll: 12 });
    const on = (s: number, value: boolean): PastEvent => ({
      at: from + s * 1000,
      device: 'sw',
      key: 'key[1].on',
      value,
    });
    expect(fired(key, [on(0, false), on(5, true), on(6, false), on(9, true)])).toEqual([5, 9]);
  });

  it('fires at its times', () => {
    const data = watch({ is: 'time', schedule: { is: 'cron', cron: '*/20 * * * *' } });
    expect(
      tryDry(data, [], { documentOf: () => undefined, from, to, zone: 'UTC' }).firings.map(({ at }) => at - from),
    ).toEqual([20, 40, 60].map((minutes) => minutes * 60_000));
  });

  it('says which readings were never recorded, and of which devices it needs the record', () => {
    const both = watch({
      is: 'true',
      condition: { all: [is('sw', 'program', 3), is('own', 'variable.door', true)] },
      forMs: 0,
    });
    expect(devicesOfTrial(both)).toEqual(['sw', 'own']);
    expect(tryDry(both, program([0, 3]), { documentOf: () => undefined, from, to }).unrecorded).toEqual([
      { device: 'own', key: 'variable.door' },
    ]);
  });

  it('is what a count of the changes says, whatever was reported', () => {
    let met = 0;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 20_000 }), fc.integer({ min: 2, max: 3 })), {
          minLength: 5,
          maxLength: 60,
        }),
        (steps) => {
          let at = from;
          const events = steps.map(([ms, value]): PastEvent => ({
            at: (at += ms),
            device: 'sw',
            key: 'program',
            value,
          }));
          const expected = events
            .filter((event, n) => {
              const before = events[n - 1];
              return (
                event.at <= to &&
                before &&
                'value' in event &&
                event.value === 3 &&
                'value' in before &&
                before.value !== 3
              );
            })
            .map((event) => event.at);
          met += expected.length;
          const data = watch(onProgram(3), { mostPerMinute: 600 });
          const found = tryDry(
            data,
            events.filter((event) => event.at <= to),
            { documentOf: () => undefined, from, to },
          );
          // A watch that fires very often is stopped: the times are the same all the same.
          expect(found.firings.map((each) => each.at)).toEqual(expected);
        },
      ),
    );
    expect(met).toBeGreaterThan(100);
  });
});
