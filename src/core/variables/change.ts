import { fail, ok, type Result, type Scalar } from '../result';
import { longestVariableText, type VariableValue, type VariableVerb } from '../show';

/** What a variable is worth at the start: the value that was kept, where it still fits, else the initial one. */
export function firstValue(value: VariableValue, kept: Scalar | undefined): Scalar {
  const fits = kept === undefined ? undefined : fitting(value, kept);
  return fits?.ok ? fits.value : value.initial;
}

/** The value as the variable holds it: a number within its range and with its decimals; or why it cannot hold it, as the end of a sentence. */
export function fitting(variable: VariableValue, given: Scalar): Result<Scalar, string> {
  switch (variable.type) {
    case 'text': {
      const text = String(given);
      return text.length > longestVariableText ? fail(`can have at most ${longestVariableText} characters`) : ok(text);
    }
    case 'onOff':
      return typeof given === 'boolean' ? ok(given) : fail('must be on or off');
    case 'choice':
      return variable.choices.includes(String(given))
        ? ok(String(given))
        : fail(`must be one of ${variable.choices.join(', ')}`);
    case 'number': {
      if (typeof given !== 'number' || !Number.isFinite(given)) return fail('must be a number');
      const { min, max } = variable;
      return given < min || given > max ? fail(`must be from ${min} to ${max}`) : ok(rounded(variable, given));
    }
  }
}

/**
 * What a variable is worth after a command. A step counts by the variable's own step: it stops at the ends of the range, or goes on at the other
 * end where the variable wraps; choices always go round.
 * @param given the value to set, or how many steps to go
 */
export function changed(
  variable: VariableValue,
  now: Scalar,
  verb: VariableVerb,
  given: Scalar | undefined,
): Result<Scalar, string> {
  switch (verb) {
    case 'reset':
      return ok(variable.initial);
    case 'set':
      return given === undefined ? fail('needs a value') : fitting(variable, given);
    case 'switch':
      return ok(now !== true);
    case 'step':
      return stepped(variable, now, Number(given ?? 1));
  }
}

function stepped(variable: VariableValue, now: Scalar, by: number): Result<Scalar, string> {
  if (variable.type === 'choice') {
    const { choices } = variable;
    const at = Math.max(0, choices.indexOf(String(now)));
    return ok(choices[round(at + Math.trunc(by), choices.length)] ?? variable.initial);
  }
  if (variable.type !== 'number') return fail('cannot be counted');
  if (!Number.isFinite(by)) return fail('needs a number of steps');
  const { min, max, step, wraps } = variable;
  const next = rounded(variable, Number(now) + by * step);
  if (next >= min && next <= max) return ok(next);
  if (!wraps) return ok(Math.min(max, Math.max(min, next)));
  const places = Math.floor((max - min) / step + 1e-9) + 1;
  const place = Math.round((Number(now) - min) / step);
  return ok(rounded(variable, min + round(place + by, places) * step));
}

const round = (n: number, of: number): number => ((n % of) + of) % of;

/** Without a negative zero. */
const rounded = ({ decimals }: Extract<VariableValue, { type: 'number' }>, value: number): number =>
  Number(value.toFixed(decimals)) + 0;
