/** Settings of the picture that are a switch or a step, with the greatest step. */
export const pictureSettings = {
  digitalZoom: 1,
  steadyFocus: 1,
  bright: 31,
  exposureCompensation: 1,
  exposureCompensationStep: 14,
  gainLimit: 15,
  wideDynamic: 1,
  slowShutter: 1,
  redGain: 255,
  blueGain: 255,
  sharpness: 15,
  noiseReduction: 5,
  gamma: 4,
  colourGain: 14,
  colourHue: 14,
  flip: 1,
  mirror: 1,
  freeze: 1,
  blackAndWhite: 1,
  nightMode: 1,
  tallyGreen: 1,
  remote: 1,
} as const;
export type PictureSetting = keyof typeof pictureSettings;

export const standardPicture: Readonly<Record<PictureSetting, number>> = {
  digitalZoom: 0,
  steadyFocus: 0,
  bright: 15,
  exposureCompensation: 0,
  exposureCompensationStep: 7,
  gainLimit: 12,
  wideDynamic: 0,
  slowShutter: 0,
  redGain: 128,
  blueGain: 128,
  sharpness: 6,
  noiseReduction: 2,
  gamma: 0,
  colourGain: 7,
  colourHue: 7,
  flip: 0,
  mirror: 0,
  freeze: 0,
  blackAndWhite: 0,
  nightMode: 0,
  tallyGreen: 0,
  remote: 1,
};

/** How a setting is written: as `02` and `03`, as two other bytes, or as a step in one byte or in four nibbles. */
type Written = 'step' | 'step4' | { readonly on: number; readonly off: number };

const onOff = { on: 0x02, off: 0x03 };

/** The bytes behind `8x 01` and `8x 09` by which each setting is set and asked for; of the green lamp they differ. */
export const pictureCodes: Readonly<Record<PictureSetting, { readonly code: string; readonly written: Written }>> = {
  digitalZoom: { code: '0406', written: onOff },
  steadyFocus: { code: '0458', written: { on: 0x03, off: 0x02 } },
  bright: { code: '044d', written: 'step4' },
  exposureCompensation: { code: '043e', written: onOff },
  exposureCompensationStep: { code: '044e', written: 'step4' },
  gainLimit: { code: '042c', written: 'step' },
  wideDynamic: { code: '043d', written: onOff },
  slowShutter: { code: '045a', written: onOff },
  redGain: { code: '0443', written: 'step4' },
  blueGain: { code: '0444', written: 'step4' },
  sharpness: { code: '0442', written: 'step4' },
  noiseReduction: { code: '0453', written: 'step' },
  gamma: { code: '045b', written: 'step' },
  colourGain: { code: '0449', written: 'step4' },
  colourHue: { code: '044f', written: 'step4' },
  flip: { code: '0466', written: onOff },
  mirror: { code: '0461', written: onOff },
  freeze: { code: '0462', written: onOff },
  blackAndWhite: { code: '0463', written: { on: 0x04, off: 0x00 } },
  nightMode: { code: '0401', written: onOff },
  tallyGreen: { code: '7e041a', written: onOff },
  remote: { code: '0608', written: onOff },
};

/** Settings that can be changed by one step, by the byte that names them. */
export const nudged: Readonly<Record<number, PictureSetting | 'iris' | 'shutter' | 'gain'>> = {
  0x02: 'sharpness',
  0x03: 'redGain',
  0x04: 'blueGain',
  0x0a: 'shutter',
  0x0b: 'iris',
  0x0c: 'gain',
  0x0d: 'bright',
  0x0e: 'exposureCompensationStep',
};

/** The value that a command writes; `undefined` for bytes that mean nothing. */
export function pictureValue(written: Written, bytes: readonly number[]): number | undefined {
  const [first] = bytes;
  if (typeof written === 'object') {
    if (bytes.length !== 1) return undefined;
    return first === written.on ? 1 : first === written.off ? 0 : undefined;
  }
  if (bytes.length !== (written === 'step' ? 1 : 4)) return undefined;
  return bytes.reduce((all, byte) => all * 16 + (byte & 15), 0);
}

/** The bytes by which the camera tells a value. */
export function pictureBytes(written: Written, value: number): number[] {
  if (typeof written === 'object') return [value === 1 ? written.on : written.off];
  return written === 'step' ? [value] : [0, 0, value >> 4, value & 15];
}
