import type { Scalar } from '../result';
import type { LiveArgument, ReadingRef, SentArgument } from './conditions';

type Values = Readonly<Record<string, Scalar>>;

/** Looks up what is known only when a command leaves; `undefined` while nobody knows. */
export type LookUp = (argument: LiveArgument) => Scalar | undefined;

const nobodyKnows: LookUp = () => undefined;

/** The value of an argument: the literal, the control's value of that name (`undefined` when it has none), or what is looked up. */
export function resolveArgument(
  argument: SentArgument,
  values: Values,
  lookUp: LookUp = nobodyKnows,
): Scalar | undefined {
  if (typeof argument !== 'object') return argument;
  return 'value' in argument ? values[argument.value] : lookUp(argument);
}

/** The parameters of a command with the control's values put in; what there is no value for is left out. */
export function resolveParams(
  params: Readonly<Record<string, SentArgument>>,
  values: Values,
  lookUp?: LookUp,
): Record<string, Scalar> {
  const given: Record<string, Scalar> = {};
  for (const [name, argument] of Object.entries(params)) {
    const value = resolveArgument(argument, values, lookUp);
    if (value !== undefined) given[name] = value;
  }
  return given;
}

/** What each reference meant last: faces ask for the same ones with every report. Records never change, so their identity is enough. */
const resolved = new WeakMap<ReadingRef, { readonly values: Values; readonly ref: ReadingRef }>();

/** The reading meant, with each `$name` of its key replaced by the control's value of that name. */
export function resolveReading(ref: ReadingRef, values: Values): ReadingRef {
  if (!ref.key.includes('$')) return ref;
  const known = resolved.get(ref);
  if (known?.values === values) return known.ref;
  const key = ref.key.replace(/\$([a-z][A-Za-z0-9]*)/g, (whole, name: string) => String(values[name] ?? whole));
  const found = { device: ref.device, key };
  resolved.set(ref, { values, ref: found });
  return found;
}

/** One string for a reading of a device, for maps and indexes. */
export const readingId = (ref: ReadingRef): string => `${ref.device} ${ref.key}`;
