'use client';

import { createContext, useContext, useMemo } from 'react';
import {
  addControlEdit,
  replaceControlEdit,
  arrangeEdit,
  boundsOf,
  changeControlsEdit,
  changedAtLevel,
  changesAllLevels,
  clipText,
  isFree,
  moveBy,
  overlaps,
  pasteEdit,
  putZoneEdit,
  readClip,
  removeControlsEdit,
  resizeTo,
  type Area,
  type Cell,
  type Offer,
} from '../../core/page';
import type { ControlRecord, DeskView, Edit, PageRecord } from '../../core/show';
import { useDesk } from '../desk';
import { newId } from '../parts';
import type { EditorStore } from './editor-store';

type Change = (data: ControlRecord['data']) => ControlRecord['data'];

/** What can be done on the page that is edited. Verbs read what is chosen from the store when they are called. */
export interface Verbs {
  readonly edit: (edit: Edit) => Promise<boolean>;
  readonly say: (text: string, bad?: boolean) => void;
  readonly choose: (ids: Iterable<string>, at?: Cell) => void;
  readonly chooseArea: (area: Area, anchor: Cell, cursor: Cell) => void;
  readonly chooseCell: (cell: Cell) => void;
  readonly move: (by: Cell) => void;
  readonly resize: (id: string, to: Area) => void;
  readonly clear: () => void;
  readonly duplicate: () => void;
  readonly copy: () => string | undefined;
  readonly paste: (text: string) => void;
  readonly put: (offer: Offer, cell: Cell) => Promise<void>;
  /** Makes the chosen control anew from an offer. */
  readonly replace: (control: ControlRecord, offer: Offer) => void;
  readonly makeZone: () => void;
  /** Changes a control, on the shift level that is shown. */
  readonly change: (control: ControlRecord, change: Change, what: string) => void;
  readonly changeMany: (controls: readonly ControlRecord[], change: Change, what: string) => void;
}

export const VerbsContext = createContext<Verbs | null>(null);

export function useVerbs(): Verbs {
  const verbs = useContext(VerbsContext);
  if (!verbs) throw new Error('useVerbs needs an editor above it.');
  return verbs;
}

/** The verbs of an editor for the page and its controls as they are now. */
export function useEditorVerbs(
  store: EditorStore,
  desk: DeskView,
  page: PageRecord,
  controls: readonly ControlRecord[],
): Verbs {
  const { edit, say } = useDesk();
  return useMemo((): Verbs => {
    const chosen = () => controls.filter(({ id }) => store.getState().ids.has(id));
    const placed = controls.map(({ id, data }) => ({ ...data, id }));
    const many = (own: readonly unknown[]) => (own.length === 1 ? 'a control' : `${own.length} controls`);
    const choose: Verbs['choose'] = (ids, at) => {
      const own = new Set(ids);
      const first = controls.find(({ id }) => own.has(id));
      const cell = at ?? (first ? { col: first.data.col, row: first.data.row } : store.getState().cursor);
      store.setState({ ids: own, zone: undefined, area: undefined, cursor: cell, anchor: cell, entry: undefined });
      if (own.size > 0) store.setState({ tab: 'chosen' });
    };
    /** Chooses what was just made, and takes the keyboard to the cursor, whose cell may have changed. */
    const show = (ids: Iterable<string>) =>
      store.setState(({ focusing }) => ({
        ids: new Set(ids),
        zone: undefined,
        area: undefined,
        entry: undefined,
        tab: 'chosen',
        focusing: focusing + 1,
      }));
    const paste: Verbs['paste'] = (text) => {
      const clip = readClip(text);
      if (!clip.ok) return say(clip.error, true);
      const made = pasteEdit(desk.records, page, clip.value, store.getState().cursor, newId);
      if (!made.ok) return say(`Not pasted. ${made.error}`, true);
      show(made.value.ids);
      void edit(made.value.edit);
    };
    const changeMany: Verbs['changeMany'] = (some, change, what) => {
      const { level } = store.getState();
      const ids = new Set(some.map(({ id }) => id));
      const stored = controls.filter(({ id }) => ids.has(id));
      const everywhere = stored.some(({ data }) => changesAllLevels(data, level, change));
      const title = everywhere ? `${what}, on all levels` : what;
      const made = changeControlsEdit(stored, (data) => changedAtLevel(data, level, change), title);
      if (made) void edit(made);
    };
    return {
      edit,
      say,
      choose,
      chooseArea: (area, anchor, cursor) => {
        const own = controls.filter(({ data }) => overlaps(data, area)).map(({ id }) => id);
        store.setState({ ids: new Set(own), zone: undefined, area, anchor, cursor, entry: undefined });
        store.setState({ tab: own.length > 0 ? 'chosen' : 'rig' });
      },
      chooseCell: (cell) => {
        const area = { ...cell, cols: 1, rows: 1 };
        store.setState({
          ids: new Set(),
          zone: undefined,
          area,
          cursor: cell,
          anchor: cell,
          entry: undefined,
          tab: 'rig',
        });
      },
      move: (by) => {
        const own = chosen();
        if (own.length === 0) return;
        const arranged = moveBy(page.data, placed, new Set(own.map(({ id }) => id)), by);
        if (!arranged.ok) return say(arranged.error, true);
        const made = arrangeEdit(page, controls, arranged.value, `Move ${many(own)}`);
        if (!made) return;
        const { cursor } = store.getState();
        const to = { col: cursor.col + by.col, row: cursor.row + by.row };
        store.setState({ cursor: to, anchor: to, area: undefined });
        void edit(made);
      },
      resize: (id, to) => {
        const arranged = resizeTo(page.data, placed, id, to);
        if (!arranged.ok) return say(arranged.error, true);
        const made = arrangeEdit(page, controls, arranged.value, 'Size of a control');
        if (made) void edit(made);
      },
      clear: () => {
        const own = chosen();
        if (own.length === 0) return;
        store.setState(({ focusing }) => ({ ids: new Set(), tab: 'rig', focusing: focusing + 1 }));
        void edit(removeControlsEdit(own, `Clear ${many(own)}`));
      },
      duplicate: () => {
        const own = chosen();
        const bounds = boundsOf(own.map(({ data }) => data));
        if (!bounds) return;
        const clip = readClip(clipText(desk.records, own));
        const made = clip.ok && pasteEdit(desk.records, page, clip.value, { col: bounds.col, row: bounds.row }, newId);
        if (!made || !made.ok) return made ? say(`Not duplicated. ${made.error}`, true) : undefined;
        show(made.value.ids);
        void edit({ ...made.value.edit, title: `Duplicate ${many(own)}` });
      },
      copy: () => {
        const own = chosen();
        return own.length > 0 ? clipText(desk.records, own) : undefined;
      },
      paste,
      put: async (offer, cell) => {
        if (!isFree({ ...cell, cols: 1, rows: 1 }, controls))
          return say('A control is already there. Choose an empty cell.', true);
        const id = newId('ctl');
        const made = addControlEdit(page, cell, offer.start(), id, `Add ${offer.title}`);
        store.setState({ carried: undefined, cursor: cell, anchor: cell });
        show([id]);
        await edit(made);
      },
      replace: (control, offer) => {
        const stored = controls.find(({ id }) => id === control.id);
        if (!stored) return;
        show([control.id]);
        void edit(replaceControlEdit(stored, offer.start(), `Replace with ${offer.title}`));
      },
      makeZone: () => {
        const { area, cursor } = store.getState();
        const around = boundsOf(chosen().map(({ data }) => data)) ?? area ?? { ...cursor, cols: 1, rows: 1 };
        const zone = { id: newId('zone'), title: 'New zone', ...clipped(around, page) };
        const made = putZoneEdit(page, zone);
        if (!made.ok) return say(made.error, true);
        store.setState({ zone: zone.id, ids: new Set(), tab: 'chosen' });
        void edit(made.value);
      },
      change: (control, change, what) => changeMany([control], change, what),
      changeMany,
    };
  }, [store, desk, page, controls, edit, say]);
}

const clipped = ({ col, row, cols, rows }: Area, { data }: PageRecord): Area => ({
  col,
  row,
  cols: Math.max(1, Math.min(cols, data.columns - col)),
  rows: Math.max(1, Math.min(rows, data.rows - row)),
});
