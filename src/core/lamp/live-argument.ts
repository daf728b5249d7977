import { celValue, splitKey, type DriverDocument, type DriverParameter } from '../driver';
import type { Scalar } from '../result';
import { resolveReading, type LiveArgument, type LookUp, type ReadingRef } from '../show';
import { formatCel, runCel } from './cel';

type Values = Readonly<Record<string, Scalar>>;

interface Sources {
  /** The value of a reading, if it is fresh. */
  readonly fresh: (ref: ReadingRef) => Scalar | undefined;
  readonly documentOf: (device: string) => DriverDocument | undefined;
}

/** Looks up arguments as they are now. There is no value while a reading in it is not fresh, or when an expression has no result. */
export const lookUpNow =
  (values: Values, { fresh, documentOf }: Sources): LookUp =>
  (argument) => {
    if ('reading' in argument) return fresh(resolveReading(argument.reading, values));
    const context = Object.fromEntries(Object.entries(values).map(([name, value]) => [name, celValue(value)]));
    for (const [n, each] of argument.readings.entries()) {
      const ref = resolveReading(each, values);
      const value = fresh(ref);
      if (value === undefined) return undefined;
      context[`r${n}`] = celValue(value, documentOf(ref.device)?.readings[splitKey(ref.key).family]?.value);
    }
    return scalarOf(runCel(argument.cel, context));
  };

/** What CEL calls a whole or a decimal number, a text or a truth; anything else is no value. */
function scalarOf(result: unknown): Scalar | undefined {
  if (typeof result === 'bigint') return Number(result);
  if (typeof result === 'number') return Number.isFinite(result) ? result : undefined;
  return typeof result === 'string' || typeof result === 'boolean' ? result : undefined;
}

/**
 * A value that was looked up, as a parameter takes it: numbers for whole-number parameters are rounded, a text that is a number is one where a
 * number is expected, and a number becomes a text where a text is. What still does not fit is left as it is.
 */
export function fitted(value: Scalar, { value: shape }: Pick<DriverParameter, 'value'>): Scalar {
  switch (shape.type) {
    case 'whole':
    case 'decimal':
    case 'time': {
      const number = typeof value === 'string' && value.trim() !== '' ? Number(value) : value;
      if (typeof number !== 'number' || Number.isNaN(number)) return value;
      return shape.type === 'whole' ? Math.round(number) : number;
    }
    case 'text':
      return String(value);
    default:
      return value;
  }
}

/** The readings that an argument is taken from, for these values of the control. */
export const readingsOfLive = (argument: LiveArgument, values: Values): ReadingRef[] =>
  ('reading' in argument ? [argument.reading] : argument.readings).map((ref) => resolveReading(ref, values));

/** What a person would type for an argument: `SW1.program`, `SHOW.variable.lap + 1`. */
export const liveText = (argument: LiveArgument, tagOf: (device: string) => string | undefined): string =>
  formatCel('reading' in argument ? { cel: 'r0', readings: [argument.reading] } : argument, tagOf);
