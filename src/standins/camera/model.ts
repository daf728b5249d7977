import { menuAtStart, menuBack, menuEnter, menuStep, type MenuState } from './menu';
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

export const exposureModes = ['auto', 'manual', 'shutter', 'iris', 'bright'] as const;
export type ExposureMode = (typeof exposureModes)[number];
export const whiteBalances = ['auto', 'indoor', 'outdoor', 'onePush', 'tracking', 'manual'] as const;
export type WhiteBalance = (typeof whiteBalances)[number];

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
  readonly menuState: MenuState;
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

type Axis = keyof Pose;
const allAxes = ['pan', 'tilt', 'zoom', 'focus'] as const;

/** Where some of its axes are driving to, and who wants to know when they are there. Head, zoom and focus have motors of their own. */
interface Target {
  readonly pose: Partial<Pose>;
  readonly speed: number;
  readonly done: (reached: boolean) => void;
}

/** What is stored in a camera as it comes: six presets around where it looks at its start. */
export const presetPoses = (startAt: Pose): Pose[] => [
  ...[0, 1, 2, 3].map((n) => ({ ...startAt, pan: startAt.pan + (n - 1) * 30, zoom: n * 0x1000 })),
  { ...startAt, pan: startAt.pan - 12, tilt: -6, zoom: 0x0c00 },
  { ...startAt, pan: startAt.pan + 18, tilt: 4, zoom: 0x1800 },
];

export class CameraModel {
  private current: CameraState;
  private drive = still;
  private frozen: CameraState | undefined;
  /** No axis is in two of them. */
  private targets: readonly Target[] = [];

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
      menuState: menuAtStart,
      awake: true,
      picture: standardPicture,
      presets: Array.from({ length: presetCount }, (_, n) => presetPoses(startAt)[n] ?? null),
      moving: false,
    };
  }

  get state(): CameraState {
    return this.current;
  }

  /** Drives until told otherwise; a speed of 0 stops that axis. */
  move(change: Partial<Drive>): void {
    this.interrupt(allAxes.filter((axis) => `${axis}Speed` in change));
    this.drive = { ...this.drive, ...change };
    this.onChange();
  }

  set(change: { readonly [K in keyof Setting]?: Setting[K] | undefined }): void {
    // The menu begins at its first line each time that it is opened.
    const menu = change.menu === true && !this.current.menu ? { menuState: menuAtStart } : {};
    const given = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined));
    this.current = { ...this.current, ...given, ...menu };
    this.onChange();
  }

  /** Works the menu while it is open. */
  workMenu(key: 'up' | 'down' | 'enter' | 'back'): void {
    const work = { up: () => menuStep(this.current, -1), down: () => menuStep(this.current, 1) };
    const { menuState, change } =
      key === 'enter' ? menuEnter(this.current) : key === 'back' ? menuBack(this.current) : work[key]();
    this.current = { ...this.current, ...change, menuState };
    this.onChange();
  }

  /** What its picture shows: what it sees, or what it saw when it was frozen. */
  get seen(): CameraState {
    const { pan, tilt, zoom, focus } = this.frozen ?? this.current;
    return { ...this.current, pan, tilt, zoom, focus };
  }

  /** Sets a switch or a step; `undefined` gives it its standard value. Keeps it within its range. */
  setPicture(setting: PictureSetting, value: number | undefined): void {
    const wanted = value ?? standardPicture[setting];
    const step = Math.max(0, Math.min(pictureSettings[setting], wanted));
    if (setting === 'freeze') this.frozen = step === 1 ? this.current : undefined;
    this.current = { ...this.current, picture: { ...this.current.picture, [setting]: step } };
    this.onChange();
  }

  /** Drives to a place; `done` hears when it is there, or that something else came between. */
  goTo(pose: Partial<Pose>, speed: number, done: (reached: boolean) => void): void {
    const axes = allAxes.filter((axis) => pose[axis] !== undefined);
    this.interrupt(axes);
    this.drive = { ...this.drive, ...Object.fromEntries(axes.map((axis) => [`${axis}Speed`, 0])) };
    const whole = clamp({ ...this.current, ...pose });
    const wanted = Object.fromEntries(axes.map((axis) => [axis, whole[axis]]));
    this.targets = [...this.targets, { pose: wanted, speed, done }];
    this.onChange();
  }

  /** Ends whatever drives to a place, as a cancel does. False when nothing does. */
  cancel(): boolean {
    const was = this.targets.length > 0;
    this.interrupt(allAxes);
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
    for (const target of this.targets) this.approach(target);
    if (allAxes.some((axis) => this.drive[`${axis}Speed`] !== 0)) {
      const { pan, tilt, zoom, focus } = this.current;
      const { panSpeed, tiltSpeed, zoomSpeed, focusSpeed } = this.drive;
      this.place({
        pan: pan + (panSpeed * degreesPerSpeed) / framesPerSecond,
        tilt: tilt + (tiltSpeed * degreesPerSpeed) / framesPerSecond,
        zoom: zoom + (zoomSpeed * zoomPerSpeed) / framesPerSecond,
        focus: focus + (focusSpeed * focusPerSpeed) / framesPerSecond,
      });
    }
    const moving = allAxes.some((axis) => this.current[axis] !== before[axis]);
    if (moving !== before.moving) this.current = { ...this.current, moving };
    if (this.current !== before) this.onChange();
  }

  private approach(target: Target): void {
    const { pose, speed, done } = target;
    const degrees = (speed * degreesPerSpeed) / framesPerSecond;
    const most = {
      pan: degrees,
      tilt: degrees,
      zoom: limits.zoom / framesPerSecond,
      focus: limits.focus / framesPerSecond,
    };
    const step = (axis: Axis) => {
      const from = this.current[axis];
      return from + Math.max(-most[axis], Math.min(most[axis], (pose[axis] ?? from) - from));
    };
    this.place({ pan: step('pan'), tilt: step('tilt'), zoom: step('zoom'), focus: step('focus') });
    if (allAxes.some((axis) => pose[axis] !== undefined && this.current[axis] !== pose[axis])) return;
    this.targets = this.targets.filter((each) => each !== target);
    done(true);
  }

  private place(pose: Pose): void {
    this.current = { ...this.current, ...clamp(pose) };
  }

  /** Something else is wanted of these axes: what drives one of them has not arrived. */
  private interrupt(axes: readonly Axis[]): void {
    const ended = this.targets.filter(({ pose }) => axes.some((axis) => pose[axis] !== undefined));
    this.targets = this.targets.filter((each) => !ended.includes(each));
    for (const { done } of ended) done(false);
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
