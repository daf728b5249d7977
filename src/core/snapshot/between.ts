import { checkValue, type ValueShape } from '../driver';
import type { Scalar } from '../result';

const colour = /^#[0-9A-Fa-f]{6}$/;

/** True where there is something between two values: numbers, times and colours. */
export const canMove = (from: Scalar | undefined, to: Scalar): boolean =>
  (typeof from === 'number' && typeof to === 'number') ||
  (typeof from === 'string' && typeof to === 'string' && colour.test(from) && colour.test(to));

/** The value a part of the way from one to another, as the parameter takes it: whole where it is whole. At 1 it is exactly the other. */
export function between(shape: ValueShape, from: Scalar, to: Scalar, part: number): Scalar {
  if (part >= 1) return to;
  if (part <= 0) return from;
  if (typeof from === 'number' && typeof to === 'number') {
    const value = from + (to - from) * part;
    if (shape.type === 'whole') return Math.round(value);
    const checked = checkValue(shape, value);
    return checked.ok ? checked.value : value;
  }
  if (!canMove(from, to)) return from;
  const channels = [1, 3, 5].map((at) => {
    const [a, b] = [from, to].map((text) => Number.parseInt(String(text).slice(at, at + 2), 16));
    return Math.round((a ?? 0) + ((b ?? 0) - (a ?? 0)) * part);
  });
  return `#${channels.map((channel) => channel.toString(16).padStart(2, '0')).join('')}`.toUpperCase();
}
