'use client';

import { createContext, useContext } from 'react';
import { createStore, useStore, type StoreApi } from 'zustand';
import type { Area, Cell, Offer, SeriesDraft } from '../../core/page';
import type { Reading } from '../../core/reading';
import type { Box } from './grid-geometry';

export type PaneTab = 'chosen' | 'rig' | 'page' | 'find';

/** What a drag would do if it ended now. */
interface Preview {
  /** Where things would lie. */
  readonly boxes: readonly Box[];
  /** Why it would not be done. */
  readonly refused?: string;
}

/** What is chosen and under way in one editor. Nothing of it is stored; the show itself comes from the desk. */
export interface EditorState {
  /** The cell that the keyboard is on, and the one from which a choice is stretched. */
  readonly cursor: Cell;
  readonly anchor: Cell;
  /** The area that was stretched over, for a zone. */
  readonly area: Area | undefined;
  readonly ids: ReadonlySet<string>;
  readonly zone: string | undefined;
  /** The shift level that is shown and edited; `undefined` is the usual one. */
  readonly level: string | undefined;
  readonly tab: PaneTab;
  /** What is looked for on all pages. */
  readonly find: string;
  /** A cell in which somebody types what it shall be. */
  readonly entry: { readonly cell: Cell; readonly typed: string } | undefined;
  /** An offer that was taken up and is put down on the next cell that is touched. */
  readonly carried: Offer | undefined;
  /** A series that is being set up; its control is the one that is chosen. */
  readonly series: SeriesDraft | undefined;
  readonly preview: Preview | undefined;
  /** Readings tried by hand, by `readingId`, over what the devices say. */
  readonly tried: ReadonlyMap<string, Reading>;
  /** Counts up when the cursor's cell shall take the focus. */
  readonly focusing: number;
}

export type EditorStore = StoreApi<EditorState>;

const corner: Cell = { col: 0, row: 0 };

/** @param find what is looked for at once */
export const createEditorStore = (find = ''): EditorStore =>
  createStore<EditorState>(() => ({
    cursor: corner,
    anchor: corner,
    area: undefined,
    ids: new Set(),
    zone: undefined,
    level: undefined,
    tab: find === '' ? 'page' : 'find',
    find,
    entry: undefined,
    carried: undefined,
    series: undefined,
    preview: undefined,
    tried: new Map(),
    focusing: 0,
  }));

export const EditorContext = createContext<EditorStore | null>(null);

export function useEditorStore(): EditorStore {
  const store = useContext(EditorContext);
  if (!store) throw new Error('useEditorStore needs an editor above it.');
  return store;
}

export const useEditor = <T>(select: (state: EditorState) => T): T => useStore(useEditorStore(), select);
