'use client';

import { PointerSensor, TouchSensor, useSensor, useSensors, type DraggableSyntheticListeners } from '@dnd-kit/core';
import { useEffect, useRef, type PointerEvent, type RefObject } from 'react';

/** How far a pointer moves before it drags. */
export const dragSlackPx = 5;
/** How long a finger rests before it drags; until then it scrolls. */
const fingerRestMs = 220;

/** The sensors of a `DndContext`: a pointer that moves, and a finger that has rested. */
export const useDragSensors = () =>
  useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: dragSlackPx } }),
    useSensor(TouchSensor, { activationConstraint: { delay: fingerRestMs, tolerance: 8 } }),
  );

/**
 * The listeners of something that is dragged, except by a `data-handle` in it, which has a gesture of its own.
 * @param fingerAtOnce a finger drags at once, as a mouse does; it cannot scroll there
 */
export const dragListeners = (listeners: DraggableSyntheticListeners, fingerAtOnce = false) => ({
  onPointerDown: (event: PointerEvent) => {
    const isHandle = event.target instanceof Element && event.target.closest('[data-handle]') !== null;
    if (!isHandle && (event.pointerType !== 'touch' || fingerAtOnce)) listeners?.onPointerDown?.(event);
  },
  ...(fingerAtOnce || !listeners?.onTouchStart
    ? {}
    : { onTouchStart: listeners.onTouchStart as (event: React.TouchEvent) => void }),
});

/** Where the pointer is in the window, and whether Alt is held. */
interface PointerPlace {
  readonly x: number;
  readonly y: number;
  readonly alt: boolean;
}

/**
 * The place of the pointer. dnd-kit tells the distance of a drag from the rectangle of what is dragged, which does not hold
 * for a part that is drawn elsewhere meanwhile.
 */
export function usePointerPlace(): RefObject<PointerPlace> {
  const place = useRef<PointerPlace>({ x: 0, y: 0, alt: false });
  useEffect(() => {
    const onPointer = ({ clientX, clientY, altKey }: globalThis.PointerEvent) => {
      place.current = { x: clientX, y: clientY, alt: altKey };
    };
    const onTouch = ({ touches: [touch], altKey }: globalThis.TouchEvent) => {
      if (touch) place.current = { x: touch.clientX, y: touch.clientY, alt: altKey };
    };
    window.addEventListener('pointermove', onPointer, true);
    window.addEventListener('touchmove', onTouch, { capture: true, passive: true });
    return () => {
      window.removeEventListener('pointermove', onPointer, true);
      window.removeEventListener('touchmove', onTouch, true);
    };
  }, []);
  return place;
}

/** For a `DndContext` whose parts are also moved by keys of their own, with words of their own: dnd-kit says nothing. */
export const quietDrag = {
  announcements: {
    onDragStart: () => undefined,
    onDragOver: () => undefined,
    onDragEnd: () => undefined,
    onDragCancel: () => undefined,
  },
  screenReaderInstructions: { draggable: '' },
};
