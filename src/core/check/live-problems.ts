import type { DriverDocument, ValueShape } from '../driver';
import { resultTypeOf } from '../lamp';
import type { Scalar } from '../result';
import type { LiveArgument } from '../show';

/** Why the type of an expression does not fit a parameter; `undefined` if it fits. Missing readings are reported elsewhere. */
export function problemOfLive(
  argument: LiveArgument,
  values: Readonly<Record<string, Scalar>>,
  shape: ValueShape,
  documentOf: (device: string) => DriverDocument | undefined,
): string | undefined {
  if ('reading' in argument) return undefined;
  const type = resultTypeOf(argument, values, documentOf);
  if (!type.ok) return type.error;
  const takes = takesOf(shape);
  return type.value === 'dyn' || takes.types.includes(type.value)
    ? undefined
    : `The result must be ${takes.word}, not ${words[type.value] ?? type.value}.`;
}

const words: Readonly<Record<string, string>> = {
  int: 'a number',
  double: 'a number',
  string: 'a text',
  bool: 'true or false',
};

/** What fits a parameter: numbers become texts where a text is taken, and a text may be a number. */
function takesOf({ type }: ValueShape): { readonly types: readonly string[]; readonly word: string } {
  switch (type) {
    case 'whole':
    case 'decimal':
    case 'time':
      return { types: ['int', 'double', 'string'], word: 'a number' };
    case 'onOff':
      return { types: ['bool'], word: 'true or false' };
    case 'text':
      return { types: ['string', 'int', 'double', 'bool'], word: 'a text' };
    default:
      return { types: ['string'], word: 'a text' };
  }
}
