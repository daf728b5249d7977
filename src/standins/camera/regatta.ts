import { CameraModel, presetPoses, type Pose } from './model';
import { cameraStill } from './page';

/** The cameras of the regatta: what they look at, and where at their start. */
const cameras = {
  C1: { scene: 'Start tower', pan: 35, zoom: 2000 },
  C2: { scene: 'Mid-course', pan: 5, zoom: 5000 },
  C3: { scene: 'Finish line', pan: 40, zoom: 8000 },
  C4: { scene: 'Pontoon', pan: -45, zoom: 3000 },
} as const;

export type RegattaCamera = keyof typeof cameras;

/** How a camera of the regatta starts. */
export function regattaCamera(tag: RegattaCamera): { readonly scene: string; readonly startAt: Pose } {
  const { scene, pan, zoom } = cameras[tag];
  return { scene, startAt: { pan, tilt: 0, zoom, focus: 0x0800 } };
}

/** The presets that a camera of the regatta comes with: where each is, and what the camera sees there, as SVG. */
export function regattaPresets(tag: RegattaCamera): readonly { readonly pose: Pose; readonly picture: () => string }[] {
  const { scene, startAt } = regattaCamera(tag);
  return presetPoses(startAt).map((pose) => ({
    pose,
    picture: () => cameraStill(scene, { ...new CameraModel(pose, () => undefined).state }),
  }));
}
