import type { DriverSample } from '../driver';
import type { Framing } from '../wire';
import type { CommandProposal } from './command';
import type { ReadingProposal } from './reading';

/** A document as it is written: defaults left out. */
export type WrittenDocument = Readonly<Record<string, unknown>>;

const record = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Record<string, unknown>) : {};
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const usualPort = 9000;

/**
 * The beginning of a document for a device of which nothing but its bytes is known.
 *
 * @param port 0 where it is not known; each device has its own anyway
 */
export const newDocument = (kind: 'tcp' | 'udp' | 'serial', port: number, framing: Framing): WrittenDocument => ({
  format: 1,
  id: 'my-device',
  version: 1,
  title: 'My device',
  role: 'any',
  link: { kind, ...(kind === 'serial' ? {} : { port: port || usualPort }) },
  framing,
  answers: 'none',
  commands: {},
  readings: {},
  replies: [],
  samples: [],
});

export const withFraming = (document: WrittenDocument, framing: Framing): WrittenDocument => ({ ...document, framing });

/** A reading goes before what the document reads already: the first reply that fits is the one that counts. */
export const withReading = (
  document: WrittenDocument,
  { readings, reply }: Pick<ReadingProposal, 'readings' | 'reply'>,
  samples: readonly DriverSample[],
): WrittenDocument => ({
  ...document,
  readings: { ...record(document.readings), ...readings },
  replies: [reply, ...list(document.replies)],
  samples: withNew(list(document.samples), samples),
});

export const withCommand = (
  document: WrittenDocument,
  { id, command, samples }: Pick<CommandProposal, 'id' | 'command' | 'samples'>,
): WrittenDocument => ({
  ...document,
  commands: { ...record(document.commands), [id]: command },
  samples: withNew(list(document.samples), samples),
});

export const withSample = (document: WrittenDocument, sample: DriverSample): WrittenDocument => ({
  ...document,
  samples: withNew(list(document.samples), [sample]),
});

export const withoutSample = (document: WrittenDocument, at: number): WrittenDocument => ({
  ...document,
  samples: list(document.samples).filter((_, n) => n !== at),
});

/** A sample that is there already is not added twice. */
function withNew(samples: readonly unknown[], more: readonly DriverSample[]): unknown[] {
  const known = new Set(samples.map((each) => JSON.stringify(each)));
  return [...samples, ...more.filter((each) => !known.has(JSON.stringify(each)))];
}
