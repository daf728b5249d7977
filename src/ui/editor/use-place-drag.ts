'use client';

import type { DragEndEvent, DragStartEvent } from '@dnd-kit/core';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { isFree, moveBy, type Area, type Cell, type Offer } from '../../core/page';
import type { ControlRecord, PageRecord } from '../../core/show';
import { quietDrag, useDragSensors, usePointerPlace } from '../kit';
import type { EditorStore } from './editor-store';
import { boxOf, cellAt, geometryOf, type GridGeometry } from './grid-geometry';
import type { Verbs } from './verbs';

/** What is dragged over the grid, as the `data` of a draggable part. */
export type Placeable =
  { readonly is: 'control'; readonly id: string } | { readonly is: 'offer'; readonly offer: Offer };

interface Placing {
  readonly what: Placeable;
  /** The controls that move, the one under the pointer and those chosen with it. */
  readonly ids: ReadonlySet<string>;
  readonly moved: readonly HTMLElement[];
  /** Where the grid was at the start, and where it is now that the page may have scrolled. */
  readonly origin: GridGeometry['origin'];
  geometry: GridGeometry;
  readonly start: { readonly x: number; readonly y: number };
  readonly from: Cell | undefined;
  over: Cell | undefined;
}

/**
 * Drags controls over the grid and offers onto it: the props of the `DndContext` around both. While something moves only its own
 * elements are touched; the preview is worked out anew when another cell is reached.
 */
export function usePlaceDrag(
  grid: RefObject<HTMLDivElement | null>,
  store: EditorStore,
  verbs: Verbs,
  page: PageRecord,
  controls: readonly ControlRecord[],
) {
  const sensors = useDragSensors();
  const pointer = usePointerPlace();
  const placing = useRef<Placing>(undefined);
  const [offer, setOffer] = useState<Offer>();

  const start = ({ active, activatorEvent }: DragStartEvent) => {
    const what = active.data.current as Placeable | undefined;
    if (!what || !grid.current) return;
    const chosen = store.getState().ids;
    const ids = what.is === 'offer' ? new Set<string>() : chosen.has(what.id) ? chosen : new Set([what.id]);
    const moved = [...grid.current.querySelectorAll<HTMLElement>('[data-control]')].filter((element) =>
      ids.has(element.dataset.control ?? ''),
    );
    const geometry = geometryOf(grid.current);
    const at = pointAt(activatorEvent) ?? pointer.current;
    const from = cellAt(geometry, at.x, at.y);
    placing.current = { what, ids, moved, origin: geometry.origin, geometry, start: at, from, over: undefined };
    if (what.is === 'offer') setOffer(what.offer);
    else grid.current.setAttribute('data-dragging', 'move');
    follow();
  };

  const preview = ({ what, ids, geometry, from, over }: Placing) => {
    const boxes = (areas: readonly Area[]) => areas.map((area) => boxOf(geometry, area));
    if (!over) return store.setState({ preview: undefined });
    if (what.is === 'offer') {
      const area = { ...over, cols: 1, rows: 1 };
      const refused = isFree(area, controls) ? {} : { refused: 'A control is already there.' };
      return store.setState({ preview: { boxes: boxes([area]), ...refused } });
    }
    const by = distance(from, over);
    const placed = controls.map(({ id, data }) => ({ ...data, id }));
    const result = moveBy(page.data, placed, ids, by);
    const shifted = controls
      .filter(({ id }) => ids.has(id))
      .map(({ data }) => ({ ...data, col: data.col + by.col, row: data.row + by.row }));
    store.setState({
      preview: result.ok
        ? { boxes: boxes([...shifted, ...result.value.places.values()]) }
        : { boxes: boxes(shifted), refused: result.error },
    });
  };

  /** Takes what is dragged to the pointer. */
  const follow = () => {
    const now = placing.current;
    if (!now) return;
    const { x, y } = pointer.current;
    const dx = x - now.start.x + now.origin.left - now.geometry.origin.left;
    const dy = y - now.start.y + now.origin.top - now.geometry.origin.top;
    for (const element of now.moved) element.style.transform = `translate(${dx}px, ${dy}px)`;
    // A control stays over its last cell when the pointer leaves the grid; an offer is taken back there.
    const over = cellAt(now.geometry, x, y) ?? (now.what.is === 'control' ? now.over : undefined);
    if (over?.col === now.over?.col && over?.row === now.over?.row) return;
    now.over = over;
    preview(now);
  };
  const latest = useRef(follow);
  useEffect(() => {
    latest.current = follow;
  });
  useEffect(() => {
    const onScroll = () => {
      if (!placing.current || !grid.current) return;
      placing.current.geometry = geometryOf(grid.current);
      latest.current();
    };
    window.addEventListener('scroll', onScroll, true);
    return () => window.removeEventListener('scroll', onScroll, true);
  }, [grid]);

  const end = (drops: boolean) => {
    const now = placing.current;
    placing.current = undefined;
    setOffer(undefined);
    if (!now) return;
    for (const element of now.moved) element.style.removeProperty('transform');
    grid.current?.removeAttribute('data-dragging');
    store.setState({ preview: undefined });
    if (!drops || !now.over) return;
    if (now.what.is === 'offer') return void verbs.put(now.what.offer, now.over);
    if (!store.getState().ids.has(now.what.id)) verbs.choose(now.ids);
    verbs.move(distance(now.from, now.over));
  };

  return {
    /** The offer that is dragged. */
    offer,
    context: {
      id: 'page-editor',
      sensors,
      accessibility: quietDrag,
      onDragStart: start,
      onDragMove: () => latest.current(),
      onDragEnd: (_: DragEndEvent) => {
        latest.current();
        end(true);
      },
      onDragCancel: () => end(false),
    },
  };
}

const distance = (from: Cell | undefined, to: Cell): Cell =>
  from ? { col: to.col - from.col, row: to.row - from.row } : { col: 0, row: 0 };

/** Where the event that began a drag was. */
function pointAt(event: Event): { readonly x: number; readonly y: number } | undefined {
  const touch = 'touches' in event ? (event as TouchEvent).touches[0] : undefined;
  const at = touch ?? ('clientX' in event ? (event as PointerEvent) : undefined);
  return at && { x: at.clientX, y: at.clientY };
}
