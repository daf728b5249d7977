import { runningClock, type RunningClock } from '../clock';
import { keyInDriver, type DriverDocument } from '../driver';
import type { Reading } from '../reading';
import type { DeviceRecord, ReadingRef } from '../show';
import type { TimerPhase } from './machine';

/** What a clock device says, as a screen shows it from afar. */
export interface ClockView {
  readonly tag: string;
  readonly device: string;
  /** Whether all of this is true now, was true when the device was heard last, or is not known. */
  readonly freshness: Reading['freshness'];
  readonly phase: TimerPhase;
  readonly name: string;
  readonly speaker: string;
  readonly next: string;
  readonly nextSpeaker: string;
  readonly message: string;
  /** What is left; below zero it is over. A clock while it runs, else the seconds at which it stands. */
  readonly left: RunningClock | number;
}

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
}

/** The readings of the contract of clocks that are shown. */
const shown = ['state', 'name', 'speaker', 'nextName', 'nextSpeaker', 'message', 'left', 'runs'] as const;
type Shown = (typeof shown)[number];

/** Which readings of a clock are shown, by the names of its own driver. */
export const clockKeys = (document: DriverDocument | undefined): ReadonlySet<string> =>
  new Set(shown.map((name) => keyInDriver(document, name)));

export function clockView({ id, data }: DeviceRecord, { documentOf, readingNow }: Sources): ClockView {
  const document = documentOf(id);
  const refOf = (name: Shown): ReadingRef => ({ device: id, key: keyInDriver(document, name) });
  const of = (name: Shown) => readingNow(refOf(name));
  const text = (name: Shown) => String(of(name)?.value ?? '');
  const state = of('state');
  return {
    tag: data.tag,
    device: data.name,
    freshness: state?.freshness ?? 'unknown',
    phase: (state?.value as TimerPhase | undefined) ?? 'empty',
    name: text('name'),
    speaker: text('speaker'),
    next: text('nextName'),
    nextSpeaker: text('nextSpeaker'),
    message: text('message'),
    left: runningClock(refOf('left'), readingNow, documentOf) ?? Number(of('left')?.value ?? 0),
  };
}
