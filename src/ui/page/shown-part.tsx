'use client';

import type { CSSProperties } from 'react';
import { clockText, partOf, type Shown } from '../../core/face';
import { useClockSeconds } from '../live';
import { LivePictureView } from './live-picture';

/** What a control shows besides its label: a bar, a picture, or boxes at their places in a picture. Doubtful values are hatched. */
export function ShownPart({ shown }: { readonly shown: Shown }) {
  switch (shown.kind) {
    case 'bar':
      return (
        <span className="shown-bar" data-doubt={shown.doubt}>
          {shown.runs ? (
            <RunningBar {...shown.runs} />
          ) : (
            <>
              <i style={{ '--part': shown.part ?? 0 } as CSSProperties} aria-hidden />
              <b>{shown.text}</b>
            </>
          )}
        </span>
      );
    case 'picture':
      if (shown.live !== undefined) return <LivePictureView live={shown.live} />;
      return (
        <span className="shown-picture" data-doubt={shown.doubt}>
          {shown.src ? <img src={shown.src} alt="" draggable={false} /> : <em>no picture yet</em>}
        </span>
      );
    case 'layout':
      return (
        <svg
          className="shown-layout min-h-11 w-full flex-[1_1_0] bg-rule data-doubt:opacity-45 [&_text]:fill-ink [&_text]:text-[9px] [&_text]:font-stretch-[82%] [&_text]:[text-anchor:middle]"
          viewBox="0 0 160 90"
          data-doubt={shown.doubt}
          aria-hidden
        >
          <rect width="160" height="90" className="fill-ground" />
          {shown.boxes.map(({ x, y, width, height, text }, n) => (
            <g key={n}>
              <rect
                x={x * 160}
                y={y * 90}
                width={width * 160}
                height={height * 90}
                className="fill-raised stroke-ink stroke-[1px]"
              />
              <text x={(x + width / 2) * 160} y={(y + height / 2) * 90} dy="0.35em">
                {text.slice(0, Math.max(1, Math.floor((width * 160) / 5.2)))}
              </text>
            </g>
          ))}
        </svg>
      );
  }
}

/** A bar that runs on between reports, counted by the engine’s time. */
function RunningBar({ clock, min, max }: NonNullable<Extract<Shown, { kind: 'bar' }>['runs']>) {
  const seconds = useClockSeconds(clock) ?? clock.seconds;
  return (
    <>
      <i style={{ '--part': partOf(seconds, min, max) } as CSSProperties} aria-hidden />
      <b>{clockText(seconds)}</b>
    </>
  );
}

/** What is shown, in words. */
export function shownWords(shown: Shown | undefined): string {
  if (!shown) return '';
  const doubt = shown.doubt ? ` ${shown.doubt}` : '';
  if (shown.kind === 'bar') return `${shown.text}${doubt}`;
  if (shown.kind === 'picture') return shown.live ? 'live picture' : shown.src ? `picture${doubt}` : 'no picture';
  return `layout: ${shown.boxes.map(({ text }) => text).join(', ') || 'empty'}${doubt}`;
}
