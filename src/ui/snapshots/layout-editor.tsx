'use client';

import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { memberKey, type DriverDocument } from '../../core/driver';
import type { ReadingsView } from '../../core/live';
import type { SnapshotPart } from '../../core/show';
import { boxesOf, withBox, type KeptBox } from '../../core/snapshot';

interface Props {
  readonly part: SnapshotPart;
  readonly document: DriverDocument;
  readonly readings: ReadingsView | undefined;
  readonly onChange: (part: SnapshotPart) => void;
}

type Change = Partial<Pick<KeptBox, 'x' | 'y' | 'size'>>;

const step = 0.01;

/** The boxes of a layout: dragged to their place, by their corner to their size, or moved by the arrow keys. */
export function LayoutEditor({ part, document, readings, onChange }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const [moved, setMoved] = useState<{ readonly index: number; readonly change: Change }>();
  const names = document.layouts[document.keeps[part.keep]?.layout ?? '']?.names;
  const nameOf = (source: number) => {
    const name = names === undefined ? undefined : readings?.[memberKey(names, source)]?.value;
    return String(name ?? source);
  };
  const boxes = boxesOf(part, document).map((box) => (moved?.index === box.index ? { ...box, ...moved.change } : box));
  const done = (index: number, change: Change) => {
    setMoved(undefined);
    const to = withBox(part, document, index, change);
    if (JSON.stringify(to) !== JSON.stringify(part)) onChange(to);
  };
  return (
    <div
      ref={area}
      role="group"
      aria-label="Boxes"
      className="relative aspect-video w-full touch-none overflow-hidden border border-rule-strong bg-ground"
    >
      {boxes
        .filter(({ on }) => on)
        .map((box) => (
          <BoxHandle
            key={box.index}
            box={box}
            name={nameOf(box.source)}
            sizeOfArea={() => area.current?.getBoundingClientRect()}
            onMove={(change) => setMoved({ index: box.index, change })}
            onDone={(change) => done(box.index, change)}
          />
        ))}
    </div>
  );
}

interface BoxProps {
  readonly box: KeptBox;
  readonly name: string;
  readonly sizeOfArea: () => DOMRect | undefined;
  readonly onMove: (change: Change) => void;
  readonly onDone: (change: Change) => void;
}

function BoxHandle({ box, name, sizeOfArea, onMove, onDone }: BoxProps) {
  const { index, x, y, size, left, top, right, bottom } = box;
  const start = useRef({ x, y, size });
  const bind = useDrag(({ first, last, movement: [dx, dy], event, canceled }) => {
    event.stopPropagation();
    if (first) start.current = { x, y, size };
    const rect = sizeOfArea();
    if (!rect || canceled) return;
    const change = { x: start.current.x + dx / rect.width, y: start.current.y + dy / rect.height };
    (last ? onDone : onMove)(change);
  });
  const bindSize = useDrag(({ first, last, movement: [dx, dy], event, canceled }) => {
    event.stopPropagation();
    if (first) start.current = { x, y, size };
    const rect = sizeOfArea();
    if (!rect || canceled) return;
    const by = Math.max(dx / rect.width, dy / rect.height) * 2;
    (last ? onDone : onMove)({ size: Math.max(0.05, start.current.size + by) });
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const ways: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    if (event.shiftKey) onDone({ size: size + way[0] - way[1] });
    else onDone({ x: x + way[0], y: y + way[1] });
  };
  const percent = (part: number) => `${part * 100}%`;
  return (
    <button
      type="button"
      aria-label={`Box ${index}, ${name}. Arrow keys move it, Shift and arrow keys resize it.`}
      {...bind()}
      onKeyDown={onKeyDown}
      className="absolute grid touch-none place-items-center border border-ink-soft bg-raised/80 text-[13px] hover:border-accent"
      style={{
        left: percent(x - size / 2 + (left / 100) * size),
        top: percent(y - size / 2 + (top / 100) * size),
        width: percent(size * (1 - (left + right) / 100)),
        height: percent(size * (1 - (top + bottom) / 100)),
      }}
    >
      <span className="max-w-full truncate px-1">
        {index} {name}
      </span>
      <span
        {...bindSize()}
        aria-hidden
        className="absolute right-0 bottom-0 size-4 cursor-nwse-resize touch-none border-t border-l border-ink-soft bg-tape"
      />
    </button>
  );
}
