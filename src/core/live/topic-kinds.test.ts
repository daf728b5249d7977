import { describe, expect, expectTypeOf, it } from 'vitest';
import { applyDiff, pageOfTopic, readTopic, topicKinds, type Publish } from './topic-kinds';

describe('the names of topics', () => {
  it.each([
    ['status', { kind: 'status', id: '' }],
    ['page:race', { kind: 'page', id: 'race' }],
    ['page:race;shift=s1', { kind: 'page', id: 'race;shift=s1' }],
    ['readings:dev-sw1', { kind: 'readings', id: 'dev-sw1' }],
    ['linked:a:b', { kind: 'linked', id: 'a:b' }],
    // What no topic can be called.
    ['page', undefined],
    ['page:', undefined],
    ['status:1', undefined],
    ['nothing', undefined],
    ['toString', undefined],
    ['__proto__:x', undefined],
    ['', undefined],
  ])('%j', (name, topic) => {
    expect(readTopic(name)).toEqual(topic);
  });

  it('say which page they are about', () => {
    expect(['page:race;shift=s1', 'page:race', 'status'].map(pageOfTopic)).toEqual(['race', 'race', undefined]);
  });
});

describe('a difference', () => {
  it('is laid over the whole as its kind says, and changes neither', () => {
    const whole = { a: { value: 1 }, b: { value: 2 } };
    expect(applyDiff('readings:d', whole, { put: { a: { value: 3 } }, drop: ['b'] })).toEqual({ a: { value: 3 } });
    expect(whole).toEqual({ a: { value: 1 }, b: { value: 2 } });
    expect(applyDiff('wire', { rows: [{ n: 1 }] }, { rows: [{ n: 2 }] })).toEqual({ rows: [{ n: 1 }, { n: 2 }] });
    expect(applyDiff('macro:m', { now: 1, past: [2] }, { now: null })).toEqual({ now: null, past: [2] });
    expect(applyDiff('unknown', whole, { put: {} })).toBe(whole);
  });

  it('of another topic cannot be published', () => {
    const publish: Publish = () => undefined;
    publish('head', { seq: 1 });
    publish('page:race', { faces: { drop: ['ctl-1'] } });
    // @ts-expect-error rows belong to the wire
    publish('head', { rows: [] });
    // @ts-expect-error a page has no devices
    publish('page:race', { devices: {} });
    // @ts-expect-error there is no such topic
    publish('weather', {});
    expectTypeOf(topicKinds.head.apply).returns.toEqualTypeOf<{ readonly seq: number }>();
  });
});
