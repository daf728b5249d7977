import type { Scalar } from '../result';
import type { DriverDocument } from './schema';

/** So far from the middle a stick does nothing: hands tremble, and game controllers do not come back to the middle. */
export const deadZone = 0.1;

/** What a stick that stands off the middle sends. */
export interface Steering {
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
}

/**
 * What a stick at `x` (right is positive) and `y` (up is positive), both from -1 to 1, sends; `undefined` in the middle, where
 * whatever moves is stopped. The speeds go from the slowest to the fastest that the parameters take, with the square of the
 * way, so that there is fine control near the middle.
 */
export function steer(document: DriverDocument, drive: string, x: number, y: number): Steering | undefined {
  const definition = document.drives[drive];
  const command = definition && document.commands[definition.command];
  if (!definition || !command) return undefined;
  const across = Math.abs(x) < deadZone ? '' : x < 0 ? 'left' : 'right';
  const along = Math.abs(y) < deadZone ? '' : y < 0 ? 'down' : 'up';
  if (across === '' && along === '') return undefined;
  const direction =
    across === '' || along === '' ? `${across}${along}` : `${along}${across === 'left' ? 'Left' : 'Right'}`;
  const speed = (name: string, way: number): number => {
    const shape = command.params[name]?.value;
    const min = shape?.type === 'whole' || shape?.type === 'decimal' ? Number(shape.min ?? 0) : 0;
    const max = shape?.type === 'whole' || shape?.type === 'decimal' ? Number(shape.max ?? 1) : 1;
    const part = Math.min(1, Math.max(0, (Math.abs(way) - deadZone) / (1 - deadZone)));
    const exact = min + (max - min) * part * part;
    return shape?.type === 'whole' ? Math.round(exact) : Math.round(exact * 1000) / 1000;
  };
  return {
    command: definition.command,
    params: {
      [definition.direction]: direction,
      [definition.x]: speed(definition.x, x),
      [definition.y]: speed(definition.y, y),
    },
  };
}
