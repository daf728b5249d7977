import type { GearEvent } from './midi';

/** What of which piece of gear works which control. */
export interface Binding {
  readonly gear: string;
  /** As in `GearEvent`. For a stick the first of its two axes; the next one is the other. */
  readonly input: string;
  readonly page: string;
  readonly control: string;
  readonly as: 'press' | 'turn' | 'stick';
}

const mostBindings = 200;
const idPattern = /^[A-Za-z0-9_-]{1,40}$/;

/** The bindings in what a viewing device has kept; whatever is none is left out. Without a schema library: panels load this. */
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

/** How a control of this kind is worked by what sent the event; `undefined` when it cannot be. */
export function bindingAs(type: string, { input, down }: GearEvent): Binding['as'] | undefined {
  const moves = /^(cc|bend|axis) /.test(input);
  switch (type) {
    case 'button':
      return down === undefined && !moves ? undefined : 'press';
    case 'fader':
    case 'dial':
      return moves ? 'turn' : undefined;
    case 'stick':
      return input.startsWith('axis ') ? 'stick' : undefined;
    default:
      return undefined;
  }
}

/** The bindings with one more: an input works one control only, and takes the place of what it did before. */
export function withBinding(bindings: readonly Binding[], binding: Binding): Binding[] {
  return [...bindings.filter(({ gear, input }) => gear !== binding.gear || input !== binding.input), binding];
}

/** The other axis of the stick that begins with this one. */
export const otherAxis = (input: string): string => `axis ${Number(input.split(' ')[1]) + 1}`;

/** The first axis of the pair that an axis belongs to: sticks have an even and an odd one. */
export function firstAxis(input: string): string {
  const n = Number(input.split(' ')[1]);
  return `axis ${n - (n % 2)}`;
}
