'use client';

import { clockText, type RunningClock } from '../../core/face';
import { useClockSeconds } from '../live';

interface Props {
  readonly time: RunningClock | number;
  /** Time below zero is overrun, shown with a plus sign. */
  readonly isCountdown?: boolean;
}

/** An elapsed or remaining time. A running clock counts on the screen, by the engine's time. */
export function RunningTime({ time, isCountdown = false }: Props) {
  const running = useClockSeconds(typeof time === 'number' ? undefined : time);
  const seconds = typeof time === 'number' ? time : (running ?? time.seconds);
  return isCountdown && seconds < 0 ? `+${clockText(-seconds)}` : clockText(seconds);
}
