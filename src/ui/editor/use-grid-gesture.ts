'use client';

import { useDrag } from '@use-gesture/react';
import { useEffect, useRef, type RefObject } from 'react';
import { areaBetween, contains, resizeTo, type Area, type Cell } from '../../core/page';
import type { ControlRecord, PageRecord } from '../../core/show';
import { dragSlackPx } from '../kit';
import type { EditorStore } from './editor-store';
import { boxOf, cellAt, geometryOf, type GridGeometry } from './grid-geometry';
import type { Verbs } from './verbs';

type Kind =
  | { readonly is: 'resize'; readonly control: ControlRecord }
  | { readonly is: 'stretch' }
  | { readonly is: 'series'; readonly control: ControlRecord };

interface Gesture {
  readonly kind: Kind;
  readonly geometry: GridGeometry;
  readonly from: Cell;
  readonly over: Cell;
}

/** Stretches over the cells of the grid: an area to choose, the size of a control, the area of a series. */
export function useGridGesture(
  grid: RefObject<HTMLDivElement | null>,
  store: EditorStore,
  verbs: Verbs,
  page: PageRecord,
  controls: readonly ControlRecord[],
) {
  const kindAt = (target: Element, pointer: string): Kind | undefined => {
    if (target.closest('input, [data-entry]')) return undefined;
    const id = target.closest('[data-control]')?.getAttribute('data-control');
    const control = controls.find((each) => each.id === id);
    const { ids, series } = store.getState();
    if (series) {
      const first = controls.find((each) => ids.has(each.id));
      return first && { is: 'series', control: first };
    }
    if (control) return target.closest('[data-handle]') ? { is: 'resize', control } : undefined;
    // A finger on an empty cell scrolls.
    return pointer === 'touch' ? undefined : { is: 'stretch' };
  };

  const preview = ({ kind, geometry, from, over }: Gesture) => {
    switch (kind.is) {
      case 'resize': {
        const to = resized(kind.control, over);
        const placed = controls.map(({ id, data }) => ({ ...data, id }));
        const result = resizeTo(page.data, placed, kind.control.id, to);
        const refused = result.ok ? {} : { refused: result.error };
        return store.setState({ preview: { boxes: [boxOf(geometry, to)], ...refused } });
      }
      case 'stretch':
        return store.setState({ preview: { boxes: [boxOf(geometry, areaBetween(from, over))] } });
      case 'series':
        return store.setState(({ series }) => ({
          series: series && { ...series, over: seriesArea(kind.control, over) },
        }));
    }
  };

  const finish = ({ kind, from, over }: Gesture) => {
    if (kind.is === 'resize') verbs.resize(kind.control.id, resized(kind.control, over));
    if (kind.is === 'stretch') verbs.chooseArea(areaBetween(from, over), from, over);
  };

  const stop = useRef<() => void>(undefined);
  useEffect(() => {
    const onKey = ({ key }: KeyboardEvent) => key === 'Escape' && stop.current?.();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  return useDrag<PointerEvent>(
    ({ first, last, tap, canceled, xy: [x, y], initial, target, event, cancel, memo }) => {
      const begin = (): Gesture | undefined => {
        const kind = target instanceof Element ? kindAt(target, event.pointerType) : undefined;
        if (!kind || !grid.current) return undefined;
        const geometry = geometryOf(grid.current);
        const from = cellAt(geometry, initial[0], initial[1]);
        if (!from) return undefined;
        grid.current.setAttribute('data-dragging', kind.is);
        return { kind, geometry, from, over: from };
      };
      if (tap) return undefined;
      const before = first ? begin() : (memo as Gesture | undefined);
      if (!before) {
        if (!last) cancel();
        return undefined;
      }
      const over = cellAt(before.geometry, x, y) ?? before.over;
      const moved = over.col !== before.over.col || over.row !== before.over.row;
      const now = moved ? { ...before, over } : before;
      if (!last) {
        stop.current = cancel;
        if (first || moved) preview(now);
        return now;
      }
      stop.current = undefined;
      grid.current?.removeAttribute('data-dragging');
      store.setState({ preview: undefined });
      if (!canceled) finish(now);
      return undefined;
    },
    { filterTaps: true, threshold: dragSlackPx, pointer: { capture: false, keys: false } },
  );
}

const resized = ({ data }: ControlRecord, over: Cell): Area => ({
  col: data.col,
  row: data.row,
  cols: Math.max(1, over.col - data.col + 1),
  rows: Math.max(1, over.row - data.row + 1),
});

/** A series begins with its control and runs to the right and down. */
function seriesArea({ data }: ControlRecord, over: Cell): Area {
  const area = {
    col: data.col,
    row: data.row,
    cols: Math.max(data.cols, over.col - data.col + 1),
    rows: Math.max(data.rows, over.row - data.row + 1),
  };
  return contains(area, data) ? area : data;
}
