'use client';

import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useLive, type Turning } from '../live';
import { Face, textOf } from './face';
import { staysInHand } from './held-by-pointer';
import type { LiveControlProps } from './live-control';
import { OutcomeMark } from './outcome-mark';
import { useLetGo } from './use-let-go';
import { StickPad, stickMiddle, type StickPlace } from './stick-pad';

/** With the keyboard a stick goes half way. */
const keyWay = 0.5;
const keyed: Readonly<Record<string, StickPlace>> = {
  ArrowLeft: { x: -keyWay, y: 0 },
  ArrowRight: { x: keyWay, y: 0 },
  ArrowUp: { x: 0, y: keyWay },
  ArrowDown: { x: 0, y: -keyWay },
};

/** A stick: it steers while it is held off the middle, and springs back when it is released. */
export default function StickControl({ id, page, context, face, view, mark, disabled }: LiveControlProps) {
  const live = useLive();
  const { axes } = view;
  const [at, setAt] = useState(stickMiddle);
  const turning = useRef<Turning>(undefined);
  /** The finger that steers; another one may be on a key of the control. */
  const pointer = useRef<number>(undefined);
  const keys = useRef(new Set<string>());
  const [slow, setSlow] = useState(false);

  const set = (to: StickPlace, slowly = slow) => {
    turning.current ??= live.turn(page, id, context);
    const x = axes === 'along' ? 0 : Math.max(-1, Math.min(1, to.x));
    const y = axes === 'across' ? 0 : Math.max(-1, Math.min(1, to.y));
    setAt({ x, y });
    turning.current.to(x, y, slowly || undefined);
  };
  /** Also while the stick is in a hand. */
  const goSlowly = (on: boolean) => {
    setSlow(on);
    if (turning.current) set(at, on);
  };
  const end = () => {
    turning.current?.release();
    turning.current = undefined;
    pointer.current = undefined;
    keys.current.clear();
    setAt(stickMiddle);
  };
  const onLift = ({ pointerId }: PointerEvent) => pointerId === pointer.current && end();
  useLetGo(() => turning.current && end());
  const placeOf = (event: PointerEvent<HTMLElement>): StickPlace => {
    const pad = event.currentTarget.querySelector('.stick-pad')?.getBoundingClientRect();
    if (!pad) return stickMiddle;
    // A rocker goes the whole way of its slot.
    const radius =
      (axes === 'along' ? pad.height : axes === 'across' ? pad.width : Math.min(pad.width, pad.height)) / 2;
    return {
      x: (event.clientX - pad.left - pad.width / 2) / radius,
      y: (pad.top + pad.height / 2 - event.clientY) / radius,
    };
  };
  const steerByKeys = () => {
    const held = [...keys.current].flatMap((key) => keyed[key] ?? []);
    if (held.length === 0) return end();
    set({ x: held.reduce((sum, { x }) => sum + x, 0), y: held.reduce((sum, { y }) => sum + y, 0) });
  };
  const onKey = (event: KeyboardEvent, down: boolean) => {
    if (!(event.key in keyed) || disabled) return;
    event.preventDefault();
    if (event.repeat) return;
    if (down) keys.current.add(event.key);
    else keys.current.delete(event.key);
    steerByKeys();
  };
  return (
    <div
      className={`control control-${face.lamp.show}`}
      data-kind="stick"
      data-control={id}
      role="group"
      aria-roledescription="stick"
      tabIndex={disabled ? -1 : 0}
      aria-disabled={disabled || undefined}
      aria-label={`${textOf(face)}, steered with the arrow keys`}
      onPointerDown={(event) => {
        if (disabled || event.button !== 0 || turning.current) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        pointer.current = event.pointerId;
        event.currentTarget.focus();
        set(placeOf(event));
      }}
      onPointerMove={(event) =>
        event.currentTarget.hasPointerCapture(event.pointerId) && turning.current && set(placeOf(event))
      }
      onPointerUp={onLift}
      onPointerCancel={onLift}
      onLostPointerCapture={onLift}
      onKeyDown={(event) => onKey(event, true)}
      onKeyUp={(event) => onKey(event, false)}
      onBlur={(event) => !staysInHand(event, pointer.current !== undefined) && end()}
      onContextMenu={(event) => event.preventDefault()}
    >
      <Face face={face} view={view}>
        {mark && mark.outcome !== 'confirmed' && <OutcomeMark key={mark.control} mark={mark} />}
      </Face>
      <StickPad at={at} axes={axes} />
      <SlowKey isOn={slow} top={view.top} disabled={disabled ?? false} onTurn={goSlowly} />
    </div>
  );
}

interface SlowKeyProps {
  readonly isOn: boolean;
  /** The fastest that the device is set to go, in per cent. */
  readonly top: number | undefined;
  readonly disabled: boolean;
  readonly onTurn: (on: boolean) => void;
}

/** A finger that stays on the key for longer than this means slow only while it stays. */
const momentaryMs = 400;

/** Slow: a tap turns it on and off; held, it is on while it is held. */
function SlowKey({ isOn, top, disabled, onTurn }: SlowKeyProps) {
  const pressedAt = useRef<number>(undefined);
  const release = () => {
    if (pressedAt.current !== undefined && performance.now() - pressedAt.current > momentaryMs) onTurn(false);
    pressedAt.current = undefined;
  };
  return (
    <button
      type="button"
      className="flex min-h-11 flex-none items-center justify-center gap-2 border-t border-rule-strong px-1 text-[14px] font-semibold aria-pressed:bg-ink aria-pressed:text-ground"
      aria-pressed={isOn}
      disabled={disabled}
      // The stick beside it stays in the other hand.
      onPointerDown={(event) => {
        event.stopPropagation();
        event.preventDefault();
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        pressedAt.current = isOn ? undefined : performance.now();
        onTurn(!isOn);
      }}
      onPointerUp={release}
      onPointerCancel={release}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        event.stopPropagation();
        if (!event.repeat) onTurn(!isOn);
      }}
    >
      Slow
      {top !== undefined && <span className="font-normal text-ink-soft">max {top} %</span>}
    </button>
  );
}
