'use client';

import { useEffect, useState } from 'react';
import type { PulseView } from '../../core/live';
import { useLive } from '../live';
import { durationText } from '../parts';

const kept = 60;
const width = 64;
const height = 18;

/** The last minute of round trips by device: one sample a second. */
export function usePulses(): ReadonlyMap<string, readonly (number | undefined)[]> {
  const live = useLive();
  const [lines, setLines] = useState<ReadonlyMap<string, readonly (number | undefined)[]>>(new Map());
  useEffect(
    () =>
      live.onTopic('pulse', () => {
        const now = live.getTopic('pulse') as PulseView | null | undefined;
        if (!now) return;
        setLines(
          (before) =>
            new Map(
              Object.entries(now.devices).map(([id, { ms }]) => [id, [...(before.get(id) ?? []), ms].slice(-kept)]),
            ),
        );
      }),
    [live],
  );
  return lines;
}

/** A small running line of round trips, with the last one as a number. Gaps are seconds without an answer. */
export function PulseLine({ samples }: { readonly samples: readonly (number | undefined)[] | undefined }) {
  const last = samples?.at(-1);
  const known = samples?.filter((ms) => ms !== undefined) ?? [];
  if (known.length === 0) return <span className="pulse muted">–</span>;
  const most = Math.max(5, ...known);
  const step = width / (kept - 1);
  const offset = kept - (samples?.length ?? 0);
  let path = '';
  let drawing = false;
  samples?.forEach((ms, n) => {
    if (ms === undefined) {
      drawing = false;
      return;
    }
    const x = ((offset + n) * step).toFixed(1);
    const y = (height - 1 - (ms / most) * (height - 2)).toFixed(1);
    path += `${drawing ? 'L' : 'M'}${x} ${y}`;
    drawing = true;
  });
  return (
    <span className="pulse" title={`Round trip over the last minute, at most ${durationText(Math.max(...known))}`}>
      <svg width={width} height={height} aria-hidden>
        <path d={path} fill="none" stroke="currentColor" strokeWidth="1.5" />
      </svg>
      <span className="mono">{last === undefined ? '–' : durationText(last)}</span>
    </span>
  );
}
