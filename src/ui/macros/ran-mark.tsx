'use client';

import type { PlannedStep, RanStep } from '../../core/macro';
import { OutcomeShape } from '../parts';

const bad: ReadonlySet<RanStep['outcome']> = new Set(['late', 'lost', 'refused']);

interface Props {
  readonly ran: RanStep;
  readonly moment: PlannedStep;
  readonly bottom: number;
  /** Where a time of its segment lies, in pixels. */
  readonly x: (ms: number) => number;
}

/** What became of a step: when it was sent, drawn against its plan, how late, and how it ended. */
export function RanMark({ ran, moment, bottom, x }: Props) {
  const late = (ran.sentMs ?? ran.plannedMs) - ran.plannedMs;
  const sentAt = moment.sendAt + late;
  const took = (ran.endedMs ?? ran.sentMs ?? ran.plannedMs) - (ran.sentMs ?? ran.plannedMs);
  const title = `${ran.outcome ?? 'under way'}; sent ${late.toFixed(1)} ms after its time, known ${took.toFixed(0)} ms later${ran.reason ? `: ${ran.reason}` : ''}`;
  return (
    <span
      className={`outcome-${ran.outcome ?? 'waiting'} absolute h-[15px] border-b border-l-2 [border-bottom-style:dashed] border-b-ink-soft border-l-ink [&>*]:absolute [&>*]:-top-0.75 [&>*]:left-0.75 ${bad.has(ran.outcome) ? 'border-l-4' : ''}`}
      style={{ left: x(sentAt), width: Math.max(2, x(sentAt + took) - x(sentAt)), top: bottom - 20 }}
      title={title}
      role="img"
      aria-label={title}
    >
      <OutcomeShape outcome={ran.outcome ?? 'waiting'} />
    </span>
  );
}
