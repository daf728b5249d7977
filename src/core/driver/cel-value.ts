import type { CelType, CelValue } from '../cel';
import type { Scalar } from '../result';
import type { ValueShape } from './schema-values';

/** A value as expressions take it: a number of a reading that is always whole as a whole one. */
export const celValue = (value: Scalar, shape?: ValueShape): CelValue =>
  typeof value === 'number' && Number.isSafeInteger(value) && (shape === undefined || celType(shape) === 'int')
    ? BigInt(value)
    : value;

/** What values of a shape are in an expression; `dyn` where that is only known when it runs. */
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
