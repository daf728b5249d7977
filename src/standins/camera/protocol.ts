import { isInquiry } from '../../core/wire';
import { nudged, pictureBytes, pictureCodes, pictureSettings, pictureValue, type PictureSetting } from './picture';
import {
  limits,
  presetCount,
  unitsPerDegree,
  type CameraModel,
  type CameraState,
  type Direction,
  type ExposureMode,
  type WhiteBalance,
} from './model';

/**
 * The camera's messages, as its manual in docs/protocols/ptz-camera.md has them. A message is carried out at once, or takes a
 * while, or is refused.
 */
type Handled =
  | { readonly is: 'answer'; readonly data: Uint8Array }
  | { readonly is: 'done' }
  /** It goes on until `finished` is called back. */
  | { readonly is: 'running' }
  | { readonly is: 'error'; readonly code: number };

const syntax: Handled = { is: 'error', code: 0x02 };
const notNow: Handled = { is: 'error', code: 0x41 };
const done: Handled = { is: 'done' };

const exposureCodes: Readonly<Record<number, ExposureMode>> = {
  0x00: 'auto',
  0x03: 'manual',
  0x0a: 'shutter',
  0x0b: 'iris',
  0x0d: 'bright',
};
const balanceCodes: Readonly<Record<number, WhiteBalance>> = {
  0x00: 'auto',
  0x01: 'indoor',
  0x02: 'outdoor',
  0x03: 'onePush',
  0x04: 'tracking',
  0x05: 'manual',
};

const codeOf = (codes: Readonly<Record<number, string>>, value: string): number =>
  Number(Object.keys(codes).find((code) => codes[Number(code)] === value));

/** Vendor and model as the version inquiry gives them; both are made up. */
const version = (otherModel: boolean): number[] => [0x7f, 0x01, 0x05, otherModel ? 0x77 : 0x11, 0x01, 0x04, 0x02];

/** Carries a payload out. `finished` hears when something that takes a while is over. */
export function handle(
  model: CameraModel,
  payload: Uint8Array,
  otherModel: boolean,
  finished: (reached: boolean) => void,
): Handled {
  const body = Array.from(payload.subarray(2, -1));
  if (isInquiry(payload)) return inquire(model.state, body, otherModel);
  if (payload[1] !== 0x01) return syntax;
  const hex = body.map((byte) => byte.toString(16).padStart(2, '0')).join('');
  if (hex.startsWith('0601') && body.length === 6) return drive(model, body.slice(2));
  if (hex.startsWith('0602') && body.length === 12) {
    const pan = signed(nibbles(body.slice(4, 8))) / unitsPerDegree;
    const tilt = signed(nibbles(body.slice(8, 12))) / unitsPerDegree;
    if (Math.abs(pan) > limits.pan + 1 || tilt > limits.tiltUp + 1 || tilt < limits.tiltDown - 1) return notNow;
    model.goTo({ pan, tilt }, clampSpeed(body[2] ?? 1), finished);
    return { is: 'running' };
  }
  if (hex.startsWith('0603') && body.length === 12) {
    const { pan, tilt } = model.state;
    const by = (bytes: readonly number[]) => signed(nibbles(bytes)) / unitsPerDegree;
    model.goTo(
      { pan: pan + by(body.slice(4, 8)), tilt: tilt + by(body.slice(8, 12)) },
      clampSpeed(body[2] ?? 1),
      finished,
    );
    return { is: 'running' };
  }
  if (hex === '0605') {
    model.goTo({ pan: 0, tilt: 0 }, 24, finished);
    return { is: 'running' };
  }
  // Limits are taken; this camera has no more than its own.
  if (/^060700(00|01)/.test(hex) && body.length === 12) return done;
  if (/^060701(00|01)070f0f0f070f0f0f$/.test(hex)) return done;
  if (hex === '060604' || hex === '060605') {
    if (!model.state.menu) return notNow;
    model.workMenu(hex.endsWith('05') ? 'enter' : 'back');
    return done;
  }
  if (hex === '040002' || hex === '040003') return set(model, { awake: hex.endsWith('02') });
  if (hex === '0604') {
    model.goTo({ pan: 0, tilt: 0 }, 24, finished);
    return { is: 'running' };
  }
  if (hex === '0606' + '02' || hex === '060603') return set(model, { menu: hex.endsWith('02') });
  if (hex.startsWith('0407')) return zoomOrFocus(body, (speed) => model.move({ zoomSpeed: speed }), 2);
  if (hex.startsWith('0408')) {
    if (model.state.focusAuto) return notNow;
    // Near is a larger number.
    return zoomOrFocus(body, (speed) => model.move({ focusSpeed: speed }), 3);
  }
  if (hex.startsWith('0447') && body.length === 6) {
    const zoom = nibbles(body.slice(2));
    if (zoom > limits.zoom) return syntax;
    model.goTo({ zoom }, 24, finished);
    return { is: 'running' };
  }
  if (hex.startsWith('0448') && body.length === 6) {
    if (model.state.focusAuto) return notNow;
    model.goTo({ focus: Math.min(limits.focus, nibbles(body.slice(2))) }, 24, finished);
    return { is: 'running' };
  }
  switch (hex) {
    case '043802':
      return set(model, { focusAuto: true });
    case '043803':
      return set(model, { focusAuto: false });
    case '041802':
      if (model.state.focusAuto) return notNow;
      model.goTo({ focus: 0 }, 24, finished);
      return { is: 'running' };
    case '041801':
      if (model.state.focusAuto) return notNow;
      model.goTo({ focus: 0x0800 }, 24, finished);
      return { is: 'running' };
    case '043302':
      return set(model, { backlight: true });
    case '043303':
      return set(model, { backlight: false });
    case '041005':
      return model.state.whiteBalance === 'onePush' ? done : notNow;
    case '7e010a0002':
      return set(model, { tally: true });
    case '7e010a0003':
      return set(model, { tally: false });
    default:
      break;
  }
  return picture(model, hex, body) ?? valueOrPreset(model, hex, body, finished);
}

/** A setting of the picture set, or changed by one step; `undefined` for another message. */
function picture(model: CameraModel, hex: string, body: readonly number[]): Handled | undefined {
  for (const [name, { code, written }] of Object.entries(pictureCodes)) {
    // The green lamp has one byte more where it is set.
    const start = name === 'tallyGreen' ? `${code}00` : code;
    if (!hex.startsWith(start) || hex.length === start.length) continue;
    const setting = name as PictureSetting;
    const value = pictureValue(written, body.slice(start.length / 2));
    const least = setting === 'gainLimit' ? 4 : 0;
    if (value === undefined || value < least || value > pictureSettings[setting]) return syntax;
    if (!canSet(model.state, setting)) return notNow;
    model.setPicture(setting, value);
    return done;
  }
  const [first, code = -1, way, ...more] = body;
  const setting = nudged[code];
  if (first !== 0x04 || setting === undefined || way === undefined || more.length > 0) return undefined;
  if (way !== 0 && way !== 2 && way !== 3) return syntax;
  if (setting === 'iris' || setting === 'shutter' || setting === 'gain') return nudgeExposure(model, setting, way);
  if (!canSet(model.state, setting)) return notNow;
  model.setPicture(setting, way === 0 ? undefined : model.state.picture[setting] + (way === 2 ? 1 : -1));
  return done;
}

/** What a mode of the camera sets by itself cannot be set by hand. */
function canSet({ exposure, whiteBalance }: CameraState, setting: PictureSetting): boolean {
  if (setting === 'bright') return exposure === 'bright';
  return (setting !== 'redGain' && setting !== 'blueGain') || whiteBalance === 'manual';
}

const exposureSteps = [
  ['iris', '044b', 17, ['manual', 'iris']],
  ['shutter', '044a', 21, ['manual', 'shutter']],
  ['gain', '044c', 15, ['manual']],
] as const;

function nudgeExposure(model: CameraModel, setting: 'iris' | 'shutter' | 'gain', way: 0 | 2 | 3): Handled {
  const [, , most = 0, modes = []] = exposureSteps.find(([name]) => name === setting) ?? [];
  if (!(modes as readonly string[]).includes(model.state.exposure)) return notNow;
  const next = way === 0 ? 0 : model.state[setting] + (way === 2 ? 1 : -1);
  return set(model, { [setting]: Math.max(0, Math.min(most, next)) });
}

function valueOrPreset(
  model: CameraModel,
  hex: string,
  body: readonly number[],
  finished: (reached: boolean) => void,
): Handled {
  const last = body.at(-1) ?? 0;
  if (hex.startsWith('0439') && body.length === 3) {
    const exposure = exposureCodes[last];
    return exposure ? set(model, { exposure }) : syntax;
  }
  if (hex.startsWith('0435') && body.length === 3) {
    const whiteBalance = balanceCodes[last];
    return whiteBalance ? set(model, { whiteBalance }) : syntax;
  }
  for (const [field, start, most, modes] of exposureSteps) {
    if (!hex.startsWith(start) || body.length !== 6) continue;
    // A value that the exposure mode sets by itself cannot be set by hand.
    if (!(modes as readonly string[]).includes(model.state.exposure)) return notNow;
    const value = nibbles(body.slice(2));
    return value > most ? syntax : set(model, { [field]: value });
  }
  if (hex.startsWith('043f') && body.length === 4) {
    const [, , action, preset = 0] = body;
    if (preset >= presetCount) return syntax;
    if (action === 1) model.store(preset);
    else if (action === 0) model.forget(preset);
    else if (action === 2) {
      const pose = model.state.presets[preset];
      if (!pose) return notNow;
      model.goTo(pose, 20, finished);
      return { is: 'running' };
    } else return syntax;
    return done;
  }
  return syntax;
}

function drive(model: CameraModel, [pan = 0, tilt = 0, x = 3, y = 3]: readonly number[]): Handled {
  if (pan > 24 || tilt > 20 || x < 1 || x > 3 || y < 1 || y > 3) return syntax;
  // While the menu is open, the directions move in it and not the camera.
  if (model.state.menu) {
    if (y !== 3) model.workMenu(y === 1 ? 'up' : 'down');
    return done;
  }
  const sign = (code: number, plus: number): Direction => (code === 3 ? 0 : code === plus ? 1 : -1);
  model.move({ panSpeed: sign(x, 2) * Math.max(1, pan), tiltSpeed: sign(y, 1) * Math.max(1, tilt) });
  return done;
}

/** `00` stops, `2p` and `3p` go one way or the other at speed p (0 to 7), `02` and `03` at the middle speed. */
function zoomOrFocus(body: readonly number[], move: (speed: number) => void, plus: 2 | 3): Handled {
  const [, , code = 0xff] = body;
  if (body.length !== 3) return syntax;
  if (code === 0) move(0);
  else if (code === 2 || code === 3) move(code === plus ? 4 : -4);
  else if (code >> 4 === 2 || code >> 4 === 3) {
    if ((code & 15) > 7) return syntax;
    move(((code & 15) + 1) * (code >> 4 === plus ? 1 : -1));
  } else return syntax;
  return done;
}

function inquire(state: CameraState, body: readonly number[], otherModel: boolean): Handled {
  const answer = (...data: number[]): Handled => ({ is: 'answer', data: Uint8Array.from(data) });
  const onOff = (on: boolean) => answer(on ? 2 : 3);
  const hex = body.map((byte) => byte.toString(16).padStart(2, '0')).join('');
  for (const [name, { code, written }] of Object.entries(pictureCodes))
    if (hex === code) return answer(...pictureBytes(written, state.picture[name as PictureSetting]));
  switch (hex) {
    case '0002':
      return answer(...version(otherModel));
    case '0400':
      return onOff(state.awake);
    case '0612':
      return answer(...four(state.pan * unitsPerDegree), ...four(state.tilt * unitsPerDegree));
    case '0447':
      return answer(...four(state.zoom));
    case '0448':
      return answer(...four(state.focus));
    case '0438':
      return onOff(state.focusAuto);
    case '0439':
      return answer(codeOf(exposureCodes, state.exposure));
    case '044b':
      return answer(...four(state.iris));
    case '044a':
      return answer(...four(state.shutter));
    case '044c':
      return answer(...four(state.gain));
    case '0435':
      return answer(codeOf(balanceCodes, state.whiteBalance));
    case '0433':
      return onOff(state.backlight);
    case '7e010a':
      return onOff(state.tally);
    case '0606':
      return onOff(state.menu);
    default:
      return syntax;
  }
}

function set(model: CameraModel, change: Parameters<CameraModel['set']>[0]): Handled {
  model.set(change);
  return done;
}

const clampSpeed = (speed: number): number => Math.max(1, Math.min(24, speed));
const nibbles = (bytes: readonly number[]): number => bytes.reduce((all, byte) => all * 16 + (byte & 15), 0);
const signed = (value: number): number => (value >= 0x8000 ? value - 0x10000 : value);
const four = (value: number): number[] => {
  const whole = Math.round(value) & 0xffff;
  return [whole >> 12, (whole >> 8) & 15, (whole >> 4) & 15, whole & 15];
};
