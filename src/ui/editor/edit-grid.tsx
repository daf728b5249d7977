'use client';

import { useDraggable } from '@dnd-kit/core';
import { memo, useEffect, useMemo, type KeyboardEvent, type MouseEvent, type RefObject } from 'react';
import { areaBetween, atLevel, contains, emptyCells, inOrder, type Area, type Cell } from '../../core/page';
import type { ControlView, FaceView } from '../../core/live';
import type { ControlRecord, PageRecord, ShowLookup } from '../../core/show';
import { shortcutOf } from '../frame';
import { dragListeners } from '../kit';
import { DrawnKind, Face, faceWords, lies, placeStyle } from '../page';
import { CellEntry } from './cell-entry';
import { useEditor, useEditorStore } from './editor-store';
import { GridOverlay } from './grid-overlay';
import { kindWords } from './kind-fields';
import { labelFieldId } from './label-field';
import { useGridGesture } from './use-grid-gesture';
import { useFaces } from './use-faces';
import type { Placeable } from './use-place-drag';
import { useVerbs } from './verbs';

interface Props {
  readonly grid: RefObject<HTMLDivElement | null>;
  /** One row more than the page has, to grow into. */
  readonly page: PageRecord;
  readonly controls: readonly ControlRecord[];
  readonly lookUp: ShowLookup;
}

const arrows: Readonly<Record<string, Cell>> = {
  ArrowLeft: { col: -1, row: 0 },
  ArrowRight: { col: 1, row: 0 },
  ArrowUp: { col: 0, row: -1 },
  ArrowDown: { col: 0, row: 1 },
};

/** Starts a search, as Enter does; what the desk does by a key anywhere is not for here. */
const isLetter = (event: KeyboardEvent['nativeEvent']): boolean =>
  !event.ctrlKey &&
  !event.metaKey &&
  !event.altKey &&
  (event.key === 'Enter' || event.key.length === 1) &&
  shortcutOf('desk', event) === undefined;

/** The page as a grid to work on: with the mouse, a finger or the keyboard alone. */
export function EditGrid({ grid, page, controls, lookUp }: Props) {
  const store = useEditorStore();
  const verbs = useVerbs();
  const gesture = useGridGesture(grid, store, verbs, page, controls);
  const cursor = useEditor((state) => state.cursor);
  const focusing = useEditor((state) => state.focusing);
  const entry = useEditor((state) => state.entry);
  const zone = useEditor((state) => state.zone);
  const { columns, rows } = page.data;

  useEffect(() => {
    if (focusing > 0) grid.current?.querySelector<HTMLElement>('[data-at-cursor]')?.focus();
  }, [grid, focusing]);

  const onClick = (event: MouseEvent) => {
    if (!(event.target instanceof Element)) return;
    const { carried, anchor, series } = store.getState();
    if (series) return;
    const id = event.target.closest('[data-control]')?.getAttribute('data-control');
    const cell = cellOf(event.target.closest('[data-cell]'));
    const control = controls.find((each) => each.id === id);
    if (carried && cell) return void verbs.put(carried, cell);
    const at = control ? { col: control.data.col, row: control.data.row } : cell;
    if (!at) return;
    if (event.shiftKey) return verbs.chooseArea(areaBetween(anchor, at), anchor, at);
    if (!control) return verbs.chooseCell(at);
    const chosen = store.getState().ids;
    if (!event.ctrlKey && !event.metaKey) return verbs.choose([control.id], at);
    verbs.choose(
      chosen.has(control.id) ? [...chosen].filter((each) => each !== control.id) : [...chosen, control.id],
      at,
    );
  };

  const go = (by: Cell, stretch: boolean) => {
    const { cursor: from, anchor } = store.getState();
    const on: Area = controls.find(({ data }) => contains(data, { ...from, cols: 1, rows: 1 }))?.data ?? {
      ...from,
      cols: 1,
      rows: 1,
    };
    const to = {
      col: by.col > 0 ? on.col + on.cols : by.col < 0 ? on.col - 1 : from.col,
      row: by.row > 0 ? on.row + on.rows : by.row < 0 ? on.row - 1 : from.row,
    };
    if (to.col < 0 || to.row < 0 || to.col >= columns || to.row >= rows) return;
    const there = controls.find(({ data }) => contains(data, { ...to, cols: 1, rows: 1 }));
    if (stretch) verbs.chooseArea(areaBetween(anchor, to), anchor, to);
    else if (there) verbs.choose([there.id], to);
    else verbs.chooseCell(to);
    store.setState(({ focusing: count }) => ({ focusing: count + 1 }));
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (!(event.target instanceof Element) || event.target.closest('[data-entry], input, .zone-title')) return;
    const by = arrows[event.key];
    const shortcut = shortcutOf('grid', event.nativeEvent);
    const state = store.getState();
    const [only] = state.ids.size === 1 ? controls.filter(({ id }) => state.ids.has(id)) : [];
    const again = () => store.setState(({ focusing: count }) => ({ focusing: count + 1 }));
    if (shortcut === 'resize' && by && only) {
      const { col, row, cols, rows: high } = only.data;
      verbs.resize(only.id, { col, row, cols: cols + by.col, rows: high + by.row });
      again();
    } else if ((shortcut === 'move' || shortcut === 'resize') && by) {
      verbs.move(by);
      again();
    } else if ((shortcut === 'go' || shortcut === 'stretch') && by) go(by, shortcut === 'stretch');
    else if (shortcut === 'all') verbs.choose(controls.map(({ id }) => id));
    else if (shortcut === 'duplicate') verbs.duplicate();
    else if (shortcut === 'clear') verbs.clear();
    else if (shortcut === 'label' && only) document.getElementById(labelFieldId)?.focus();
    else if (state.ids.size === 0 && isLetter(event.nativeEvent)) {
      store.setState({
        entry: { cell: state.cursor, typed: event.key === 'Enter' || event.key === ' ' ? '' : event.key },
      });
    } else return;
    event.preventDefault();
  };

  return (
    <div className="page-grid-box">
      <div
        ref={grid}
        className="page-grid edit-grid"
        role="group"
        aria-label={`Cells of ${page.data.name}`}
        style={{
          gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
          gridTemplateRows: `repeat(${rows}, auto minmax(64px, auto))`,
        }}
        onClick={onClick}
        onDoubleClick={(event) => {
          const cell = event.target instanceof Element && cellOf(event.target.closest('[data-cell]'));
          if (cell) store.setState({ entry: { cell, typed: '' } });
        }}
        onKeyDown={onKeyDown}
        {...gesture()}
      >
        {page.data.zones.map((each) => (
          <button
            key={each.id}
            type="button"
            className="zone-title"
            aria-pressed={zone === each.id}
            style={{ gridColumn: `${each.col + 1} / span ${each.cols}`, gridRow: each.row * 2 + 1 }}
            onClick={(event) => {
              event.stopPropagation();
              store.setState({ zone: each.id, ids: new Set(), area: undefined, tab: 'chosen' });
            }}
          >
            {each.title}
          </button>
        ))}
        <EditControls controls={controls} lookUp={lookUp} />
        {emptyCells(page, controls).map(({ col, row }) => (
          <EmptyCell key={`${col} ${row}`} col={col} row={row} atCursor={col === cursor.col && row === cursor.row} />
        ))}
        {entry && <CellEntry key={`${entry.cell.col} ${entry.cell.row}`} {...entry} />}
        <GridOverlay controls={controls} page={page} />
      </div>
    </div>
  );
}

/** The controls as they look now. They follow the devices at once, so nothing else is drawn anew with them. */
function EditControls({ controls, lookUp }: Pick<Props, 'controls' | 'lookUp'>) {
  const cursor = useEditor((state) => state.cursor);
  const ids = useEditor((state) => state.ids);
  const tried = useEditor((state) => state.tried);
  const level = useEditor((state) => state.level);
  const atLevels = useMemo(
    () => (level === undefined ? controls : controls.map((each) => ({ ...each, data: atLevel(each.data, level) }))),
    [controls, level],
  );
  const { faces, views } = useFaces(lookUp, atLevels, tried);
  return inOrder(controls.map((control) => ({ ...control.data, control }))).map(({ control }) => {
    const face = faces.get(control.id);
    const view = views.get(control.id);
    return (
      face &&
      view && (
        <EditControl
          key={control.id}
          id={control.id}
          face={face}
          view={view}
          chosen={ids.has(control.id)}
          alone={ids.size === 1}
          atCursor={contains(control.data, { ...cursor, cols: 1, rows: 1 })}
        />
      )
    );
  });
}

interface EditControlProps {
  readonly id: string;
  readonly face: FaceView;
  readonly view: ControlView;
  readonly chosen: boolean;
  readonly alone: boolean;
  readonly atCursor: boolean;
}

const EditControl = memo(function EditControl({ id, face, view, chosen, alone, atCursor }: EditControlProps) {
  const how = view.guarded ? 'guarded' : view.holds ? 'while held' : '';
  const kind = view.type === 'button' ? '' : kindWords[view.type];
  const isSeries = useEditor(({ series }) => series !== undefined);
  const data: Placeable = { is: 'control', id };
  const { setNodeRef, listeners } = useDraggable({ id, data, disabled: isSeries });
  return (
    <button
      ref={setNodeRef}
      type="button"
      className={`control control-${face.lamp.show}`}
      style={placeStyle(view)}
      data-control={id}
      data-single={(view.cols === 1 && view.rows === 1) || undefined}
      data-kind={view.type === 'button' ? undefined : view.type}
      data-lying={(view.type === 'fader' && lies(view)) || undefined}
      data-at-cursor={atCursor || undefined}
      tabIndex={atCursor ? 0 : -1}
      aria-pressed={chosen}
      aria-label={faceWords(face, kind || how)}
      // A finger scrolls the page unless what it touches was chosen before.
      {...dragListeners(listeners, chosen)}
    >
      <Face face={face} view={view} />
      <DrawnKind face={face} view={view} />
      {how && (
        <span className={`grip ${view.guarded ? 'grip-guard' : ''}`} aria-hidden>
          <b>{how}</b>
        </span>
      )}
      {chosen && alone && (
        <span
          className="handle absolute -right-2.25 -bottom-2.25 h-5.5 w-5.5 cursor-nwse-resize touch-none border-3 border-ground bg-accent pointer-coarse:-right-3.25 pointer-coarse:-bottom-3.25 pointer-coarse:h-8.5 pointer-coarse:w-8.5"
          data-handle
          aria-hidden
        />
      )}
    </button>
  );
});

const EmptyCell = memo(function EmptyCell({ col, row, atCursor }: Cell & { readonly atCursor: boolean }) {
  return (
    <button
      type="button"
      className="aspect-[7/5] min-h-16 w-full border border-dashed border-rule text-[18px] text-ink-soft hover:border-rule-strong hover:text-ink data-at-cursor:border-solid data-at-cursor:border-rule-strong data-at-cursor:text-ink"
      data-cell={`${col} ${row}`}
      data-at-cursor={atCursor || undefined}
      tabIndex={atCursor ? 0 : -1}
      style={placeStyle({ col, row, cols: 1, rows: 1 })}
      aria-label={`Empty, column ${col + 1}, row ${row + 1}`}
    >
      +
    </button>
  );
});

function cellOf(element: Element | null): Cell | undefined {
  const [col, row] = element?.getAttribute('data-cell')?.split(' ').map(Number) ?? [];
  return col === undefined || row === undefined ? undefined : { col, row };
}
