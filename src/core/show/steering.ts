import { z } from 'zod';
import type { DriverDocument, StickSettings } from '../driver';

/** How what a device drives goes under a hand. It belongs to the device, so that every stick, rocker and piece of hand gear drives it alike. */
export const steeringSchema = z.strictObject({
  /** The fastest, as a part of what the device can: across, and along. What has one axis goes by `topX`. */
  topX: z.number().min(0.05).max(1).optional(),
  topY: z.number().min(0.05).max(1).optional(),
  /** The speed while a hand chooses slow, as a part of the usual one. */
  slow: z.number().min(0.05).max(1).optional(),
  /** The speed at the longest focal length, as a part of that at the shortest. */
  atFullZoom: z.number().min(0.02).max(1).optional(),
  dead: z.number().min(0).max(0.6).optional(),
  curve: z.number().min(1).max(4).optional(),
  flipX: z.literal(true).optional(),
  flipY: z.literal(true).optional(),
});
export type Steering = z.infer<typeof steeringSchema>;

/** The speed in slow mode where a device does not say. */
export const usualSlow = 0.3;

/** What a stick says for itself. */
type OfStick = Omit<StickSettings, 'topX' | 'topY'> & { readonly top?: number | undefined };

/** What a movement depends on besides the settings. */
interface Steered {
  readonly slow: boolean;
  /** The fastest on the panel, as a part of the usual: 0.05 to 1. */
  readonly panelTop?: number | undefined;
  /** How far the device is zoomed in, 0 to 1; absent where nobody knows. */
  readonly zoom?: number | undefined;
  /** True while the directions move in the device's menu. */
  readonly inMenu?: boolean | undefined;
}

/**
 * How a stick handles: what the control says for itself goes before what the device says; speeds are multiplied; a control that is turned
 * round on a device that is turned round goes the usual way. In the device's menu its own swap does not count: what a picture shows upside
 * down, a menu shows upright.
 *
 * Between the two ends of the zoom the speed follows the focal length: with each step of the same factor in size it is slower by the same factor.
 */
export function stickSettings(
  { axes, dead, curve, top = 1, flipX, flipY }: OfStick,
  of: Steering = {},
  { slow, panelTop = 1, zoom, inMenu }: Steered,
): StickSettings {
  const byZoom = of.atFullZoom === undefined || zoom === undefined ? 1 : of.atFullZoom ** zoom;
  const share = top * panelTop * byZoom * (slow ? (of.slow ?? usualSlow) : 1);
  const isFlipped = (own: true | undefined, device: true | undefined) =>
    own === (inMenu ? undefined : device) ? undefined : true;
  return {
    axes,
    dead: dead ?? of.dead,
    curve: curve ?? of.curve,
    topX: share * (of.topX ?? 1),
    topY: share * (of.topY ?? 1),
    flipX: isFlipped(flipX, of.flipX),
    flipY: isFlipped(flipY, of.flipY),
  };
}

/** How far a device is zoomed in, 0 to 1, by the reading that its driver names for a drive. */
export function zoomPart(document: DriverDocument, drive: string, value: unknown): number | undefined {
  const shape = document.readings[zoomKeyOf(document, drive) ?? '']?.value;
  if (typeof value !== 'number' || (shape?.type !== 'whole' && shape?.type !== 'decimal')) return undefined;
  const [min, max] = [Number(shape.min ?? 0), Number(shape.max ?? 100)];
  return max > min ? Math.min(1, Math.max(0, (value - min) / (max - min))) : undefined;
}

/** The reading by which a drive may go slower the farther the device is zoomed in. */
export function zoomKeyOf(document: DriverDocument, drive: string): string | undefined {
  const definition = document.drives[drive];
  return definition && 'zoom' in definition ? definition.zoom : undefined;
}

/** The reading that says that the directions of a drive move in the device's menu. */
export function menuKeyOf(document: DriverDocument, drive: string): string | undefined {
  const definition = document.drives[drive];
  return definition && 'menu' in definition ? definition.menu : undefined;
}
