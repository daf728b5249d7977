'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import type { PulseView } from '../../core/live';
import { useLive, useNow, type LiveClient } from '../live';
import { ageText, durationText } from '../parts';

const kept = 60;
const width = 64;
const height = 18;
/** When a device has been quiet for this long, the time of its last word is shown. */
const quietMs = 2500;

interface Pulse {
  /** One a second; `undefined` for a second without an answer. */
  readonly samples: readonly (number | undefined)[];
  readonly heardAt: number;
}

/**
 * The last minute of round trips by device. Each line of the rig follows its own device here, so that a second's samples do
 * not draw the whole screen anew.
 */
export class PulseStore {
  private readonly pulses = new Map<string, Pulse>();
  private readonly listeners = new Set<() => void>();

  constructor(private readonly live: LiveClient) {}

  start(): () => void {
    return this.live.onTopic('pulse', () => {
      const now = this.live.getTopic('pulse') as PulseView | null | undefined;
      for (const [id, { ms, heardAt }] of Object.entries(now?.devices ?? {})) {
        const samples = [...(this.pulses.get(id)?.samples ?? []), ms].slice(-kept);
        this.pulses.set(id, { samples, heardAt });
      }
      for (const listener of this.listeners) listener();
    });
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  get(id: string): Pulse | undefined {
    return this.pulses.get(id);
  }
}

export function usePulseStore(): PulseStore {
  const live = useLive();
  const [store] = useState(() => new PulseStore(live));
  useEffect(() => store.start(), [store]);
  return store;
}

const usePulseOf = (store: PulseStore, id: string): Pulse | undefined =>
  useSyncExternalStore(
    store.subscribe,
    () => store.get(id),
    () => undefined,
  );

/** A small running line of round trips, with the last one as a number. Gaps are seconds without an answer. */
export function PulseLine({ store, device }: { readonly store: PulseStore; readonly device: string }) {
  const samples = usePulseOf(store, device)?.samples ?? [];
  const last = samples.at(-1);
  const known = samples.filter((ms) => ms !== undefined);
  if (known.length === 0)
    return (
      <span className="inline-flex items-center gap-2 text-[13px] whitespace-nowrap text-ink-soft in-[.rig-table]:gap-1.5">
        –
      </span>
    );
  const most = Math.max(5, ...known);
  return (
    <span
      className="inline-flex items-center gap-2 text-[13px] whitespace-nowrap text-ink-soft in-[.rig-table]:gap-1.5"
      title={`Round trip over the last minute, at most ${durationText(Math.max(...known))}`}
    >
      <svg width={width} height={height} aria-hidden>
        <path d={pathOf(samples, most)} fill="none" stroke="currentColor" strokeWidth="1.5" />
      </svg>
      <span className="font-mono text-[0.93em]">{last === undefined ? '–' : durationText(last)}</span>
    </span>
  );
}

function pathOf(samples: readonly (number | undefined)[], most: number): string {
  const step = width / (kept - 1);
  const offset = kept - samples.length;
  let path = '';
  let drawing = false;
  samples.forEach((ms, n) => {
    if (ms === undefined) {
      drawing = false;
      return;
    }
    const x = ((offset + n) * step).toFixed(1);
    const y = (height - 1 - (ms / most) * (height - 2)).toFixed(1);
    path += `${drawing ? 'L' : 'M'}${x} ${y}`;
    drawing = true;
  });
  return path;
}

/** How long a link has been so, and when the device was heard last where that is a while ago. */
export function LastWord({
  store,
  device,
  since,
}: {
  readonly store: PulseStore;
  readonly device: string;
  readonly since: number | undefined;
}) {
  const now = useNow();
  const heardAt = usePulseOf(store, device)?.heardAt;
  if (since === undefined || now === 0) return null;
  const quiet = heardAt !== undefined && now - heardAt > quietMs;
  return (
    <>
      for {ageText(now - since)}
      {quiet && `, last word ${ageText(now - heardAt)} ago`}
    </>
  );
}
