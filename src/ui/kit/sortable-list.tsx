'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import { restrictToParentElement, restrictToVerticalAxis } from '@dnd-kit/modifiers';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { GripVertical } from 'lucide-react';
import type { CSSProperties, ReactNode } from 'react';
import { dragSlackPx } from './drag';

interface Item {
  readonly id: string;
  readonly name: string;
}

/** What the element of an item needs, and its handle. */
export interface SortablePart {
  readonly ref: (element: HTMLElement | null) => void;
  readonly style: CSSProperties;
  readonly isDragging: boolean;
  /** What it is dragged by; nothing where the list cannot be ordered. */
  readonly handle: ReactNode;
}

interface Props<T extends Item> {
  readonly id: string;
  /** What one of the items is called, such as “page”. */
  readonly noun: string;
  readonly items: readonly T[];
  /** Puts an item at a place in the list; without it the list cannot be ordered. */
  readonly onPlace?: ((id: string, place: number) => void) | undefined;
  readonly className?: string;
  readonly handleClass?: string;
  readonly render: (item: T, part: SortablePart) => ReactNode;
}

/** A list that is put in order by dragging the handles of its items, or by the keys of a handle. */
export function SortableList<T extends Item>({ id, noun, items, onPlace, className, handleClass, render }: Props<T>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: dragSlackPx } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const nameOf = (of: UniqueIdentifier) => items.find((each) => each.id === of)?.name ?? `The ${noun}`;
  const placeOf = (of: UniqueIdentifier | undefined) =>
    `place ${items.findIndex((each) => each.id === of) + 1} of ${items.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Picked up ${nameOf(active.id)}, ${placeOf(active.id)}.`,
    onDragOver: ({ active, over }) => (over ? `${nameOf(active.id)}: ${placeOf(over.id)}.` : undefined),
    onDragEnd: ({ active, over }) => `Dropped ${nameOf(active.id)} at ${placeOf(over?.id ?? active.id)}.`,
    onDragCancel: ({ active }) => `${nameOf(active.id)} is back at ${placeOf(active.id)}.`,
  };
  return (
    <DndContext
      id={id}
      accessibility={{
        announcements,
        screenReaderInstructions: {
          draggable: `Press Space to pick the ${noun} up, the arrow keys to move it, Space to drop it, Escape to cancel.`,
        },
      }}
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={[restrictToVerticalAxis, restrictToParentElement]}
      onDragEnd={({ active, over }) => {
        const place = items.findIndex((each) => each.id === over?.id);
        if (onPlace && over && active.id !== over.id && place >= 0) onPlace(String(active.id), place);
      }}
    >
      <SortableContext items={items.map((each) => each.id)} strategy={verticalListSortingStrategy}>
        <ul className={className}>
          {items.map((item) => (
            <SortableItem
              key={item.id}
              item={item}
              canMove={onPlace !== undefined}
              handleClass={handleClass}
              render={render}
            />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}

interface ItemProps<T extends Item> extends Pick<Props<T>, 'render'> {
  readonly item: T;
  readonly canMove: boolean;
  readonly handleClass: string | undefined;
}

function SortableItem<T extends Item>({ item, canMove, handleClass = '', render }: ItemProps<T>) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: item.id,
    disabled: !canMove,
  });
  const style = { transition, ...(transform ? { transform: `translateY(${Math.round(transform.y)}px)` } : {}) };
  const handle = canMove && (
    <button
      type="button"
      ref={setActivatorNodeRef}
      {...attributes}
      {...listeners}
      aria-label={`Move ${item.name}`}
      className={`grid h-8 w-6 shrink-0 cursor-grab touch-none place-items-center text-ink-soft ${handleClass}`}
    >
      <GripVertical aria-hidden className="size-4" />
    </button>
  );
  return render(item, { ref: setNodeRef, style, isDragging, handle });
}
