'use client';

import { useEffect, useRef, useState, type FocusEvent, type KeyboardEvent, type PointerEvent } from 'react';
import { staysInHand } from './held-by-pointer';

/** How long a guarded control has to be held before it sends. */
export const guardMs = 800;

interface Hand {
  readonly disabled?: boolean;
  readonly guarded?: boolean;
  readonly onPress: (guard: boolean) => void;
  /** Where given, the control is held instead of tapped. */
  readonly onHold?: (guard: boolean) => () => void;
}

/**
 * What a hand does to a control: a tap fires on pointer-down; a guarded one has to be held until its bar is full; what goes
 * on while held ends when the pointer, the key or the window lets go. Works the same with Space and Enter.
 */
export function useHand({ disabled, guarded, onPress, onHold }: Hand) {
  const [filling, setFilling] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const release = useRef<() => void>(undefined);
  const byPointer = useRef(false);

  const act = () => {
    setFilling(false);
    timer.current = undefined;
    if (onHold) release.current = onHold(guarded ?? false);
    else onPress(guarded ?? false);
  };
  const down = () => {
    if (disabled || release.current || timer.current !== undefined) return;
    if (!guarded) return act();
    setFilling(true);
    timer.current = setTimeout(act, guardMs);
  };
  const up = () => {
    clearTimeout(timer.current);
    timer.current = undefined;
    byPointer.current = false;
    setFilling(false);
    release.current?.();
    release.current = undefined;
  };
  const latestUp = useRef(up);
  useEffect(() => {
    latestUp.current = up;
  });
  useEffect(() => {
    const letGo = () => latestUp.current();
    const hidden = () => document.visibilityState === 'hidden' && letGo();
    window.addEventListener('blur', letGo);
    document.addEventListener('visibilitychange', hidden);
    return () => {
      window.removeEventListener('blur', letGo);
      document.removeEventListener('visibilitychange', hidden);
      letGo();
    };
  }, []);

  const holds = guarded || onHold !== undefined;
  return {
    filling,
    handlers: {
      onPointerDown: (event: PointerEvent<HTMLButtonElement>) => {
        if (event.button !== 0) return;
        // A finger that slips off still lets go here.
        if (holds) event.currentTarget.setPointerCapture(event.pointerId);
        byPointer.current = holds;
        down();
      },
      onPointerUp: up,
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
        if (event.detail === 0 && !holds && !disabled) onPress(false);
      },
    },
  };
}
