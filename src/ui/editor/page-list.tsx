'use client';

import Link from 'next/link';
import { SortableList, type SortablePart } from '../kit';

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
export const PageList = ({ pages, page, isEditing, onPlace }: Props) => (
  <nav aria-label="Pages" className="min-h-0 overflow-y-auto max-[900px]:overflow-x-auto">
    <SortableList
      id="page-list"
      noun="page"
      items={pages}
      onPlace={onPlace}
      className="max-[900px]:flex"
      handleClass="opacity-0 group-hover:opacity-100 focus-visible:opacity-100 max-[900px]:hidden pointer-coarse:opacity-100"
      render={(entry, part) => (
        <PageItem key={entry.id} entry={entry} isHere={entry.id === page} isEditing={isEditing} part={part} />
      )}
    />
  </nav>
);

interface ItemProps {
  readonly entry: PageEntry;
  readonly isHere: boolean;
  readonly isEditing: boolean;
  readonly part: SortablePart;
}

function PageItem({ entry: { id, name, count }, isHere, isEditing, part }: ItemProps) {
  const { ref, style, isDragging, handle } = part;
  return (
    <li
      ref={ref}
      style={style}
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
      {handle}
    </li>
  );
}
