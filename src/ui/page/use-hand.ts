'use client';

import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useRef,
  useState,
  type FocusEvent,
  type KeyboardEvent,
  type PointerEvent,
} from 'react';
import { staysInHand } from './held-by-pointer';
import { useLetGo } from './use-let-go';

/** How long a guarded control has to be held before it sends. */
export const guardMs = 800;
/** How soon the second press has to follow the first. */
const twiceMs = 1500;

/** On a page that scrolls, a finger that has not moved for this long presses; one that moves before that scrolls. */
const settleMs = 60;
/** How far a resting finger trembles, in CSS pixels. */
const tremblePx = 8;

/** True on a page that scrolls under a finger. */
export const ScrollsContext = createContext(false);

interface Hand {
  readonly disabled?: boolean;
  readonly guarded?: boolean;
  /** Meant by a second press within a time, instead of by holding. */
  readonly twice?: boolean;
  readonly onPress: (guard: boolean) => void;
  /** Where given, the control is held instead of tapped. */
  readonly onHold?: (guard: boolean) => () => void;
}

/**
 * What a hand does to a control: a tap fires on pointer-down; a guarded one has to be held until its bar is full; what goes
 * on while held ends when the pointer, the key or the window lets go. Works the same with Space and Enter.
 */
export function useHand({ disabled, guarded: isGuarded, twice, onPress, onHold }: Hand) {
  const [armed, setArmed] = useState(false);
  const arming = useRef<ReturnType<typeof setTimeout>>(undefined);
  const guarded = isGuarded && !twice;
  const [filling, setFilling] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const release = useRef<() => void>(undefined);
  const byPointer = useRef(false);
  const scrolls = useContext(ScrollsContext);
  /** A finger of which it is not known yet whether it presses or scrolls. */
  const settling = useRef<{ x: number; y: number; timer: ReturnType<typeof setTimeout> }>(undefined);
  const pressed = useRef(false);
  const [held, setHeld] = useState(false);

  const act = () => {
    setFilling(false);
    timer.current = undefined;
    clearTimeout(arming.current);
    setArmed(false);
    if (onHold) {
      release.current = onHold(isGuarded ?? false);
      setHeld(true);
    } else onPress(isGuarded ?? false);
  };
  const arm = () => {
    setArmed(true);
    clearTimeout(arming.current);
    arming.current = setTimeout(() => setArmed(false), twiceMs);
  };
  useEffect(() => () => clearTimeout(arming.current), []);
  const down = () => {
    if (disabled || release.current || timer.current !== undefined) return;
    if (twice && !armed) return arm();
    if (!guarded) return act();
    setFilling(true);
    timer.current = setTimeout(act, guardMs);
  };
  const settle = (presses: boolean) => {
    if (!settling.current) return;
    clearTimeout(settling.current.timer);
    settling.current = undefined;
    if (!presses) return;
    pressed.current = true;
    down();
  };
  const up = () => {
    settle(false);
    pressed.current = false;
    clearTimeout(timer.current);
    timer.current = undefined;
    byPointer.current = false;
    setFilling(false);
    setHeld(false);
    release.current?.();
    release.current = undefined;
  };
  useLetGo(up);

  const holds = guarded || onHold !== undefined;
  // Once a finger has pressed, the page does not scroll under it: a scroll never presses, and a press never scrolls.
  const element = useCallback((node: HTMLElement | null) => {
    if (!node) return undefined;
    const keepStill = (event: TouchEvent) => pressed.current && event.preventDefault();
    node.addEventListener('touchmove', keepStill, { passive: false });
    return () => node.removeEventListener('touchmove', keepStill);
  }, []);
  return {
    /** Of the element that is pressed. */
    element,
    filling,
    /** The first of two presses has been made. */
    armed,
    /** A hand is on it: it must go on hearing of that hand, whatever becomes of it meanwhile. */
    held,
    handlers: {
      onPointerDown: (event: PointerEvent<HTMLButtonElement>) => {
        if (event.button !== 0) return;
        // A finger that slips off still releases here.
        if (holds) event.currentTarget.setPointerCapture(event.pointerId);
        byPointer.current = holds;
        if (!scrolls || event.pointerType !== 'touch') {
          pressed.current = event.pointerType === 'touch';
          return down();
        }
        const timer = setTimeout(() => settle(true), settleMs);
        settling.current = { x: event.clientX, y: event.clientY, timer };
      },
      onPointerMove: ({ clientX, clientY }: PointerEvent) => {
        const began = settling.current;
        if (began && Math.hypot(clientX - began.x, clientY - began.y) > tremblePx) settle(false);
      },
      onPointerUp: () => {
        // A quick tap ends before it is known to rest: it is a press.
        settle(true);
        up();
      },
      onPointerCancel: up,
      onLostPointerCapture: up,
      onKeyDown: (event: KeyboardEvent) => {
        if (!holds || event.repeat || (event.key !== ' ' && event.key !== 'Enter')) return;
        event.preventDefault();
        down();
      },
      onKeyUp: (event: KeyboardEvent) => {
        if (holds && (event.key === ' ' || event.key === 'Enter')) up();
      },
      onBlur: (event: FocusEvent) => {
        if (!staysInHand(event, byPointer.current)) up();
      },
      // The keyboard and assistive tools click without a pointer before; what has to be held is not clicked.
      onClick: (event: { readonly detail: number }) => {
        if (event.detail === 0 && !holds && !disabled) down();
      },
    },
  };
}
