import { checkValue, splitKey, type DriverDocument, type ValueShape } from '../driver';
import { commandBehind } from '../macro';
import { fail, ok, type Result, type Scalar } from '../result';
import { resolveArgument, resolveReading, type Condition, type ControlRecord, type ReadingRef } from '../show';
import type { CheckSend } from './item';
import { otherValues } from './put-back';

type Values = ControlRecord['data']['values'];

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  /** The value of a reading, if it is fresh. */
  readonly valueNow: (ref: ReadingRef) => Scalar | undefined;
}

/** A reading that has to get one of these values, preferably the first. */
interface Wanted {
  readonly ref: ReadingRef;
  readonly values: readonly Scalar[];
}

/**
 * Works out which commands make a condition true or false, as the drivers say what their commands bring about. What is so already needs none.
 * Fails with the reason where nothing that can be sent changes a reading.
 */
export function bringAbout(
  condition: Condition,
  isTrue: boolean,
  values: Values,
  sources: Sources,
): Result<readonly CheckSend[], string> {
  const wanted = wantedFor(condition, isTrue, values, sources);
  if (!wanted.ok) return wanted;
  const sends: CheckSend[] = [];
  for (const { ref, values: any } of wanted.value) {
    const now = sources.valueNow(ref);
    if (now !== undefined && any.includes(now)) continue;
    const document = sources.documentOf(ref.device);
    const readingNow = (key: string) => sources.valueNow({ device: ref.device, key });
    let found: ReturnType<typeof commandBehind>;
    for (const value of any) found ??= document && commandBehind(document, ref.key, value, readingNow);
    if (!found) return fail(`No command changes “${titleOf(document, ref.key)}”.`);
    sends.push({ device: ref.device, command: found.id, params: { ...found.params } });
  }
  return ok(sends);
}

/** What readings have to be for a condition to hold, or not to; of several ways the first that is possible. */
function wantedFor(
  condition: Condition,
  isTrue: boolean,
  values: Values,
  sources: Sources,
): Result<readonly Wanted[], string> {
  if ('cel' in condition) return fail('It is an expression, of which no one knows what makes it true.');
  if ('not' in condition) return wantedFor(condition.not, !isTrue, values, sources);
  if ('lasting' in condition) return wantedFor(condition.lasting, isTrue, values, sources);
  if ('op' in condition) return ofTest(condition, isTrue, values, sources);
  const parts = 'all' in condition ? condition.all : condition.any;
  const each = parts.map((part) => wantedFor(part, isTrue, values, sources));
  // All parts of an “all” have to hold, and none of an “any” may; otherwise one is enough.
  const needsAll = 'all' in condition === isTrue;
  const failed = each.find((one) => !one.ok);
  if (!needsAll) return each.find((one) => one.ok) ?? failed ?? ok([]);
  return failed ?? ok(each.flatMap((one) => (one.ok ? one.value : [])));
}

function ofTest(
  test: Extract<Condition, { op: string }>,
  isTrue: boolean,
  values: Values,
  { documentOf, valueNow }: Sources,
): Result<readonly Wanted[], string> {
  const ref = resolveReading(test.reading, values);
  const document = documentOf(ref.device);
  const shape = document?.readings[splitKey(ref.key).family]?.value;
  const now = valueNow(ref);
  const want = (...options: readonly (Scalar | undefined)[]): Result<readonly Wanted[], string> => {
    const known = options.filter((value) => value !== undefined);
    if (known.length === 0) return fail(`No other value of “${titleOf(document, ref.key)}” is known.`);
    return ok([{ ref, values: known }]);
  };
  const others = (...taken: readonly (Scalar | undefined)[]) =>
    want(
      ...taken
        .flatMap((value) => (value === undefined ? [] : otherValues(shape, value)))
        .filter((value) => !taken.includes(value)),
    );
  switch (test.op) {
    case 'changed':
      return isTrue ? others(now) : ok([]);
    case 'oneOf': {
      const options = test.to.map((argument) => resolveArgument(argument, values));
      if (isTrue) return want(...options);
      return now !== undefined && !options.includes(now) ? ok([]) : others(...options);
    }
    case 'within': {
      const [from, to] = [resolveArgument(test.from, values), resolveArgument(test.to, values)];
      return isTrue ? want(between(from, to), from, to) : want(...beyond(shape, from, -1), ...beyond(shape, to, 1));
    }
    case 'contains':
      return isTrue ? want(resolveArgument(test.to, values)) : want('');
    default: {
      const to = resolveArgument(test.to, values);
      if (test.op === 'equals' || test.op === 'differs') {
        if ((test.op === 'equals') === isTrue) return want(to);
        return now !== undefined && now !== to ? ok([]) : others(to);
      }
      return isTrue ? want(...beyond(shape, to, test.op === 'above' ? 1 : -1)) : want(to);
    }
  }
}

const between = (from: Scalar | undefined, to: Scalar | undefined): number | undefined =>
  typeof from === 'number' && typeof to === 'number' ? Math.round((from + to) / 2) : undefined;

/** Values a little above or below another. */
function beyond(shape: ValueShape | undefined, value: Scalar | undefined, way: 1 | -1): readonly number[] {
  if (typeof value !== 'number' || !shape) return [];
  return [1, 0.1, 10].map((step) => value + way * step).filter((each) => checkValue(shape, each).ok);
}

const titleOf = (document: DriverDocument | undefined, key: string): string =>
  document?.readings[splitKey(key).family]?.title ?? key;
