'use client';

import { useEffect, useRef } from 'react';
import { useStatus } from '../live';
import { goTo } from './address';

interface Props {
  readonly pages: readonly { readonly id: string; readonly name: string }[];
  readonly page: string | undefined;
  /** It has all pages of the show, and shows what else a screen can be. */
  readonly isOpenToAll: boolean;
  readonly onShow: (page: string) => void;
}

/** The pages of a panel on one line, which is moved along where they do not fit: a finger swipes it, a wheel turns it. */
export function PageTabs({ pages, page, isOpenToAll, onShow }: Props) {
  const status = useStatus();
  const line = useRef<HTMLElement>(null);
  useEffect(() => {
    const here = line.current?.querySelector<HTMLElement>('[aria-current]');
    // `scrollIntoView` would move the page below as well.
    if (line.current && here)
      line.current.scrollLeft = here.offsetLeft - (line.current.clientWidth - here.offsetWidth) / 2;
  }, [page, pages.length]);
  return (
    <nav
      ref={line}
      aria-label="Pages"
      onWheel={({ deltaY, currentTarget }) => void (currentTarget.scrollLeft += deltaY)}
      className="relative mr-auto flex min-w-0 flex-[1_1_120px] [scrollbar-width:none] gap-1 overflow-x-auto overscroll-x-contain [mask-image:linear-gradient(to_right,black_calc(100%-24px),transparent)] pr-6 [&_button]:min-h-11 [&_button]:min-w-16 [&_button]:flex-none [&_button]:border-b-3 [&_button]:border-transparent [&_button]:px-3.5 [&_button]:font-semibold max-[600px]:[&_button]:min-w-11 max-[600px]:[&_button]:px-2.5 [&_button[aria-current]]:border-accent"
    >
      {pages.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          aria-current={id === page ? 'page' : undefined}
          onPointerDown={({ currentTarget }) => !isSwiped(currentTarget.parentElement) && onShow(id)}
          onClick={() => onShow(id)}
        >
          {name}
        </button>
      ))}
      {(status?.tallies ?? 0) > 0 && isOpenToAll && (
        <button type="button" onClick={() => goTo('/panel/tally')}>
          Tally
        </button>
      )}
      {(status?.clocks ?? 0) > 0 && isOpenToAll && (
        <button type="button" onClick={() => goTo('/panel/clock')}>
          Clock
        </button>
      )}
      {(status?.outputs ?? 0) > 0 && isOpenToAll && (
        <button type="button" onClick={() => goTo('/panel/outputs')}>
          Outputs
        </button>
      )}
    </nav>
  );
}

/** Whether a finger on the pages may be about to swipe along them: then it is its lifting that goes to a page. */
const isSwiped = (pages: Element | null): boolean => pages !== null && pages.scrollWidth > pages.clientWidth;
