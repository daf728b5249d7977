import type { PointerEvent as ReactPointerEvent } from 'react';
import { isFree, type Cell } from '../../core/page';
import type { ControlRecord } from '../../core/show';
import type { EditorStore } from './editor-store';
import { boxOf, cellAt, geometryOf } from './grid-geometry';

const slackPx = 5;

/** Drags an offer from the list onto a cell. Escape and a drop outside the grid let it go. */
export function startOfferDrag(
  event: ReactPointerEvent,
  title: string,
  store: EditorStore,
  controls: readonly ControlRecord[],
  onDrop: (cell: Cell) => void,
): void {
  const grid = document.querySelector<HTMLElement>('.edit-grid');
  if (!grid) return;
  const start = { x: event.clientX, y: event.clientY };
  const geometry = geometryOf(grid);
  let ghost: HTMLElement | undefined;
  let over: Cell | undefined;

  const onMove = (move: PointerEvent) => {
    if (!ghost) {
      if (Math.hypot(move.clientX - start.x, move.clientY - start.y) < slackPx) return;
      ghost = document.createElement('div');
      ghost.className =
        'pointer-events-none fixed top-0 left-0 z-50 border-2 border-accent bg-tape px-3 py-1.5 font-semibold';
      ghost.textContent = title;
      document.body.append(ghost);
    }
    ghost.style.transform = `translate(${move.clientX + 8}px, ${move.clientY + 8}px)`;
    const cell = cellAt(geometry, move.clientX, move.clientY);
    if (cell?.col === over?.col && cell?.row === over?.row) return;
    over = cell;
    const area = cell && { ...cell, cols: 1, rows: 1 };
    const refused = area && !isFree(area, controls) ? 'A control is already there.' : undefined;
    store.setState({ preview: area && { boxes: [boxOf(geometry, area)], ...(refused ? { refused } : {}) } });
  };
  const end = (drop: boolean) => {
    window.removeEventListener('pointermove', onMove);
    window.removeEventListener('pointerup', onUp);
    window.removeEventListener('pointercancel', onCancel);
    window.removeEventListener('keydown', onKey, true);
    if (!ghost) return;
    ghost.remove();
    store.setState({ preview: undefined });
    // The click that follows the drop is not meant for the list.
    window.addEventListener('click', swallow, { capture: true, once: true });
    setTimeout(() => window.removeEventListener('click', swallow, { capture: true }), 0);
    if (drop && over) onDrop(over);
  };
  const onUp = () => end(true);
  const onCancel = () => end(false);
  const onKey = (key: KeyboardEvent) => {
    if (key.key !== 'Escape') return;
    key.stopPropagation();
    end(false);
  };
  window.addEventListener('pointermove', onMove);
  window.addEventListener('pointerup', onUp);
  window.addEventListener('pointercancel', onCancel);
  window.addEventListener('keydown', onKey, true);
}

const swallow = (event: Event) => {
  event.preventDefault();
  event.stopPropagation();
};
