'use client';

import { useDraggable } from '@dnd-kit/core';
import { X } from 'lucide-react';
import { memo, type PointerEvent } from 'react';
import type { MacroStep } from '../../core/show';

interface Props {
  readonly step: MacroStep;
  readonly text: string;
  readonly top: number;
  readonly left: number;
  /** How much earlier it is sent than its time, and how long it lasts, in pixels. */
  readonly lead: number;
  readonly long: number;
  readonly at: string;
  /** The name of its segment. */
  readonly within: string;
  readonly chosen: boolean;
  readonly wrong: boolean;
  readonly moving: boolean;
  readonly onChoose: (id: string, more: boolean) => void;
}

/** A step on the timeline: its left edge is its time. */
export const StepMark = memo(function StepMark(props: Props) {
  const { step, text, top, left, lead, long, at, within, chosen, wrong, moving, onChoose } = props;
  const { listeners, setNodeRef } = useDraggable({ id: step.id });
  const onPointerDown = (event: PointerEvent<HTMLButtonElement>) => {
    if (event.shiftKey || !chosen) onChoose(step.id, event.shiftKey);
    listeners?.onPointerDown?.(event);
  };
  const state = wrong
    ? 'bg-fault text-ground'
    : `bg-tape ${chosen ? 'outline-accent z-3 outline-2' : 'hover:z-2 focus-visible:z-2'}`;
  return (
    <button
      ref={setNodeRef}
      type="button"
      className={`absolute flex h-[30px] cursor-ew-resize touch-none items-center border border-l-3 border-rule-strong border-l-ink px-2 text-[13.5px] whitespace-nowrap [font-stretch:84%] ${state}`}
      data-step={step.id}
      aria-pressed={chosen}
      aria-label={`${text}, at ${at}, in ${within}${wrong ? ', something is wrong with it' : ''}`}
      style={{ left, top }}
      onPointerDown={onPointerDown}
      onFocus={() => !chosen && onChoose(step.id, false)}
    >
      {lead > 0 && <i className="absolute top-3.25 h-0.5 dashes" style={{ width: lead, left: -lead }} aria-hidden />}
      {long > 0 && (
        <i
          className="absolute -bottom-1.5 -left-0.75 h-1 border-r-3 border-ink bg-ink-soft"
          style={{ width: long }}
          aria-hidden
        />
      )}
      {wrong && <X size={14} strokeWidth={3} className="mr-1" aria-hidden />}
      {text}
      {moving && (
        <span className="absolute top-full left-0 bg-ink px-1.5 font-mono text-[11.5px] text-ground">{at}</span>
      )}
    </button>
  );
});
