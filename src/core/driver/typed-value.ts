import type { Scalar } from '../result';
import type { ValueShape } from './schema-values';

/**
 * What somebody typed, as a parameter of this kind takes it: digits are a number where a number is wanted, and stay a text where a text
 * is. Times may be typed as `10:30` or `1:02:03.5`. What cannot be read stays as it was typed.
 */
export function typedValue(shape: ValueShape, given: Scalar | undefined): Scalar | undefined {
  if (typeof given !== 'string') return given;
  const text = given.trim();
  switch (shape.type) {
    case 'whole':
    case 'decimal':
      return plainNumber(text) ?? given;
    case 'time':
      return plainNumber(text) ?? clockSeconds(text) ?? given;
    case 'choice': {
      const named = shape.choices.find(({ value, title }) => String(value) === text || title === text);
      return named?.value ?? given;
    }
    case 'onOff':
      return text === 'on' || text === 'true' ? true : text === 'off' || text === 'false' ? false : given;
    default:
      return given;
  }
}

const plainNumber = (text: string): number | undefined => (/^[+-]?\d+(\.\d+)?$/.test(text) ? Number(text) : undefined);

function clockSeconds(text: string): number | undefined {
  const clock = /^(?:(\d{1,3}):)?(\d{1,3}):(\d{1,2}(?:\.\d+)?)$/.exec(text);
  return clock ? Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3]) : undefined;
}
