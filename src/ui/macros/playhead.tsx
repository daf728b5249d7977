'use client';

import { useEffect, useRef } from 'react';
import { useLive, useRuns } from '../live';

interface Props {
  readonly macro: string;
  /** The number of the segment. */
  readonly segment: number;
  /** Where a time lies, in pixels. */
  readonly x: (ms: number) => number;
}

/** Where a run of the macro is now, moving over the timeline of the segment that it plays. */
export function Playhead({ macro, segment, x }: Props) {
  const live = useLive();
  const line = useRef<HTMLElement>(null);
  const playing = Object.values(useRuns() ?? {}).find((run) => run.macro === macro)?.playing;
  const zeroAt = playing?.segment === segment ? playing.zeroAt : undefined;
  const place = useRef(x);
  useEffect(() => {
    place.current = x;
  });
  useEffect(() => {
    if (zeroAt === undefined) return;
    let frame = 0;
    const move = () => {
      // Moved past React: it is drawn anew with each frame, and nothing else is.
      if (line.current) line.current.style.transform = `translateX(${place.current(live.now() - zeroAt)}px)`;
      frame = requestAnimationFrame(move);
    };
    move();
    return () => cancelAnimationFrame(frame);
  }, [live, zeroAt]);
  return zeroAt === undefined ? null : (
    <i
      ref={line}
      data-playhead
      className="pointer-events-none absolute top-0 bottom-0 left-0 z-3 w-0.75 bg-accent"
      aria-hidden
    />
  );
}
