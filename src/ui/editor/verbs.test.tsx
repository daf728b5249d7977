// @vitest-environment jsdom
import { cleanup, renderHook } from '@testing-library/react';
import fc from 'fast-check';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { applied, contentOf, controlRecord, pageRecord, type Doc } from '../../../test/support/records';
import type { Offer } from '../../core/page';
import { invertEdit, rebaseEdit, type ControlRecord, type DeskView, type Edit, type ShowRecord } from '../../core/show';
import { createEditorStore } from './editor-store';
import { useEditorVerbs, type Verbs } from './verbs';

const desk = vi.hoisted(() => ({ edit: vi.fn(), say: vi.fn() }));
vi.mock('../desk', () => ({ useDesk: () => desk }));

/** An editor of the page `page`, on a show that takes edits as the store does. */
function editor(controls: readonly ControlRecord[], columns = 4, rows = 3) {
  const page = pageRecord('page', 'Race', { columns, rows });
  let doc: Doc = new Map<string, ShowRecord>([page, ...controls].map((record) => [record.id, record]));
  const store = createEditorStore();
  const done: Edit[] = [];
  desk.say.mockReset();
  desk.edit.mockReset().mockImplementation((edit: Edit) => {
    const next = applied(doc, edit);
    if (!next) throw new Error(`An edit was refused: ${edit.title}`);
    doc = next.doc;
    done.push(next.edit);
    return Promise.resolve(true);
  });
  const now = () => ({
    page: doc.get('page') as typeof page,
    controls: [...doc.values()].filter((record) => record.kind === 'control') as ControlRecord[],
  });
  const hook = renderHook(() => {
    const { page: shown, controls: there } = now();
    const view = { records: [...doc.values()], drivers: [] } as unknown as DeskView;
    return useEditorVerbs(store, view, shown, there);
  });
  return {
    store,
    done,
    now,
    doc: () => doc,
    undoAll: () => {
      for (const edit of [...done].reverse()) {
        const back = applied(
          doc,
          rebaseEdit((id) => doc.get(id), invertEdit(edit)),
        );
        if (!back) throw new Error(`Cannot be undone: ${edit.title}`);
        doc = back.doc;
      }
    },
    /** Does something as a handler does it: with the verbs of the last rendering. */
    act: (work: (verbs: Verbs) => void) => {
      work(hook.result.current);
      hook.rerender();
    },
  };
}

const offer = {
  title: 'Cut',
  start: () => ({ type: 'button', label: [{ text: 'Cut' }], responses: { tap: [] }, lamps: [] }),
} as unknown as Offer;
const at = (id: string, col: number, row: number, more: Partial<ControlRecord['data']> = {}) =>
  controlRecord(id, { col, row, ...more });

afterEach(cleanup);

describe('what is put on the page', () => {
  test('an offer becomes a control on the cell, is chosen, and the cursor goes there', () => {
    const { act, now, store } = editor([]);
    act(({ put }) => void put(offer, { col: 2, row: 1 }));
    const [made] = now().controls;
    expect(made?.data).toMatchObject({ col: 2, row: 1, label: [{ text: 'Cut' }] });
    expect(store.getState()).toMatchObject({ ids: new Set([made?.id]), cursor: { col: 2, row: 1 }, tab: 'chosen' });
  });

  test('an offer on a control is refused, and says what to do', () => {
    const { act, done } = editor([at('a', 1, 1)]);
    act(({ put }) => void put(offer, { col: 1, row: 1 }));
    expect(desk.say).toHaveBeenCalledWith('A control is already there. Choose an empty cell.', true);
    expect(done).toEqual([]);
  });

  test('a text that is no clip is refused with its reason', () => {
    const { act, done } = editor([]);
    act(({ paste }) => paste('just words'));
    expect(desk.say).toHaveBeenCalledWith(expect.any(String), true);
    expect(done).toEqual([]);
  });

  test('a copy pastes at the cursor, and the copies are chosen', () => {
    const { act, now, store } = editor([at('a', 0, 0), at('b', 1, 0)]);
    let text: string | undefined;
    act(({ choose }) => choose(['a', 'b']));
    act(({ copy }) => (text = copy()));
    act(({ chooseCell }) => chooseCell({ col: 0, row: 2 }));
    act(({ paste }) => paste(text ?? ''));
    const copies = now().controls.filter(({ id }) => id !== 'a' && id !== 'b');
    expect(copies.map(({ data }) => [data.col, data.row])).toEqual([
      [0, 2],
      [1, 2],
    ]);
    expect(store.getState().ids).toEqual(new Set(copies.map(({ id }) => id)));
  });
});

describe('what is chosen', () => {
  test('is cleared in one edit, and the keyboard goes back to the cursor', () => {
    const { act, now, store, done } = editor([at('a', 0, 0), at('b', 1, 0), at('c', 2, 0)]);
    act(({ choose }) => choose(['a', 'c']));
    const { focusing } = store.getState();
    act(({ clear }) => clear());
    expect(now().controls.map(({ id }) => id)).toEqual(['b']);
    expect(done.map(({ title }) => title)).toEqual(['Clear 2 controls']);
    expect(store.getState().focusing).toBe(focusing + 1);
  });

  test('moves as one, and takes the cursor along', () => {
    const { act, now, store } = editor([at('a', 0, 0), at('b', 1, 0)]);
    act(({ choose }) => choose(['a', 'b'], { col: 1, row: 0 }));
    act(({ move }) => move({ col: 1, row: 1 }));
    expect(now().controls.map(({ data }) => [data.col, data.row])).toEqual([
      [1, 1],
      [2, 1],
    ]);
    expect(store.getState().cursor).toEqual({ col: 2, row: 1 });
  });

  test('does not leave the page, and says why', () => {
    const { act, done } = editor([at('a', 3, 0)]);
    act(({ choose }) => choose(['a']));
    act(({ move }) => move({ col: 1, row: 0 }));
    expect(desk.say).toHaveBeenCalledWith(expect.any(String), true);
    expect(done).toEqual([]);
  });

  test('of an area is what lies in it', () => {
    const { act, store } = editor([at('a', 0, 0), at('b', 1, 1), at('c', 3, 2)]);
    act(({ chooseArea }) => chooseArea({ col: 0, row: 0, cols: 2, rows: 2 }, { col: 0, row: 0 }, { col: 1, row: 1 }));
    expect(store.getState()).toMatchObject({ ids: new Set(['a', 'b']), tab: 'chosen' });
    act(({ chooseArea }) => chooseArea({ col: 2, row: 0, cols: 1, rows: 1 }, { col: 2, row: 0 }, { col: 2, row: 0 }));
    expect(store.getState()).toMatchObject({ ids: new Set(), tab: 'rig' });
  });

  test('nothing chosen: the verbs for it do nothing', () => {
    const { act, done } = editor([at('a', 0, 0)]);
    act(({ clear, duplicate, move, copy }) => {
      clear();
      duplicate();
      move({ col: 1, row: 0 });
      expect(copy()).toBeUndefined();
    });
    expect(done).toEqual([]);
    expect(desk.say).not.toHaveBeenCalled();
  });

  test('of which some are gone meanwhile is what is still there', () => {
    const { act, now } = editor([at('a', 0, 0), at('b', 1, 0)]);
    act(({ choose }) => choose(['a', 'gone']));
    act(({ clear }) => clear());
    expect(now().controls.map(({ id }) => id)).toEqual(['b']);
  });
});

test('a zone around what is chosen, cut at the edge of the page, is open for its title', () => {
  const { act, now, store } = editor([at('a', 3, 2)], 4, 3);
  act(({ choose }) => choose(['a']));
  act(({ makeZone }) => makeZone());
  const [zone] = now().page.data.zones;
  expect(zone).toMatchObject({ col: 3, row: 2, cols: 1, rows: 1 });
  expect(store.getState().zone).toBe(zone?.id);
});

test('a change of what all shift levels share says so in its title', () => {
  const { act, done, store } = editor([at('a', 0, 0)]);
  const [control] = [at('a', 0, 0)];
  store.setState({ level: 'lvl' });
  act(({ change }) => control && change(control, (data) => ({ ...data, cols: 2 }), 'Width'));
  expect(done.map(({ title }) => title)).toEqual(['Width, on all levels']);
});

test('whatever is done in whatever order, controls stay on the page and apart, and undo leads back to the start', () => {
  const cell = fc.record({ col: fc.integer({ min: 0, max: 3 }), row: fc.integer({ min: 0, max: 2 }) });
  const step = fc.oneof(
    fc.record({ kind: fc.constant('put' as const), cell }),
    fc.record({ kind: fc.constant('choose' as const), picks: fc.array(fc.nat(9), { maxLength: 4 }) }),
    fc.record({
      kind: fc.constant('move' as const),
      col: fc.integer({ min: -2, max: 2 }),
      row: fc.integer({ min: -2, max: 2 }),
    }),
    fc.record({
      kind: fc.constant('resize' as const),
      pick: fc.nat(9),
      cols: fc.integer({ min: 1, max: 3 }),
      rows: fc.integer({ min: 1, max: 2 }),
    }),
    fc.record({ kind: fc.constant('paste' as const), cell }),
    fc.constantFrom(
      { kind: 'clear' as const },
      { kind: 'duplicate' as const },
      { kind: 'copy' as const },
      { kind: 'zone' as const },
    ),
  );
  const seen = { moved: 0, pasted: 0, refused: 0 };
  fc.assert(
    fc.property(fc.array(step, { minLength: 4, maxLength: 25 }), (steps) => {
      const { act, now, store, done, doc, undoAll } = editor([at('a', 0, 0), at('b', 1, 1)]);
      const start = contentOf(doc());
      let clip = '';
      for (const each of steps) {
        const there = now().controls;
        act((verbs) => {
          if (each.kind === 'put') void verbs.put(offer, each.cell);
          else if (each.kind === 'choose') verbs.choose(each.picks.flatMap((n) => there[n]?.id ?? []));
          else if (each.kind === 'move') verbs.move(each);
          else if (each.kind === 'resize') {
            const one = there[each.pick % Math.max(1, there.length)];
            if (one) verbs.resize(one.id, { col: one.data.col, row: one.data.row, cols: each.cols, rows: each.rows });
          } else if (each.kind === 'paste') {
            verbs.chooseCell(each.cell);
            if (clip) verbs.paste(clip);
          } else if (each.kind === 'copy') {
            if (store.getState().ids.size === 0) verbs.choose(there.slice(0, 1).map(({ id }) => id));
            clip = verbs.copy() ?? clip;
          } else if (each.kind === 'clear') verbs.clear();
          else if (each.kind === 'duplicate') verbs.duplicate();
          else verbs.makeZone();
        });
        const { page, controls } = now();
        const taken = new Set<string>();
        for (const { data } of controls)
          for (let col = data.col; col < data.col + data.cols; col += 1)
            for (let row = data.row; row < data.row + data.rows; row += 1) {
              expect(col).toBeLessThan(page.data.columns);
              expect(row).toBeLessThan(page.data.rows);
              expect(taken).not.toContain(`${col} ${row}`);
              taken.add(`${col} ${row}`);
            }
        const ids = new Set(controls.map(({ id }) => id));
        for (const id of store.getState().ids) expect(ids).toContain(id);
      }
      seen.moved += Number(done.some(({ title }) => title.startsWith('Move')));
      seen.pasted += Number(done.some(({ title }) => title.startsWith('Paste')));
      seen.refused += Number(desk.say.mock.calls.length > 0);
      undoAll();
      expect(contentOf(doc())).toBe(start);
      cleanup();
    }),
    { numRuns: 100 },
  );
  // A property that reached nothing proved nothing.
  expect(Math.min(seen.moved, seen.pasted, seen.refused)).toBeGreaterThan(10);
});
