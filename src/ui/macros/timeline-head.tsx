'use client';

import { X } from 'lucide-react';
import { nearestFrame, timecodeOf, type Axis, type Rate } from '../../core/macro';
import { conditionText } from '../../core/page';
import type { Scalar } from '../../core/result';
import type { MacroSegment } from '../../core/show';
import { useRigFacts } from '../fields';

interface TabsProps {
  readonly segments: readonly MacroSegment[];
  readonly axis: Axis;
  /** The macro's parameters as they usually are, for what conditions compare with. */
  readonly values: Readonly<Record<string, Scalar>>;
  readonly chosen: string | undefined;
  /** Segments with something to mend. */
  readonly wrong: ReadonlySet<string>;
  readonly onChoose: (id: string) => void;
}

const partWords = { reset: 'reset', 'way out': 'way out' } as const;

/** The segments side by side, each over its part of the axis; one is chosen to be changed. */
export function SegmentTabs({ segments, axis, values, chosen, wrong, onChoose }: TabsProps) {
  const facts = useRigFacts();
  return (
    <div role="group" aria-label="Segments" className="relative h-11">
      {segments.map((segment, n) => {
        const place = axis.segments[n];
        const { id, name, part, times = 1, waits, onlyIf } = segment;
        const more = [
          part && partWords[part],
          times > 1 && `${times} times`,
          waits && `waits: ${conditionText(waits.until, values, facts)}`,
          onlyIf && `only if ${conditionText(onlyIf, values, facts)}`,
        ].filter(Boolean);
        const isChosen = id === chosen;
        return (
          <button
            key={id}
            type="button"
            aria-pressed={isChosen}
            aria-label={`Segment ${n + 1}: ${name || 'no name'}`}
            title={more.join(' · ')}
            className={`absolute top-1 bottom-1 flex items-center gap-2 overflow-clip border px-2 text-left whitespace-nowrap ${isChosen ? 'z-1 border-accent bg-tape outline outline-accent' : 'border-rule-strong bg-raised hover:bg-tape'}`}
            style={{ left: (place?.left ?? 0) + 2, width: (place?.width ?? 0) - 4 }}
            onClick={() => onChoose(id)}
          >
            <span className="sticky left-20 flex max-w-full items-center gap-2">
              {wrong.has(id) && <X size={14} strokeWidth={3} className="shrink-0" aria-label="to be mended" />}
              <b className="shrink-0">{name || `Segment ${n + 1}`}</b>
              <span className="truncate text-[13px] text-ink-soft">{more.join(' · ')}</span>
            </span>
          </button>
        );
      })}
    </div>
  );
}

const steps = [10, 20, 40, 100, 200, 500, 1000, 2000, 5000, 10_000, 30_000, 60_000, 300_000];
const mostTicks = 400;

/** The time since the macro's start, without its waits, in each segment. */
export function Ruler({ axis, scale, rate }: { readonly axis: Axis; readonly scale: number; readonly rate: Rate }) {
  const every = steps.find((step) => step * scale >= 64) ?? 600_000;
  const ticks = axis.segments.flatMap(({ zeroMs, firstMs, lastMs, left, width }, n) => {
    const from = Math.ceil((zeroMs + firstMs) / every);
    const to = Math.floor((zeroMs + lastMs) / every);
    return Array.from({ length: Math.min(mostTicks, Math.max(0, to - from + 1)) }, (_, k) => {
      const ms = (from + k) * every;
      return { key: `${n} ${ms}`, ms, x: axis.x(n, ms - zeroMs), end: left + width };
    });
  });
  return (
    <div className="relative h-7 border-b border-rule" aria-hidden>
      {ticks.slice(0, mostTicks).map(({ key, ms, x, end }, n) => (
        <span
          key={key}
          title={timecodeOf(nearestFrame(ms, rate), rate)}
          className="absolute top-0 bottom-0 overflow-hidden border-l border-rule pl-1 text-[12.5px] leading-7 whitespace-nowrap text-ink-soft"
          style={{ left: x, width: Math.max(0, Math.min(ticks[n + 1]?.x ?? Infinity, end) - x) }}
        >
          {every >= 1000 ? `${ms / 1000} s` : ms === 0 ? '0' : `${(ms / 1000).toFixed(every < 100 ? 2 : 1)} s`}
        </span>
      ))}
    </div>
  );
}
