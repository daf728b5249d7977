import { z } from 'zod';
import type { AnswerSpan, AnswerSum, Concern, ComputerFacts, Incident } from '../health';

/** Topic `health`, for desks: how everything fares, by what is seen of it anyway. */
export interface HealthView {
  readonly devices: Readonly<Record<string, DeviceHealth>>;
  /** By device, the last ten minutes: half of the answers of each span within this many milliseconds, or null. The newest last. */
  readonly charts: Readonly<Record<string, readonly (number | null)[]>>;
  readonly screens: Readonly<Record<string, ScreenHealth>>;
  readonly computer: ComputerHealth | null;
  /** The newest first. */
  readonly incidents: readonly Incident[];
}

/** A device as its reports and answers show it. */
export interface DeviceHealth {
  /** Of the last minute. */
  readonly minute: AnswerSum;
  /** Of the last ten minutes: what was sent by hand, and what of it failed; how often the link dropped. */
  readonly sent: number;
  readonly failed: number;
  readonly missed: number;
  readonly drops: number;
  readonly usual?: { readonly ms: number; readonly from: 'line check' | 'start' };
  /** When it was heard last, in milliseconds since 1970; 0: never. */
  readonly heardAt: number;
  readonly clockAhead?: number;
  readonly concerns: readonly ConcernView[];
}

export interface ScreenHealth {
  readonly delayMs?: number;
  readonly cuts: number;
  readonly concerns: readonly ConcernView[];
}

export interface ComputerHealth extends ComputerFacts {
  readonly concerns: readonly ConcernView[];
}

export type ConcernView = Pick<Concern, 'code' | 'level' | 'text'>;

/** In the status: what has gone beyond its limit and lasts. */
export interface HealthFigures {
  /** Nobody has said yet that they have seen it. */
  readonly open: readonly Pick<Incident, 'id' | 'text' | 'from'>[];
  /** Somebody has. */
  readonly seen: number;
  /** On its way to a limit. */
  readonly rising: number;
}

export const incidentSeenSchema = z.strictObject({
  incident: z.string().min(1).max(60),
  who: z.string().trim().min(1, 'a name').max(60),
  note: z.string().trim().max(500).default(''),
});

/** How a device has answered over time. */
export interface DeviceHistory {
  readonly minutes: readonly AnswerSpan[];
  readonly hours: readonly AnswerSpan[];
}
