import { runningClock, type RunningClock } from '../clock';
import { keyInDriver, type DriverDocument } from '../driver';
import type { Reading } from '../reading';
import type { DeviceRecord, ReadingRef } from '../show';

/** What goes out of a device: a stream, a recording. */
export interface OutputView {
  readonly tag: string;
  readonly device: string;
  /** Whether all of this is true now. */
  readonly freshness: Reading['freshness'];
  /** `undefined`: it does not stream. */
  readonly stream: 'off' | 'starting' | 'live' | 'failed' | undefined;
  readonly streamTime: RunningClock | number;
  /** `undefined`: it does not record. */
  readonly recording: boolean | undefined;
  readonly recordTime: RunningClock | number;
  readonly dropped?: number;
  /** In gigabytes. */
  readonly left?: number;
}

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
}

/** The names by which the contracts of encoders and composers know these readings. */
const names = ['stream', 'streamTime', 'recording', 'recordTime', 'dropped', 'freeGb'] as const;
type Name = (typeof names)[number];

/** How drivers call the states of a stream. */
const streamWords: Readonly<Record<string, NonNullable<OutputView['stream']>>> = {
  idle: 'off',
  off: 'off',
  connecting: 'starting',
  starting: 'starting',
  live: 'live',
  on: 'live',
  failed: 'failed',
};

const has = (document: DriverDocument | undefined, name: Name): boolean =>
  document !== undefined && keyInDriver(document, name) in document.readings;

/** True for a device of which something goes out that its driver knows of. */
export const hasOutputs = (document: DriverDocument | undefined): boolean =>
  has(document, 'stream') || has(document, 'recording');

/** The readings that an output is made of, by the names of its own driver. */
export const outputKeys = (document: DriverDocument | undefined): ReadonlySet<string> =>
  new Set(names.map((name) => keyInDriver(document, name)));

export function outputView({ id, data }: DeviceRecord, { documentOf, readingNow }: Sources): OutputView {
  const document = documentOf(id);
  const refOf = (name: Name): ReadingRef => ({ device: id, key: keyInDriver(document, name) });
  const of = (name: Name) => (has(document, name) ? readingNow(refOf(name)) : undefined);
  const time = (name: Name) => runningClock(refOf(name), readingNow, documentOf) ?? Number(of(name)?.value ?? 0);
  const number = (name: Name) => {
    const value = of(name)?.value;
    return typeof value === 'number' ? value : undefined;
  };
  const [dropped, left] = [number('dropped'), number('freeGb')];
  return {
    tag: data.tag,
    device: data.name,
    freshness: (of('stream') ?? of('recording'))?.freshness ?? 'unknown',
    stream: has(document, 'stream') ? (streamWords[String(of('stream')?.value)] ?? 'off') : undefined,
    streamTime: time('streamTime'),
    recording: has(document, 'recording') ? of('recording')?.value === true : undefined,
    recordTime: time('recordTime'),
    ...(dropped === undefined ? {} : { dropped }),
    ...(left === undefined ? {} : { left }),
  };
}
