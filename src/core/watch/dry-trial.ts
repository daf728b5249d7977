import { type DriverDocument } from '../driver';
import { conditionNow, type LampMemory } from '../lamp';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import { readingId, readingsOfCondition, type Condition, type ReadingRef, type WatchData } from '../show';
import { judged, looked, newWatchState, verdictWords, type WatchState } from './judge';
import { readingsOfWhen } from './key-tie';
import { nextTime } from './schedule';

/** Something that a device reported, or that its link was lost, at a time in milliseconds since 1970. */
export type PastEvent = { readonly at: number; readonly device: string } & (
  { readonly key: string; readonly value: Scalar } | { readonly lost: true }
);

/** What a watch waited for has happened. `kept` says why it would not have fired. */
export interface TrialFiring {
  readonly at: number;
  readonly kept?: string;
}

export interface DryTrial {
  readonly firings: readonly TrialFiring[];
  /** Readings that it waits for and of which nothing is recorded. */
  readonly unrecorded: readonly ReadingRef[];
}

interface TrialSources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly from: number;
  readonly to: number;
  readonly zone?: string | undefined;
  readonly beginsAt?: string | undefined;
}

/** A watch that fires more often than this says so, and no more. */
const mostFirings = 500;

/**
 * When a watch would have fired, had it been on: its condition, its exception and its limits, held against what the devices reported then.
 * Nothing is sent. What happened before `from` counts as known and fires nothing; delays are left out.
 *
 * @param events in the order of their time
 */
export function tryDry(data: WatchData, events: readonly PastEvent[], sources: TrialSources): DryTrial {
  const { when } = data;
  if (when.is === 'time') return { firings: timesOf(data, sources), unrecorded: [] };
  const refs = [...readingsOfWhen(when), ...(data.unless ? readingsOfCondition(data.unless) : [])];
  const trial = new Trial(data, sources);
  for (const event of events) trial.take(event);
  trial.until(sources.to);
  return { firings: trial.firings, unrecorded: refs.filter((ref) => !trial.knows(ref)) };
}

class Trial {
  readonly firings: TrialFiring[] = [];
  private readonly readings = new Map<string, Reading>();
  private readonly memory: LampMemory = new Map();
  private readonly unlessMemory: LampMemory = new Map();
  private readonly wanted: ReadonlySet<string>;
  private state: WatchState;
  private again = Infinity;

  constructor(
    private readonly data: WatchData,
    private readonly sources: TrialSources,
  ) {
    const { when, unless } = data;
    const refs = [...readingsOfWhen(when), ...(unless ? readingsOfCondition(unless) : [])];
    this.wanted = new Set(refs.map(readingId));
    this.state = newWatchState({});
  }

  knows(ref: ReadingRef): boolean {
    return this.readings.has(readingId(ref));
  }

  take(event: PastEvent): void {
    this.until(event.at);
    if ('lost' in event) return this.lose(event.device, event.at);
    const id = readingId(event);
    if (!this.wanted.has(id)) return;
    const before = this.readings.get(id);
    const isSame = before?.value === event.value;
    const { at, value } = event;
    this.readings.set(id, {
      value,
      at,
      since: isSame ? (before.since ?? at) : at,
      freshness: 'fresh',
      ...(before && !isSame ? { changed: true as const } : {}),
    });
    this.look(at);
  }

  /** Looks whenever the truth may change although nothing is reported. */
  until(at: number): void {
    for (let next = this.again; next <= at; next = this.again) {
      this.again = Infinity;
      this.look(next);
      // A clock that runs on asks to be looked at again and again: never at the same moment.
      if (this.again <= next) this.again = next + 100;
    }
  }

  private lose(device: string, at: number): void {
    for (const [id, reading] of this.readings)
      if (id.startsWith(`${device} `)) this.readings.set(id, { ...reading, freshness: 'unknown' });
    this.look(at);
  }

  private look(at: number): void {
    const now = this.valueNow(at);
    const { state, isMet } = looked(this.data, this.state, now);
    this.state = state;
    if (!isMet || at < this.sources.from || this.firings.length >= mostFirings) return;
    const { unless } = this.data;
    const isKeptFrom = unless !== undefined && this.truthOf(unless, at, this.unlessMemory) === true;
    const { state: next, verdict } = judged(this.data, this.state, { now: at, isInService: true, isKeptFrom });
    this.state = next;
    if (verdict === 'fires') this.firings.push({ at });
    else this.firings.push({ at, kept: verdict === 'loop' ? (next.stopped ?? '') : verdictWords[verdict] });
  }

  private valueNow(at: number): Scalar | undefined {
    const { when } = this.data;
    switch (when.is) {
      case 'true':
        return this.truthOf(
          when.forMs > 0 ? { lasting: when.condition, forMs: when.forMs } : when.condition,
          at,
          this.memory,
        );
      case 'change':
      case 'key': {
        const [ref] = readingsOfWhen(when);
        const reading = ref && this.readings.get(readingId(ref));
        return reading?.freshness === 'fresh' ? reading.value : undefined;
      }
      default:
        return undefined;
    }
  }

  private truthOf(condition: Condition, now: number, memory: LampMemory): boolean | undefined {
    const { documentOf } = this.sources;
    const readingNow = (ref: ReadingRef) => this.readings.get(readingId(ref));
    const { truth, again } = conditionNow(condition, { readingNow, documentOf, now }, memory);
    this.again = Math.min(this.again, again);
    return typeof truth.is === 'boolean' ? truth.is : undefined;
  }
}

function timesOf({ when }: WatchData, { from, to, zone, beginsAt }: TrialSources): TrialFiring[] {
  const firings: TrialFiring[] = [];
  if (when.is !== 'time') return firings;
  for (let at = nextTime(when.schedule, from, { zone, beginsAt }); at !== undefined && at <= to;) {
    firings.push({ at });
    if (firings.length >= mostFirings) break;
    at = nextTime(when.schedule, at, { zone, beginsAt });
  }
  return firings;
}

/** The devices of which a trial needs the record. */
export const devicesOfTrial = ({ when, unless }: Pick<WatchData, 'when' | 'unless'>): string[] => [
  ...new Set([...readingsOfWhen(when), ...(unless ? readingsOfCondition(unless) : [])].map(({ device }) => device)),
];
