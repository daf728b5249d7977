import { pictureSettings, standardPicture, type PictureSetting } from './picture';

/** A PTZ camera without a socket: where it looks, how it is exposed, and how it moves from frame to frame. */

export const limits = { pan: 170, tiltUp: 90, tiltDown: -30, zoom: 0x4000, focus: 0x1000 } as const;
/** Units of the position on the wire, for one degree. */
export const unitsPerDegree = 14.4;
export const presetCount = 16;

export type Direction = -1 | 0 | 1;

export interface Pose {
  /** Degrees, right and up are positive. */
  readonly pan: number;
  readonly tilt: number;
  /** 0 wide to 0x4000 tele. */
  readonly zoom: number;
  /** 0 far to 0x1000 near. */
  readonly focus: number;
}

export type ExposureMode = 'auto' | 'manual' | 'shutter' | 'iris' | 'bright';
export type WhiteBalance = 'auto' | 'indoor' | 'outdoor' | 'onePush' | 'tracking' | 'manual';

export interface CameraState extends Pose {
  readonly focusAuto: boolean;
  readonly exposure: ExposureMode;
  /** Steps, as the camera counts them. */
  readonly iris: number;
  readonly shutter: number;
  readonly gain: number;
  readonly whiteBalance: WhiteBalance;
  readonly backlight: boolean;
  readonly tally: boolean;
  readonly menu: boolean;
  /** Not in standby. */
  readonly awake: boolean;
  readonly picture: Readonly<Record<PictureSetting, number>>;
  readonly presets: readonly (Pose | null)[];
  readonly moving: boolean;
}

interface Drive {
  readonly panSpeed: number;
  readonly tiltSpeed: number;
  readonly zoomSpeed: number;
  readonly focusSpeed: number;
}

const still: Drive = { panSpeed: 0, tiltSpeed: 0, zoomSpeed: 0, focusSpeed: 0 };
const framesPerSecond = 25;
/** Degrees a second at speed 1 of the wire; the speeds 1 to 24 are that many times it. */
const degreesPerSpeed = 2.5;
const zoomPerSpeed = 0x4000 / 24;
const focusPerSpeed = 0x1000 / 16;

type Setting = Pick<
  CameraState,
  'focusAuto' | 'exposure' | 'iris' | 'shutter' | 'gain' | 'whiteBalance' | 'backlight' | 'tally' | 'menu' | 'awake'
>;

/** Where it is driving to, and who wants to know when it is there. */
interface Target {
  readonly pose: Pose;
  readonly speed: number;
  readonly done: (reached: boolean) => void;
}

export class CameraModel {
  private current: CameraState;
  private drive = still;
  private target: Target | undefined;

  constructor(
    startAt: Pose,
    private readonly onChange: () => void,
  ) {
    this.current = {
      ...startAt,
      focusAuto: true,
      exposure: 'auto',
      iris: 10,
      shutter: 6,
      gain: 2,
      whiteBalance: 'auto',
      backlight: false,
      tally: false,
      menu: false,
      awake: true,
      picture: standardPicture,
      presets: Array.from({ length: presetCount }, (_, n) =>
        n < 4 ? { ...startAt, pan: startAt.pan + (n - 1) * 30, zoom: n * 0x1000 } : null,
      ),
      moving: false,
    };
  }

  get state(): CameraState {
    return this.current;
  }

  /** Drives until told otherwise; a speed of 0 stops that axis. */
  move(change: Partial<Drive>): void {
    this.arrive(false);
    this.drive = { ...this.drive, ...change };
    this.onChange();
  }

  set(change: Partial<Setting>): void {
    this.current = { ...this.current, ...change };
    this.onChange();
  }

  /** Sets a switch or a step; `undefined` gives it its standard value. Keeps it within its range. */
  setPicture(setting: PictureSetting, value: number | undefined): void {
    const wanted = value ?? standardPicture[setting];
    const step = Math.max(0, Math.min(pictureSettings[setting], wanted));
    this.current = { ...this.current, picture: { ...this.current.picture, [setting]: step } };
    this.onChange();
  }

  /** Drives to a place; `done` hears when it is there, or that something else came between. */
  goTo(pose: Partial<Pose>, speed: number, done: (reached: boolean) => void): void {
    this.arrive(false);
    this.drive = still;
    this.target = { pose: clamp({ ...this.current, ...pose }), speed, done };
    this.onChange();
  }

  /** Ends whatever drives to a place, as a cancel does. False when nothing does. */
  cancel(): boolean {
    const was = this.target !== undefined;
    this.arrive(false);
    return was;
  }

  store(preset: number): void {
    const { pan, tilt, zoom, focus } = this.current;
    this.setPreset(preset, { pan, tilt, zoom, focus });
  }

  forget(preset: number): void {
    this.setPreset(preset, null);
  }

  /** One frame passes. */
  frame(): void {
    const before = this.current;
    if (this.target) this.approach(this.target);
    else if (this.drive !== still) {
      const { pan, tilt, zoom, focus } = before;
      const { panSpeed, tiltSpeed, zoomSpeed, focusSpeed } = this.drive;
      this.place({
        pan: pan + (panSpeed * degreesPerSpeed) / framesPerSecond,
        tilt: tilt + (tiltSpeed * degreesPerSpeed) / framesPerSecond,
        zoom: zoom + (zoomSpeed * zoomPerSpeed) / framesPerSecond,
        focus: focus + (focusSpeed * focusPerSpeed) / framesPerSecond,
      });
    }
    const moving = (['pan', 'tilt', 'zoom', 'focus'] as const).some((axis) => this.current[axis] !== before[axis]);
    if (moving !== before.moving) this.current = { ...this.current, moving };
    if (this.current !== before) this.onChange();
  }

  private approach({ pose, speed, done }: Target): void {
    const step = (from: number, to: number, most: number) => from + Math.max(-most, Math.min(most, to - from));
    const degrees = (speed * degreesPerSpeed) / framesPerSecond;
    const { pan, tilt, zoom, focus } = this.current;
    this.place({
      pan: step(pan, pose.pan, degrees),
      tilt: step(tilt, pose.tilt, degrees),
      zoom: step(zoom, pose.zoom, 0x4000 / framesPerSecond),
      focus: step(focus, pose.focus, 0x1000 / framesPerSecond),
    });
    const there = (['pan', 'tilt', 'zoom', 'focus'] as const).every((axis) => this.current[axis] === pose[axis]);
    if (!there) return;
    this.target = undefined;
    done(true);
  }

  private place(pose: Pose): void {
    this.current = { ...this.current, ...clamp(pose) };
  }

  private arrive(reached: boolean): void {
    const { target } = this;
    this.target = undefined;
    target?.done(reached);
  }

  private setPreset(preset: number, pose: Pose | null): void {
    const presets = this.current.presets.map((each, n) => (n === preset ? pose : each));
    this.current = { ...this.current, presets };
    this.onChange();
  }
}

function clamp({ pan, tilt, zoom, focus }: Pose): Pose {
  const within = (value: number, least: number, most: number) => Math.max(least, Math.min(most, value));
  return {
    pan: within(pan, -limits.pan, limits.pan),
    tilt: within(tilt, limits.tiltDown, limits.tiltUp),
    zoom: within(zoom, 0, limits.zoom),
    focus: within(focus, 0, limits.focus),
  };
}
