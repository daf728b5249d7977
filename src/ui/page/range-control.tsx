'use client';

import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { clockText, partOf } from '../../core/face';
import { notch } from '../../core/hand';
import { useClockSeconds, useLive, type Turning } from '../live';
import { Face, textOf } from './face';
import { staysInHand } from './held-by-pointer';
import type { LiveControlProps } from './live-control';
import { OutcomeMark } from './outcome-mark';
import { lies, RangeTrack } from './range-track';
import { useLetGo } from './use-let-go';

/** How long the hand's value is shown after it is released, unless the device reports it earlier. */
const settleMs = 1200;
/** The drag, in pixels, that turns a dial from one end of its range to the other. */
const dialPx = 220;
/** A wheel counts as still this long after its last notch. */
const wheelStillMs = 300;

/**
 * A fader or a dial. It is moved from where it stands, wherever it is touched, so that nothing jumps; while a hand is on it, it
 * shows the hand's value and not the device's echo.
 */
export default function RangeControl({ id, page, context, face, view, mark, disabled }: LiveControlProps) {
  const live = useLive();
  const { min = 0, step = 1, unit = '', tick = 1, quicken = 1, jumps = false } = view.range ?? {};
  const max = face.range?.max ?? view.range?.max ?? 1;
  const [hand, setHand] = useState<number>();
  const turning = useRef<Turning>(undefined);
  const from = useRef({ at: 0, value: 0, length: 1 });
  const settle = useRef<ReturnType<typeof setTimeout>>(undefined);
  const still = useRef<ReturnType<typeof setTimeout>>(undefined);
  const pointer = useRef<number>(undefined);
  const dial = view.type === 'dial';
  const isLying = !dial && lies(view);
  const running = useClockSeconds(face.range?.clock);
  const known = running ?? face.range?.value;
  const value = hand ?? known;
  const part = value === undefined ? undefined : partOf(value, min, max);

  const rounded = (to: number) => Math.min(max, Math.max(min, Number((Math.round(to / step) * step).toFixed(6))));
  const begin = () => {
    clearTimeout(settle.current);
    clearTimeout(still.current);
    turning.current ??= live.turn(page, id, context);
  };
  const set = (to: number) => {
    const next = rounded(to);
    setHand(next);
    turning.current?.to(next);
  };
  const end = () => {
    turning.current?.release();
    turning.current = undefined;
    pointer.current = undefined;
    clearTimeout(settle.current);
    settle.current = setTimeout(() => setHand(undefined), settleMs);
  };

  useLetGo(() => {
    clearTimeout(still.current);
    if (turning.current) end();
  });

  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    if (disabled || event.button !== 0 || turning.current) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    pointer.current = event.pointerId;
    event.currentTarget.focus();
    const track = event.currentTarget.querySelector('.range-track')?.getBoundingClientRect();
    const along = (isLying ? track?.width : track?.height) ?? 1;
    const at = isLying ? event.clientX : -event.clientY;
    const start = track && (isLying ? track.left : -track.bottom);
    // Chosen so for a control that is meant to be hit: it goes where it is touched.
    const touched = jumps && !dial && start !== undefined ? min + ((at - start) / along) * (max - min) : undefined;
    from.current = {
      at,
      value: touched === undefined ? (value ?? min) : Math.min(max, Math.max(min, touched)),
      length: dial ? dialPx : Math.max(40, along),
    };
    begin();
    if (touched !== undefined) set(touched);
  };
  const onLift = ({ pointerId }: PointerEvent<HTMLElement>) => pointerId === pointer.current && end();
  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    if (!turning.current || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const at = isLying ? event.clientX : -event.clientY;
    set(from.current.value + ((at - from.current.at) / from.current.length) * (max - min));
  };
  const box = useRef<HTMLDivElement>(null);
  const notchedAt = useRef(-Infinity);
  const onNotch = useRef<(by: number) => void>(undefined);
  useEffect(() => {
    onNotch.current = (by) => {
      if (disabled) return;
      begin();
      const now = performance.now();
      set((value ?? min) + by * notch(tick, quicken, now - notchedAt.current));
      notchedAt.current = now;
      clearTimeout(still.current);
      still.current = setTimeout(end, wheelStillMs);
    };
  });
  // A dial turns with the wheel, and the page must not scroll away under it: listened to here, for React listens passively.
  useEffect(() => {
    const element = box.current;
    if (!dial || !element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      if (event.deltaY !== 0) onNotch.current?.(event.deltaY < 0 ? 1 : -1);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [dial]);
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 10, PageDown: -10 }[event.key];
    const to = event.key === 'Home' ? min : event.key === 'End' ? max : by && (value ?? min) + by * tick;
    if (to === undefined || disabled) return;
    event.preventDefault();
    begin();
    set(to);
  };
  const isTime = view.range?.isTime ?? false;
  const named = hand === undefined ? undefined : view.range?.names?.[hand - min];
  const handText = named ?? (isTime ? clockText(hand ?? 0) : `${hand}${unit ? ` ${unit}` : ''}`);
  const knownText = running === undefined ? (face.range?.text ?? '–') : clockText(running);
  const shown = hand === undefined ? knownText : handText;
  return (
    <div
      ref={box}
      className={`control control-${face.lamp.show}`}
      data-kind={view.type}
      data-lying={isLying || undefined}
      data-control={id}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-disabled={disabled || undefined}
      aria-label={textOf(face)}
      aria-orientation={dial ? undefined : isLying ? 'horizontal' : 'vertical'}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={value ?? min}
      aria-valuetext={face.range?.doubt ? `${shown}, ${face.range.doubt}` : shown}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onLift}
      onPointerCancel={onLift}
      onKeyDown={onKeyDown}
      onKeyUp={() => turning.current && end()}
      onBlur={(event) => turning.current && !staysInHand(event, pointer.current !== undefined) && end()}
      onContextMenu={(event) => event.preventDefault()}
    >
      <Face face={face} view={view}>
        {mark && mark.outcome !== 'confirmed' && <OutcomeMark key={mark.control} mark={mark} />}
      </Face>
      <span
        className={`range-value flex-none border-t [border-top-style:dotted] border-rule py-0.5 font-mono text-[14px] in-data-lying:border-t-0 ${face.range?.doubt && hand === undefined ? `tape-${face.range.doubt}` : ''}`}
      >
        {shown}
      </span>
      <RangeTrack dial={dial} isLying={isLying} part={part} />
    </div>
  );
}
