'use client';

import { useEffect, useRef, useState } from 'react';
import { ageText } from '../parts';
import { useLivePicture } from '../live';

/** From this age on a picture says how old it is. */
const oldMs = 2000;

/** A picture as its source hands it out, with how old it is, and what is wrong while none comes. */
export function LivePictureView({ live }: { readonly live: string }) {
  const frame = useRef<HTMLSpanElement>(null);
  const width = useWidthInView(frame);
  const { picture, drawn } = useLivePicture(live, width);
  const { url, at, problem } = picture;
  const age = useAge(at);
  const note = [
    problem?.message,
    age !== undefined && age >= oldMs ? `Picture ${ageText(age)} old.` : undefined,
  ].filter(Boolean);
  return (
    <span
      ref={frame}
      className="shown-picture"
      data-doubt={url === undefined ? 'unknown' : problem ? 'stale' : undefined}
    >
      {url === undefined ? (
        <em className="px-1 text-center">{problem?.message ?? 'no picture yet'}</em>
      ) : (
        <>
          <img src={url} alt="" draggable={false} onLoad={() => drawn(true)} onError={() => drawn(false)} />
          {note.length > 0 && (
            <b className="absolute inset-x-0 bottom-0 z-1 bg-ground px-1 text-[12px] leading-4.5 font-semibold text-ink">
              {note.join(' ')}
            </b>
          )}
        </>
      )}
    </span>
  );
}

/** How old something is, looked at twice a second, in milliseconds. */
function useAge(at: number | undefined): number | undefined {
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (at === undefined) return;
    const look = () => setNow(Date.now());
    const first = setTimeout(look, oldMs);
    const timer = setInterval(look, 500);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
    };
  }, [at]);
  return at === undefined || now < at ? undefined : now - at;
}

/** How many pixels wide an element is on this screen; 0 while it is out of view. */
function useWidthInView(element: React.RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  const [isInView, setInView] = useState(false);
  useEffect(() => {
    const { current } = element;
    if (!current) return;
    const size = new ResizeObserver(([entry]) =>
      setWidth(Math.round((entry?.contentRect.width ?? 0) * window.devicePixelRatio)),
    );
    const view = new IntersectionObserver((entries) => setInView(entries.at(-1)?.isIntersecting === true));
    size.observe(current);
    view.observe(current);
    return () => {
      size.disconnect();
      view.disconnect();
    };
  }, [element]);
  return isInView ? width : 0;
}
