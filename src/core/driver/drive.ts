import type { Scalar } from '../result';
import type { DriverDocument } from './schema';
import type { ValueShape } from './schema-values';

/** So far from the middle a stick does nothing: hands tremble, and game controllers do not come back to the middle. */
const deadZone = 0.1;

/** What a stick away from its middle sends. */
interface Steering {
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
}

/** How a stick wants to be handled; what is absent is as usual. */
export interface StickSettings {
  readonly axes?: 'across' | 'along' | undefined;
  /** Dead zone round the middle, as a share of the way: 0 to 0.6. */
  readonly dead?: number | undefined;
  /** The speed goes with this power of the way, 1 to 4. */
  readonly curve?: number | undefined;
  /** The fastest across and along, as a part of what the device can, up to 1. What has one axis goes by `topX`. */
  readonly topX?: number | undefined;
  readonly topY?: number | undefined;
  readonly flipX?: true | undefined;
  readonly flipY?: true | undefined;
}

/**
 * What a stick at `x` (right is positive) and `y` (up is positive), both from -1 to 1, sends; `undefined` in the middle, where
 * whatever moves is stopped. The speeds go from the slowest to the fastest that the parameters take, usually with the square of
 * the way, so that there is fine control near the middle.
 */
export function steer(
  document: DriverDocument,
  drive: string,
  x: number,
  y: number,
  { axes, dead = deadZone, curve = 2, topX = 1, topY = 1, flipX, flipY }: StickSettings = {},
): Steering | undefined {
  const definition = document.drives[drive];
  if (!definition) return undefined;
  const [wayX, wayY] = [axes === 'along' ? 0 : flipX ? -x : x, axes === 'across' ? 0 : flipY ? -y : y];
  if ('more' in definition) {
    // One axis goes with whichever way the hand goes farther.
    const way = Math.abs(wayX) > Math.abs(wayY) ? wayX : wayY;
    if (Math.abs(way) <= dead) return undefined;
    const id = way > 0 ? definition.more : definition.less;
    const shape = document.commands[id]?.params[definition.speed ?? '']?.value;
    const params = definition.speed === undefined ? {} : { [definition.speed]: speedAt(shape, way, dead, curve, topX) };
    return document.commands[id] && { command: id, params };
  }
  const command = document.commands[definition.command];
  if (!command) return undefined;
  const across = Math.abs(wayX) <= dead ? '' : wayX < 0 ? 'left' : 'right';
  const along = Math.abs(wayY) <= dead ? '' : wayY < 0 ? 'down' : 'up';
  if (across === '' && along === '') return undefined;
  const direction =
    across === '' || along === '' ? `${across}${along}` : `${along}${across === 'left' ? 'Left' : 'Right'}`;
  const speed = (name: string, way: number, top: number) => speedAt(command.params[name]?.value, way, dead, curve, top);
  return {
    command: definition.command,
    params: {
      [definition.direction]: direction,
      [definition.x]: speed(definition.x, wayX, topX),
      [definition.y]: speed(definition.y, wayY, topY),
    },
  };
}

/** The speed for a way from the middle, within the range of the parameter that takes it. */
function speedAt(shape: ValueShape | undefined, way: number, dead: number, curve: number, top: number): number {
  const min = shape?.type === 'whole' || shape?.type === 'decimal' ? Number(shape.min ?? 0) : 0;
  const max = shape?.type === 'whole' || shape?.type === 'decimal' ? Number(shape.max ?? 1) : 1;
  const part = Math.min(1, Math.max(0, (Math.abs(way) - dead) / (1 - dead)));
  const exact = min + (max - min) * top * part ** curve;
  return shape?.type === 'whole' ? Math.round(exact) : Math.round(exact * 1000) / 1000;
}

/** The commands by which a drive moves its device. */
export const commandsOfDrive = (drive: DriverDocument['drives'][string]): string[] =>
  'more' in drive ? [drive.more, drive.less] : [drive.command];
