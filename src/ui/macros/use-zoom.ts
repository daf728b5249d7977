'use client';

import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { Axis } from '../../core/macro';

export const leastScale = 2 ** -8;
export const mostScale = 2;

interface Anchor {
  readonly segment: number;
  readonly ms: number;
  /** Where that moment is in the window, from the left edge of the axis in sight. */
  readonly at: number;
}

/**
 * The scale of a timeline in pixels a millisecond. Ctrl with the wheel, or two fingers, zoom about the pointer; what is under it stays there.
 *
 * @param namesPx the names that stand still at its left
 */
export function useZoom(namesPx: number, fit: (room: number) => number) {
  /** What scrolls. */
  const box = useRef<HTMLDivElement>(null);
  const [scale, setScale] = useState(0.2);
  const axis = useRef<Axis>(undefined);
  const anchor = useRef<Anchor>(undefined);
  const fitting = useRef(fit);
  useEffect(() => {
    fitting.current = fit;
  });
  const fitNow = () => setScale(fitting.current((box.current?.clientWidth ?? 800) - namesPx));
  // The first look shows the whole macro.
  useLayoutEffect(() => setScale(fitting.current((box.current?.clientWidth ?? 800) - namesPx)), [namesPx]);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const at = event.clientX - element.getBoundingClientRect().left - namesPx;
      const place = axis.current?.at(at + element.scrollLeft);
      if (place) anchor.current = { ...place, at };
      setScale((old) => Math.min(mostScale, Math.max(leastScale, old * 2 ** (-event.deltaY / 240))));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [namesPx]);
  /** Told the axis that is drawn at this scale. */
  const onDrawn = useCallback((drawn: Axis) => {
    axis.current = drawn;
    const kept = anchor.current;
    anchor.current = undefined;
    if (kept) box.current?.scrollTo({ left: drawn.x(kept.segment, kept.ms) - kept.at });
  }, []);
  return { box, scale, setScale, fitNow, onDrawn };
}
