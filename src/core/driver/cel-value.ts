import type { CelType, CelValue } from '../cel';
import type { Scalar } from '../result';
import type { ValueShape } from './schema-values';

/** Converts a value for an expression. Numbers of a whole-number reading become CEL ints. */
export const celValue = (value: Scalar, shape?: ValueShape): CelValue =>
  typeof value === 'number' && Number.isSafeInteger(value) && (shape === undefined || celType(shape) === 'int')
    ? BigInt(value)
    : value;

/** The CEL type of values with this shape; `dyn` if it is known only at run time. */
export function celType(shape: ValueShape | undefined): CelType {
  switch (shape?.type) {
    case 'whole':
      return 'int';
    case 'decimal':
    case 'time':
      return 'double';
    case 'onOff':
      return 'bool';
    case 'text':
    case 'colour':
      return 'string';
    case 'choice':
      return typeof shape.choices[0]?.value === 'number' ? 'int' : 'string';
    default:
      return 'dyn';
  }
}
