'use client';

import { useDndMonitor, type DragEndEvent, type DragMoveEvent, type DragStartEvent } from '@dnd-kit/core';
import { useRef, useState, type RefObject } from 'react';
import { snapped, type Axis, type Rate } from '../../core/macro';
import type { MacroDoes, MacroRecord, MacroStep } from '../../core/show';
import { usePointerPlace } from '../kit';
import type { TimelineLayout } from './timeline-layout';

/** Where steps are while they are dragged. */
type StepDrag =
  /** Several, together in time. */
  | { readonly is: 'shift'; readonly ids: ReadonlySet<string>; readonly byMs: number }
  /** One: to a time in a segment, perhaps to another device. */
  | { readonly is: 'place'; readonly id: string; readonly segment: number; readonly ms: number; readonly lane: string }
  /** A new one, from the list of commands. */
  | {
      readonly is: 'new';
      readonly does: MacroDoes;
      readonly segment: number;
      readonly ms: number;
      readonly lane: string;
    };

/** What the list of commands says of a command that is dragged, as its `data`. */
export interface StepDragData {
  readonly is: 'new';
  readonly does: MacroDoes;
  readonly device: string;
}

interface Sources {
  readonly macro: MacroRecord;
  readonly axis: Axis;
  readonly layout: TimelineLayout;
  readonly scale: number;
  readonly rate: Rate;
  readonly chosen: ReadonlySet<string>;
  /** The window onto the timeline, which scrolls. */
  readonly frame: RefObject<HTMLDivElement | null>;
  /** What the lanes are drawn in. */
  readonly room: RefObject<HTMLDivElement | null>;
  /** The times of a segment on which a step comes to lie, but for the steps that move. */
  readonly marksOf: (segment: number, moving: ReadonlySet<string>) => readonly number[];
  readonly laneOf: (step: MacroStep) => string;
  /** Whether the device of a lane has what the step sends. */
  readonly canTake: (step: MacroStep, lane: string) => boolean;
  readonly onShift: (ids: ReadonlySet<string>, byMs: number) => void;
  readonly onNew: (does: MacroDoes, to: { readonly segment: number; readonly at: number }) => void;
  readonly onPlace: (id: string, to: { readonly segment: number; readonly at: number; readonly lane: string }) => void;
}

const nearPx = 7;

/** Steps dragged along the axis, over the borders of segments, and to the lanes of other devices. With Alt they lie anywhere. */
export function useStepDrag(sources: Sources) {
  const [drag, setDrag] = useState<StepDrag>();
  const pointer = usePointerPlace();
  /** Where the pointer took hold of the step, from its time, in the axis. */
  const grip = useRef(0);
  const pointerX = (clientX: number) => clientX - (sources.room.current?.getBoundingClientRect().left ?? 0);

  const dragAt = ({ active }: DragMoveEvent | DragEndEvent): StepDrag | undefined => {
    const { macro, axis, layout, scale, rate, chosen, frame, room, marksOf, laneOf, canTake } = sources;
    const id = String(active.id);
    const lie = (ms: number, segment: number, moving: ReadonlySet<string>) =>
      pointer.current.alt ? ms : snapped(ms, marksOf(segment, moving), nearPx / scale, rate);
    const fresh = active.data.current as StepDragData | undefined;
    if (fresh?.is === 'new') {
      const box = frame.current?.getBoundingClientRect();
      const { x, y } = pointer.current;
      if (!box || x < box.left || x > box.right || y < box.top || y > box.bottom) return undefined;
      const to = axis.at(pointerX(x));
      const { does, device: lane } = fresh;
      return { is: 'new', does, segment: to.segment, ms: lie(to.ms, to.segment, new Set()), lane };
    }
    const from = macro.data.segments.findIndex(({ steps }) => steps.some((each) => each.id === id));
    const step = macro.data.segments[from]?.steps.find((each) => each.id === id);
    if (!step) return undefined;
    const x = pointerX(pointer.current.x) - grip.current;
    if (chosen.size > 1 && chosen.has(id)) {
      const wanted = step.at + (x - axis.x(from, step.at)) / scale;
      return { is: 'shift', ids: chosen, byMs: lie(wanted, from, chosen) - step.at };
    }
    const to = axis.at(x);
    const y = pointer.current.y - (room.current?.getBoundingClientRect().top ?? 0);
    const under = layout.lanes.find(({ top, height }) => y >= top && y < top + height)?.id;
    const own = laneOf(step);
    const lane = under !== undefined && under !== own && canTake(step, under) ? under : own;
    return { is: 'place', id, segment: to.segment, ms: lie(to.ms, to.segment, new Set([id])), lane };
  };

  useDndMonitor({
    onDragStart: ({ active, activatorEvent }: DragStartEvent) => {
      const { macro, axis } = sources;
      const id = String(active.id);
      const from = macro.data.segments.findIndex(({ steps }) => steps.some((each) => each.id === id));
      const at = macro.data.segments[from]?.steps.find((each) => each.id === id)?.at ?? 0;
      grip.current = pointerX((activatorEvent as PointerEvent).clientX) - axis.x(from, at);
    },
    onDragMove: (event: DragMoveEvent) => setDrag(dragAt(event)),
    onDragCancel: () => setDrag(undefined),
    onDragEnd: (event: DragEndEvent) => {
      const last = dragAt(event);
      setDrag(undefined);
      if (last?.is === 'shift' && Math.abs(last.byMs) > 0.05) sources.onShift(last.ids, last.byMs);
      if (last?.is === 'new') sources.onNew(last.does, { segment: last.segment, at: last.ms });
      if (last?.is === 'place') sources.onPlace(last.id, { segment: last.segment, at: last.ms, lane: last.lane });
    },
  });
  return drag;
}
