import { z } from 'zod';
import { readByHand, standinPage, type StandinOptions } from '../kit';
import { exposureModes, presetCount, whiteBalances, type CameraModel, type Pose } from './model';
import { cameraBody, cameraCss, cameraScript } from './page';

export interface CameraOptions extends StandinOptions {
  /** What it looks at, for its picture. */
  readonly scene: string;
  readonly startAt: Pose;
}

const speed = z.number().min(-24).max(24);
const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('move'), pan: speed.default(0), tilt: speed.default(0), zoom: speed.default(0) }),
  z.strictObject({
    verb: z.literal('recall'),
    preset: z
      .number()
      .int()
      .min(0)
      .max(presetCount - 1),
  }),
  z.strictObject({ verb: z.literal('focus'), auto: z.boolean() }),
  z.strictObject({ verb: z.literal('tally'), on: z.boolean() }),
  z.strictObject({ verb: z.literal('menu'), on: z.boolean() }),
  z.strictObject({
    verb: z.literal('set'),
    exposure: z.enum(exposureModes).optional(),
    whiteBalance: z.enum(whiteBalances).optional(),
    iris: z.number().int().min(0).max(17).optional(),
    gain: z.number().int().min(0).max(15).optional(),
    redGain: z.number().int().min(0).max(255).optional(),
    blueGain: z.number().int().min(0).max(255).optional(),
  }),
]);

/** What can be done with a camera by hand, whatever it speaks. Returns the reason when it refuses. */
export function byHandOn(model: CameraModel, body: unknown): string | undefined {
  return readByHand(operation, body, (order) => {
    switch (order.verb) {
      case 'move':
        return void model.move({ panSpeed: order.pan, tiltSpeed: order.tilt, zoomSpeed: order.zoom });
      case 'recall': {
        const pose = model.state.presets[order.preset];
        if (!pose) return `Preset ${order.preset} is empty.`;
        return void model.goTo(pose, 20, () => undefined);
      }
      case 'focus':
        return void model.set({ focusAuto: order.auto });
      case 'tally':
        return void model.set({ tally: order.on });
      case 'menu':
        return void model.set({ menu: order.on });
      case 'set': {
        const { verb: _, redGain, blueGain, ...settings } = order;
        model.set(settings);
        if (redGain !== undefined) model.setPicture('redGain', redGain);
        if (blueGain !== undefined) model.setPicture('blueGain', blueGain);
        return undefined;
      }
    }
  });
}

export const cameraPage = (tag: string, title: string): string =>
  standinPage({ tag, title, css: cameraCss, body: cameraBody, script: cameraScript });
