import { fail, ok, type Result, type Scalar } from '../result';
import { memberKey } from './reading-key';
import type { DriverParameter } from './schema';

type Step = NonNullable<DriverParameter['step']>;

/** True if a parameter gets its value from readings when none is given. */
export const takesReading = ({ fromReading, step, computed }: DriverParameter): boolean =>
  (fromReading ?? step ?? computed) !== undefined;

/**
 * The value that a step leads to, from what the reading is now. Fails with a sentence where that is not known.
 *
 * @param params what else the command was given
 */
export function stepValue(
  { title, value: shape }: DriverParameter,
  { from, index, by, wrap }: Step,
  params: Readonly<Record<string, Scalar>>,
  readingNow: (key: string) => Scalar | undefined,
): Result<Scalar, string> {
  const key = index === undefined ? from : memberKey(from, String(params[index]));
  const now = readingNow(key);
  if (now === undefined) return fail(`${title} cannot be stepped: what it is now is not known.`);
  const amount = typeof by === 'number' ? by : Number(params[by.param]);
  if (!Number.isFinite(amount)) return fail(`${title} cannot be stepped: by how much is not known.`);
  switch (shape.type) {
    case 'onOff':
      return ok(now !== true);
    case 'choice': {
      const at = shape.choices.findIndex(({ value }) => value === now);
      const next = within(at + Math.round(amount), 0, shape.choices.length - 1, wrap);
      // From a value that is none of them the first one is next.
      return ok(shape.choices[at < 0 ? 0 : next]?.value ?? now);
    }
    case 'whole':
    case 'decimal':
    case 'time': {
      const { min, max } = shape;
      const low = typeof min === 'number' ? min : -Infinity;
      const high = typeof max === 'number' ? max : Infinity;
      const next = within(Number(now) + amount, low, high, wrap);
      // 0.1 + 0.2 is 0.3 for people.
      return ok(Number((shape.type === 'whole' ? Math.round(next) : next).toFixed(6)));
    }
    default:
      return fail(`${title} cannot be stepped.`);
  }
}

/** A step that leads past an end stops there, or with `wrap` goes on at the other end. */
function within(next: number, low: number, high: number, wrap: boolean): number {
  if (next > high) return wrap ? low : high;
  if (next < low) return wrap ? high : low;
  return next;
}
