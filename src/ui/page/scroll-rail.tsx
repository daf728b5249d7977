'use client';

import { ChevronDown, ChevronUp } from 'lucide-react';
import { useEffect, useState, type RefObject } from 'react';

/** The share of the visible height that one press scrolls. */
const scrolledPart = 0.8;

/** True once a page is taller than where it is shown. It stays so until the place or the page changes, so that nothing flickers. */
export function useScrolls(box: RefObject<HTMLElement | null>, page: string): boolean {
  const [scrolls, setScrolls] = useState<{ readonly page: string; readonly height: number }>();
  // With each drawing: the box is not there before the page has come.
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const look = () => {
      const { scrollHeight, clientHeight: height } = scrollerOf(element);
      setScrolls((before) => {
        if (before?.page === page && before.height === height) return before;
        return scrollHeight > height + 1 ? { page, height } : undefined;
      });
    };
    const observer = new ResizeObserver(look);
    observer.observe(element);
    window.addEventListener('resize', look);
    return () => {
      observer.disconnect();
      window.removeEventListener('resize', look);
    };
  });
  return scrolls?.page === page;
}

/**
 * Where a page that does not fit is scrolled whatever is on it, for on faders, sticks and lists a finger does not scroll. Dragged, or by
 * its two buttons.
 */
export function ScrollRail({ box }: { readonly box: RefObject<HTMLElement | null> }) {
  const by = (way: 1 | -1) => {
    const scroller = box.current && scrollerOf(box.current);
    scroller?.scrollBy({ top: way * scroller.clientHeight * scrolledPart, behavior: 'smooth' });
  };
  return (
    <div
      className="fixed top-[35%] right-[max(4px,env(safe-area-inset-right))] bottom-3 flex w-11 touch-pan-y flex-col justify-between border border-rule-strong bg-raised over-runs:bottom-15.25 [&_button]:grid [&_button]:min-h-16 [&_button]:w-11 [&_button]:touch-pan-y [&_button]:place-items-center"
      role="group"
      aria-label="Scroll the page"
    >
      <button type="button" aria-label="Scroll up" onClick={() => by(-1)}>
        <ChevronUp aria-hidden />
      </button>
      <button type="button" aria-label="Scroll down" onClick={() => by(1)}>
        <ChevronDown aria-hidden />
      </button>
    </div>
  );
}

/** What scrolls when something in this element is out of sight. */
function scrollerOf(element: HTMLElement): HTMLElement {
  for (let at = element.parentElement; at && at !== document.body; at = at.parentElement)
    if (/auto|scroll/.test(getComputedStyle(at).overflowY)) return at;
  return document.documentElement;
}
