import { splitKey, valueText, type DriverDocument } from '../driver';
import { fail, ok, type Result, type Scalar } from '../result';
import type { LabelSegment, ReadingRef } from '../show';
import { resolveReading } from '../show';
import type { Freshness, Reading } from '../reading';
import { runningClock, whileRef, type RunningClock } from '../clock';
import { clockText } from './clock';

/**
 * Labels. A person types `Lane {SW1.input[3].name}`; stored are segments that name the device by id, so that a new tag
 * breaks nothing. `{$input}` is a value of the control itself. `{{` and `}}` stand for the braces themselves.
 */

export interface LabelError {
  /** Position in the typed text, in UTF-16 units from 0. */
  readonly offset: number;
  readonly message: string;
  /** Its brace is not closed: somebody may be typing in it. */
  readonly isOpen?: true;
}

/** Reads a typed label. `deviceByTag` gives the id of the device with a tag. */
export function parseLabel(
  typed: string,
  deviceByTag: (tag: string) => string | undefined,
): Result<LabelSegment[], LabelError> {
  const segments: LabelSegment[] = [];
  let text = '';
  const flush = () => {
    if (text) segments.push({ text });
    text = '';
  };
  for (let i = 0; i < typed.length; i += 1) {
    const c = typed[i];
    if ((c === '{' || c === '}') && typed[i + 1] === c) {
      text += c;
      i += 1;
    } else if (c === '}') {
      return fail({ offset: i, message: 'This “}” has no “{”. Write “}}” for the character itself.' });
    } else if (c === '{') {
      const end = typed.indexOf('}', i);
      if (end === -1)
        return fail({ offset: i, message: 'This “{” has no “}”. Write “{{” for the character itself.', isOpen: true });
      const inside = typed.slice(i + 1, end).trim();
      const own = /^\$([a-z][A-Za-z0-9]{0,39})$/.exec(inside)?.[1];
      const reference = own === undefined ? readReference(inside, deviceByTag) : undefined;
      if (reference && !reference.ok) return fail({ offset: i, message: reference.error });
      flush();
      if (own !== undefined) segments.push({ value: own });
      if (reference) segments.push({ reading: reference.value });
      i = end;
    } else {
      text += c;
    }
  }
  flush();
  return ok(segments);
}

const referencePattern = /^([A-Za-z][A-Za-z0-9_]*)\.([A-Za-z][A-Za-z0-9_.[\]$]*)$/;

function readReference(source: string, deviceByTag: (tag: string) => string | undefined): Result<ReadingRef, string> {
  const match = referencePattern.exec(source);
  if (!match) return fail('Expected a device and one of its readings, such as {SW1.program}.');
  const [, tag = '', key = ''] = match;
  const device = deviceByTag(tag);
  return device ? ok({ device, key }) : fail(`There is no device with the tag “${tag}”.`);
}

/** The text that a person would type for these segments. */
export function formatLabel(
  segments: readonly LabelSegment[],
  tagOf: (deviceId: string) => string | undefined,
): string {
  return segments
    .map((segment) => {
      if ('text' in segment) return segment.text.replaceAll('{', '{{').replaceAll('}', '}}');
      if ('value' in segment) return `{$${segment.value}}`;
      return `{${tagOf(segment.reading.device) ?? 'missing'}.${segment.reading.key}}`;
    })
    .join('');
}

/** A piece of a label as shown; `doubt` says that the reading in it is not fresh. */
export interface FaceSegment {
  readonly text: string;
  readonly doubt?: Exclude<Freshness, 'fresh'>;
  /** When a value that is stale was last reported, in milliseconds since 1970. */
  readonly since?: number;
  /** The text is a running clock: the screen that shows it counts. */
  readonly clock?: RunningClock;
}

/**
 * The label as it is shown now. A reading that is not fresh keeps the text it last had, marked as doubtful; one that
 * was never known shows a dash.
 */
export function renderLabel(
  segments: readonly LabelSegment[],
  values: Readonly<Record<string, Scalar>>,
  readingNow: (ref: ReadingRef) => Reading | undefined,
  documentOf: (device: string) => DriverDocument | undefined = () => undefined,
): FaceSegment[] {
  return segments.map((segment): FaceSegment => {
    if ('text' in segment) return { text: segment.text };
    if ('value' in segment) return { text: String(values[segment.value] ?? '–') };
    const ref = resolveReading(segment.reading, values);
    const reading = readingNow(ref);
    if (!reading || reading.value === undefined) return { text: '–', doubt: 'unknown' };
    const definition = documentOf(ref.device)?.readings[splitKey(ref.key).family];
    const text = valueText(definition?.value, reading.value);
    if (reading.freshness === 'stale')
      return { text, doubt: 'stale', ...(reading.at === undefined ? {} : { since: reading.at }) };
    if (reading.freshness !== 'fresh') return { text, doubt: reading.freshness };
    const clock = runningClock(ref, readingNow, documentOf);
    // Where faces are compared, only the whole second of a running clock matters.
    return clock ? { text: clockText(clock.seconds), clock } : { text };
  });
}

/** The readings that a label shows, resolved with the control's values. */
export function readingsOfLabel(
  segments: readonly LabelSegment[],
  values: Readonly<Record<string, Scalar>>,
  documentOf: (device: string) => DriverDocument | undefined = () => undefined,
): ReadingRef[] {
  return segments.flatMap((segment) => {
    if (!('reading' in segment)) return [];
    const ref = resolveReading(segment.reading, values);
    const whether = whileRef(ref, documentOf);
    return whether ? [ref, whether] : [ref];
  });
}
