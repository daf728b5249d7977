import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { answeredBy, roundTripOf, withTrip, type Awaiting, type RoundTrips } from './answers';

const sent = (ref: number, more: Partial<Awaiting> = {}): Awaiting => ({
  ref,
  sentAt: ref * 100,
  isConfirmed: false,
  isLate: false,
  isDoubtful: false,
  expectations: undefined,
  ...more,
});
const wants = (equals: number) => ({ expectations: [{ key: 'level', equals }] });
const ok = { accepts: true, refuses: false, readings: [] };
const no = { accepts: false, refuses: true, readings: [] };
const level = (value: number) => ({ ...ok, readings: [{ key: 'level', value }] });

describe('an answer that names nothing', () => {
  it('is for the oldest that waits', () => {
    expect(answeredBy([sent(1), sent(2)], ok, 500, 0)).toEqual({ ref: 1, passed: [], doubted: undefined });
    expect(answeredBy([sent(1), sent(2)], no, 500, 0)).toEqual({ ref: 1, passed: [], doubted: undefined });
    expect(answeredBy([], ok, 500, 0)).toEqual({ ref: undefined, passed: [], doubted: undefined });
  });

  it('that reports another value than the command sets is a report of somebody else’s', () => {
    expect(answeredBy([sent(1, wants(5))], level(9), 500, 0)).toEqual({ ref: undefined, passed: [], doubted: 1 });
    expect(answeredBy([sent(1, wants(5))], level(5), 500, 0)).toEqual({ ref: 1, passed: [], doubted: undefined });
    // A command about something else is answered by it all the same.
    expect(answeredBy([sent(1), sent(2, wants(5))], level(9), 500, 0)).toEqual({
      ref: 1,
      passed: [],
      doubted: undefined,
    });
  });

  it('that reports another value may be the answer all the same: the next one is for what was sent next', () => {
    const two = [sent(1, { ...wants(120), isDoubtful: true }), sent(2)];
    expect(answeredBy(two, ok, 500, 0)).toEqual({ ref: 2, passed: [1], doubted: undefined });
    expect(answeredBy(two.slice(0, 1), ok, 500, 0)).toEqual({ ref: 1, passed: [], doubted: undefined });
  });

  it('that reports what a later command sets is for that one, and the earlier is passed', () => {
    expect(answeredBy([sent(1, wants(120)), sent(2, wants(30))], level(30), 500, 0)).toEqual({
      ref: 2,
      passed: [1],
      doubted: undefined,
    });
  });

  it('and refuses is never for a command whose effect was reported, nor for one that is late', () => {
    expect(answeredBy([sent(1, { isConfirmed: true }), sent(2)], no, 500, 0)).toEqual({
      ref: 2,
      passed: [1],
      doubted: undefined,
    });
    expect(answeredBy([sent(1, { isLate: true }), sent(2)], no, 500, 0)).toEqual({
      ref: 2,
      passed: [1],
      doubted: undefined,
    });
    expect(answeredBy([sent(1, { isLate: true })], no, 500, 0)).toEqual({ ref: 1, passed: [], doubted: undefined });
  });

  it('and refuses sooner than a round trip is for what was sent before', () => {
    const two = [sent(1, { isConfirmed: true }), sent(2)];
    expect(answeredBy(two, no, 300, 400)).toEqual({ ref: 1, passed: [], doubted: undefined });
    expect(answeredBy(two, no, 700, 400)).toEqual({ ref: 2, passed: [1], doubted: undefined });
    // With nothing before it, it is for this one, however soon: a device may refuse quicker than it acts.
    expect(answeredBy([sent(2)], no, 210, 400)).toEqual({ ref: 2, passed: [], doubted: undefined });
  });

  it('takes a place in the queue, and passes only what is before it', () => {
    const awaiting = fc.array(
      fc.record({
        isConfirmed: fc.boolean(),
        isLate: fc.boolean(),
        isDoubtful: fc.boolean(),
        wants: fc.option(fc.integer({ min: 0, max: 2 })),
      }),
      { maxLength: 6 },
    );
    const said = fc.oneof(fc.constant(ok), fc.constant(no), fc.integer({ min: 0, max: 2 }).map(level));
    fc.assert(
      fc.property(awaiting, said, fc.integer({ min: 0, max: 800 }), (states, answer, trip) => {
        const all = states.map(({ wants: value, ...state }, n) =>
          sent(n + 1, { ...state, ...(value === null ? {} : wants(value)) }),
        );
        const { ref, passed } = answeredBy(all, answer, 700, trip);
        expect(passed).toEqual(all.slice(0, passed.length).map((each) => each.ref));
        if (ref !== undefined) expect(ref).toBe(passed.length + 1);
        else expect(passed).toEqual([]);
        if (answer === no && all.length > 0) expect(ref).toBeDefined();
      }),
    );
  });
});

describe('the round trip', () => {
  const of = (...ms: number[]) => roundTripOf(ms.reduce<RoundTrips>(withTrip, []));

  it('is known after three, as the shortest with some slack, and tells nothing on a near network', () => {
    expect([of(500, 520), of(500, 520, 510), of(500, 520, 3)]).toEqual([0, 400, 0]);
  });

  it('forgets what is long ago', () => {
    expect(of(3, ...Array.from({ length: 20 }, () => 500))).toBe(400);
  });
});
