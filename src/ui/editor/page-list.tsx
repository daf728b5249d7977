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
import Link from 'next/link';

interface PageEntry {
  readonly id: string;
  readonly name: string;
  /** How many controls it has, where that is known. */
  readonly count?: number;
}

interface Props {
  readonly pages: readonly PageEntry[];
  readonly page: string | undefined;
  readonly isEditing: boolean;
  /** Puts a page at a place in the list; without it the list cannot be ordered. */
  readonly onPlace?: (page: string, place: number) => void;
}

/** The pages of the show. While they are edited they are put in order by dragging, or by the keys of the handle. */
export function PageList({ pages, page, isEditing, onPlace }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const nameOf = (id: UniqueIdentifier) => pages.find((each) => each.id === id)?.name ?? 'The page';
  const placeOf = (id: UniqueIdentifier | undefined) =>
    `place ${pages.findIndex((each) => each.id === id) + 1} of ${pages.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Picked up ${nameOf(active.id)}, ${placeOf(active.id)}.`,
    onDragOver: ({ active, over }) => (over ? `${nameOf(active.id)}: ${placeOf(over.id)}.` : undefined),
    onDragEnd: ({ active, over }) => `Dropped ${nameOf(active.id)} at ${placeOf(over?.id ?? active.id)}.`,
    onDragCancel: ({ active }) => `${nameOf(active.id)} is back at ${placeOf(active.id)}.`,
  };
  return (
    <nav aria-label="Pages" className="min-h-0 overflow-y-auto max-[900px]:overflow-x-auto">
      <DndContext
        id="page-list"
        accessibility={{
          announcements,
          screenReaderInstructions: {
            draggable:
              'Press Space to pick the page up, the arrow keys to move it, Space to drop it, Escape to cancel.',
          },
        }}
        sensors={sensors}
        collisionDetection={closestCenter}
        modifiers={[restrictToVerticalAxis, restrictToParentElement]}
        onDragEnd={({ active, over }) => {
          const place = pages.findIndex(({ id }) => id === over?.id);
          if (onPlace && over && active.id !== over.id && place >= 0) onPlace(String(active.id), place);
        }}
      >
        <SortableContext items={pages.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ul className="max-[900px]:flex">
            {pages.map((each) => (
              <PageItem
                key={each.id}
                entry={each}
                isHere={each.id === page}
                isEditing={isEditing}
                canMove={onPlace !== undefined}
              />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
    </nav>
  );
}

interface ItemProps {
  readonly entry: PageEntry;
  readonly isHere: boolean;
  readonly isEditing: boolean;
  readonly canMove: boolean;
}

function PageItem({ entry: { id, name, count }, isHere, isEditing, canMove }: ItemProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id,
    disabled: !canMove,
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transition, ...(transform ? { transform: `translateY(${Math.round(transform.y)}px)` } : {}) }}
      className={`group relative flex items-center border-l-3 ${isDragging ? 'z-10 bg-tape' : ''} ${
        isHere ? 'border-accent bg-raised' : 'border-transparent hover:bg-raised'
      }`}
    >
      <Link
        href={`/pages/${id}${isEditing ? '?edit=1' : ''}`}
        aria-current={isHere ? 'page' : undefined}
        draggable={false}
        className={`min-h-8 min-w-0 flex-1 truncate py-1 pr-1 pl-3 ${isHere ? 'font-semibold' : ''}`}
      >
        {name}
      </Link>
      {count !== undefined && (
        <span aria-hidden className="px-2 text-[13px] text-ink-soft max-[900px]:hidden">
          {count}
        </span>
      )}
      {canMove && (
        <button
          type="button"
          ref={setActivatorNodeRef}
          {...attributes}
          {...listeners}
          aria-label={`Move ${name}`}
          className="grid h-8 w-6 shrink-0 cursor-grab touch-none place-items-center text-ink-soft opacity-0 group-hover:opacity-100 focus-visible:opacity-100 max-[900px]:hidden pointer-coarse:opacity-100"
        >
          <GripVertical aria-hidden className="size-4" />
        </button>
      )}
    </li>
  );
}
