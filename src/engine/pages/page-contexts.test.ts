import { DriverShelf } from '../../core/driver';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyDiff, type PageDiff } from '../../core/live';
import type { ControlRecord, PageRecord, ShowRecord } from '../../core/show';
import { TopicBook } from '../topics/topic-book';
import { PageContexts } from './page-contexts';
import { ReadingStore } from '../devices/readings';
import { RunningShow } from '../show/running-show';

const page = (id: string): PageRecord => ({
  kind: 'page',
  id,
  version: 1,
  data: { name: id, order: 1, columns: 8, rows: 8, note: '', zones: [] },
});

const control = (n: number, on: string, input: number): ControlRecord => ({
  kind: 'control',
  id: `c${n}`,
  version: 1,
  data: {
    page: on,
    type: 'button',
    col: n,
    row: 0,
    cols: 1,
    rows: 1,
    label: [{ text: 'In ' }, { reading: { device: 'd', key: 'input[$input].name' } }],
    values: { input },
    responses: { tap: [] },
    lamps: [
      { when: { op: 'equals', reading: { device: 'd', key: 'program' }, to: { value: 'input' } }, show: 'onAir' },
    ],
  },
});

/** A show with two pages, and what a panel that follows page `a` has after all differences. */
function start() {
  const diffs: { page: string; diff: PageDiff }[] = [];
  const readings = new ReadingStore((device, keys) => contexts.onReadings(device, keys));
  const show: RunningShow = new RunningShow(new DriverShelf(), (change) => contexts.onShow(change));
  const publish = (topic: string, diff: PageDiff) => diffs.push({ page: topic.slice('page:'.length), diff });
  const contexts: PageContexts = new PageContexts(show, readings, publish, new TopicBook());
  show.apply({ puts: [page('a'), page('b')], removes: [] });
  return { diffs, readings, show, contexts };
}

describe('a page that somebody looks at', () => {
  it('is the same by its differences as computed anew, whatever happens', () => {
    const act = fc.oneof(
      fc.record({
        do: fc.constant('report' as const),
        key: fc.constantFrom('program', 'input[1].name', 'input[2].name'),
        value: fc.nat(3),
      }),
      fc.record({
        do: fc.constant('doubt' as const),
        to: fc.constantFrom('stale' as const, 'unknown' as const, 'fresh' as const),
      }),
      fc.record({ do: fc.constant('put' as const), n: fc.nat(4), on: fc.constantFrom('a', 'b'), input: fc.nat(3) }),
      fc.record({ do: fc.constant('remove' as const), n: fc.nat(4) }),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 50 }), (acts) => {
        const { diffs, readings, show, contexts } = start();
        let followed: unknown = contexts.open('a');
        for (const each of acts) {
          if (each.do === 'report') readings.report('d', [{ key: each.key, value: each.value }], 1);
          if (each.do === 'doubt') readings.setFreshness('d', each.to);
          if (each.do === 'put') show.apply({ puts: [control(each.n, each.on, each.input)], removes: [] });
          if (each.do === 'remove') show.apply({ puts: [], removes: [{ kind: 'control', id: `c${each.n}` }] });
          for (const { page: of, diff } of diffs.splice(0))
            if (of === 'a') followed = applyDiff('page:a', followed, diff);
        }
        contexts.close('a');
        expect(followed).toEqual(contexts.open('a'));
      }),
    );
  });

  it('costs nothing for readings that it does not use, and publishes only what has changed', () => {
    const { diffs, readings, show, contexts } = start();
    show.apply({ puts: [control(1, 'a', 1), control(2, 'a', 2), control(3, 'a', 3)] as ShowRecord[], removes: [] });
    contexts.open('a');
    readings.report('d', [{ key: 'rate', value: 25 }], 1);
    expect(diffs).toEqual([]);
    readings.report('d', [{ key: 'program', value: 1 }], 1);
    diffs.length = 0;
    readings.report('d', [{ key: 'program', value: 2 }], 1);
    expect(diffs.map(({ diff }) => Object.keys(diff.faces?.put ?? {}))).toEqual([['c1', 'c2']]);
    readings.report('d', [{ key: 'program', value: 2 }], 2);
    expect(diffs).toHaveLength(1);
  });

  it('is not computed any more once nobody looks at it', () => {
    const { diffs, readings, show, contexts } = start();
    show.apply({ puts: [control(1, 'a', 1)], removes: [] });
    contexts.open('a');
    contexts.close('a');
    readings.report('d', [{ key: 'program', value: 1 }], 1);
    expect(diffs).toEqual([]);
    expect(contexts.open('missing')).toBeUndefined();
  });
});
