'use client';

import { useRef, type PointerEvent, type RefObject } from 'react';
import { areaBetween, contains, moveBy, resizeTo, type Area, type Cell } from '../../core/page';
import type { ControlRecord, PageRecord } from '../../core/show';
import type { EditorStore } from './editor-store';
import { boxOf, cellAt, geometryOf, type GridGeometry } from './grid-geometry';
import type { Verbs } from './verbs';

/** So far a pointer moves before it drags. */
const slackPx = 5;

type Kind =
  | { readonly is: 'move'; readonly ids: ReadonlySet<string> }
  | { readonly is: 'resize'; readonly control: ControlRecord }
  | { readonly is: 'stretch' }
  | { readonly is: 'series'; readonly control: ControlRecord };

interface Drag {
  readonly kind: Kind;
  readonly pointer: number;
  readonly x: number;
  readonly y: number;
  readonly from: Cell;
  readonly geometry: GridGeometry;
  readonly moved: readonly HTMLElement[];
  over: Cell;
  begun: boolean;
}

/**
 * What a pointer does on the grid: it chooses, moves, resizes, stretches over an area, or draws the area of a series. While
 * something moves only its own elements are touched; what would come of it is worked out anew when another cell is reached.
 */
export function useGridDrag(
  grid: RefObject<HTMLDivElement | null>,
  store: EditorStore,
  verbs: Verbs,
  page: PageRecord,
  controls: readonly ControlRecord[],
) {
  const drag = useRef<Drag>(undefined);
  const placed = () => controls.map(({ id, data }) => ({ ...data, id }));

  const kindAt = (target: Element, event: PointerEvent): Kind | undefined => {
    const id = target.closest('[data-control]')?.getAttribute('data-control');
    const control = controls.find((each) => each.id === id);
    const { ids, series } = store.getState();
    if (series) {
      const first = controls.find((each) => ids.has(each.id));
      return first && { is: 'series', control: first };
    }
    if (target.closest('[data-handle]') && control) return { is: 'resize', control };
    if (!control) return event.pointerType === 'touch' ? undefined : { is: 'stretch' };
    // A finger scrolls the page unless what it touches was chosen before.
    if (event.pointerType === 'touch' && !ids.has(control.id)) return undefined;
    return { is: 'move', ids: ids.has(control.id) ? ids : new Set([control.id]) };
  };

  const preview = (now: Drag) => {
    const boxes = (areas: readonly Area[]) => areas.map((area) => boxOf(now.geometry, area));
    const by = { col: now.over.col - now.from.col, row: now.over.row - now.from.row };
    const { kind } = now;
    switch (kind.is) {
      case 'move': {
        const result = moveBy(page.data, placed(), kind.ids, by);
        const shifted = controls
          .filter(({ id }) => kind.ids.has(id))
          .map(({ data }) => ({ ...data, col: data.col + by.col, row: data.row + by.row }));
        return store.setState({
          preview: result.ok
            ? { boxes: boxes([...shifted, ...result.value.places.values()]) }
            : { boxes: boxes(shifted), refused: result.error },
        });
      }
      case 'resize': {
        const to = resized(kind.control, now.over);
        const result = resizeTo(page.data, placed(), kind.control.id, to);
        return store.setState({ preview: { boxes: boxes([to]), ...(result.ok ? {} : { refused: result.error }) } });
      }
      case 'stretch':
        return store.setState({ preview: { boxes: boxes([areaBetween(now.from, now.over)]) } });
      case 'series':
        return store.setState(({ series }) => ({
          series: series && { ...series, over: seriesArea(kind.control, now.over) },
        }));
    }
  };

  const finish = (now: Drag) => {
    const { kind } = now;
    switch (kind.is) {
      case 'move':
        if (!store.getState().ids.has([...kind.ids][0] ?? '')) verbs.choose(kind.ids);
        return verbs.move({ col: now.over.col - now.from.col, row: now.over.row - now.from.row });
      case 'resize':
        return verbs.resize(kind.control.id, resized(kind.control, now.over));
      case 'stretch':
        return verbs.chooseArea(areaBetween(now.from, now.over), now.from, now.over);
      case 'series':
        return;
    }
  };

  const end = (apply: boolean) => {
    const now = drag.current;
    drag.current = undefined;
    if (!now?.begun) return;
    for (const element of now.moved) element.style.removeProperty('transform');
    grid.current?.removeAttribute('data-dragging');
    store.setState({ preview: undefined });
    if (apply) finish(now);
  };

  return {
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      if (event.button !== 0 || !(event.target instanceof Element) || !grid.current) return;
      if (event.target.closest('input, [data-entry]')) return;
      const kind = kindAt(event.target, event);
      const geometry = geometryOf(grid.current);
      const from = cellAt(geometry, event.clientX, event.clientY);
      if (!kind || !from) return;
      const ids = kind.is === 'move' ? kind.ids : new Set<string>();
      const moved = [...grid.current.querySelectorAll<HTMLElement>('[data-control]')].filter((element) =>
        ids.has(element.dataset.control ?? ''),
      );
      const { clientX: x, clientY: y, pointerId: pointer } = event;
      drag.current = { kind, pointer, x, y, from, over: from, geometry, moved, begun: false };
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      const now = drag.current;
      if (!now || event.pointerId !== now.pointer) return;
      const [dx, dy] = [event.clientX - now.x, event.clientY - now.y];
      if (!now.begun) {
        if (Math.hypot(dx, dy) < slackPx) return;
        now.begun = true;
        grid.current?.setPointerCapture(now.pointer);
        grid.current?.setAttribute('data-dragging', now.kind.is);
        preview(now);
      }
      for (const element of now.moved) element.style.transform = `translate(${dx}px, ${dy}px)`;
      const over = cellAt(now.geometry, event.clientX, event.clientY) ?? now.over;
      if (over.col === now.over.col && over.row === now.over.row) return;
      now.over = over;
      preview(now);
    },
    onPointerUp: (event: PointerEvent<HTMLDivElement>) => event.pointerId === drag.current?.pointer && end(true),
    onPointerCancel: () => end(false),
    // A finger is first captured by what it touches, and lost there when the grid takes it over: that ends nothing.
    onLostPointerCapture: (event: PointerEvent<HTMLDivElement>) => event.target === event.currentTarget && end(false),
  };
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
