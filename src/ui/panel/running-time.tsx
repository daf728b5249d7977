'use client';

import { useEffect, useState } from 'react';
import { clockSeconds, clockText, type RunningClock } from '../../core/face';
import { useLive } from '../live';

interface Props {
  readonly time: RunningClock | number;
  /** What is below zero is over, and has a plus in front. */
  readonly isCountdown?: boolean;
}

/** A time that runs on, counted here by the engine’s time. */
export function RunningTime({ time, isCountdown = false }: Props) {
  const live = useLive();
  const [now, setNow] = useState(() => live.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(live.now()), 200);
    return () => clearInterval(timer);
  }, [live]);
  // What has just been reported may be younger than the last tick.
  const seconds = typeof time === 'number' ? time : clockSeconds(time, Math.max(now, time.at));
  return isCountdown && seconds < 0 ? `+${clockText(-seconds)}` : clockText(seconds);
}
