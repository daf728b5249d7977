import type { BindingData } from '../show';
import type { GearEvent } from './midi';

/** What of which piece of gear works which control, at this screen. */
export type Binding = Omit<BindingData, 'panel'> & {
  /** Its id in the show; a binding that is just being made has none. */
  readonly id?: string;
};

const mostBindings = 200;
const idPattern = /^[A-Za-z0-9_-]{1,40}$/;

/** The bindings that a viewing device has kept for itself, as earlier versions did; whatever is none is left out. Without a schema library: panels load this. */
export function readBindings(value: unknown): Binding[] {
  if (!Array.isArray(value)) return [];
  return value.slice(0, mostBindings).flatMap((each: unknown): Binding[] => {
    const { gear, input, page, control, as } = (each ?? {}) as Record<string, unknown>;
    const isText = (text: unknown, most: number): text is string =>
      typeof text === 'string' && text !== '' && text.length <= most;
    if (!isText(gear, 120) || !isText(input, 40) || !isText(page, 40) || !isText(control, 40)) return [];
    if (!idPattern.test(page) || !idPattern.test(control)) return [];
    return as === 'press' || as === 'turn' || as === 'stick' ? [{ gear, input, page, control, as }] : [];
  });
}

/**
 * How a control of this kind is worked by what sent the event; `undefined` when it cannot be.
 * @param axes of a stick that goes one way only
 */
export function bindingAs(
  type: string,
  axes: 'across' | 'along' | undefined,
  { input, down }: GearEvent,
): Binding['as'] | undefined {
  const moves = /^(cc|bend|axis|pressure) /.test(input);
  switch (type) {
    case 'button':
      return down === undefined && !moves ? undefined : 'press';
    case 'fader':
    case 'dial':
      return moves ? 'turn' : undefined;
    case 'stick':
      if (axes) return moves ? 'rocker' : undefined;
      return input.startsWith('axis ') ? 'stick' : undefined;
    default:
      return undefined;
  }
}

/** The other axis of the stick that begins with this one. */
export const otherAxis = (input: string): string => `axis ${Number(input.split(' ')[1]) + 1}`;

/** The first axis of the pair that an axis belongs to: sticks have an even and an odd one. */
export function firstAxis(input: string): string {
  const n = Number(input.split(' ')[1]);
  return `axis ${n - (n % 2)}`;
}
