import { cameraPageEdit } from '../src/core/page';
import { withEngineReadings, type DeviceRecord, type PresetRecord, type ShowRecord } from '../src/core/show';
import { compileDriver, documentFor, type DriverDocument } from '../src/core/driver';
import { shippedDrivers } from '../src/drivers';
import { regattaPresets, type RegattaCamera } from '../src/standins';

/** The camera operator's page, and the presets that the cameras have stored: six each. */

const names: Readonly<Record<RegattaCamera, readonly string[]>> = {
  C1: ['Boathouses', 'Start line', 'Tower close', 'Far bank', 'All lanes', 'Umpire'],
  C2: ['Lanes, left', 'Lanes, middle', 'Bow close', 'Trees', 'Whole course', 'Lanes, right'],
  C3: ['Run-in', 'Finish', 'Photo finish', 'Beyond the line', 'Both banks', 'Judges'],
  C4: ['Arrivals', 'Pontoon', 'Guest close', 'Boats landing', 'Whole pontoon', 'Prizes'],
};
const favourites: ReadonlySet<string> = new Set(['C1 1', 'C1 4', 'C2 1', 'C3 1', 'C3 2', 'C4 1', 'C4 2']);

const storedAt = '2026-06-13T16:00:00.000Z';
const tags = ['C1', 'C2', 'C3', 'C4'] as const;

/** A preset of a camera as the show keeps it; its picture is added when the demo is made. */
export const demoPresets = (): PresetRecord[] =>
  tags.flatMap((tag) =>
    regattaPresets(tag).map(({ pose: { pan, tilt, zoom, focus } }, number): PresetRecord => ({
      kind: 'preset',
      id: `preset-${tag.toLowerCase()}-${number}`,
      version: 1,
      data: {
        device: `dev-${tag.toLowerCase()}`,
        number,
        name: names[tag][number] ?? '',
        note: '',
        order: number,
        ...(favourites.has(`${tag} ${number}`) ? { favourite: true } : {}),
        place: { pan, tilt, zoom: perCent(zoom, 0x4000), focus: perCent(focus, 0x1000) },
        storedAt,
      },
    })),
  );

const perCent = (value: number, full: number): number => Math.round((value / full) * 1000) / 10;

/** What a preset of the demo looks like, as SVG, by its id. */
export const demoPresetPictures = (): ReadonlyMap<string, string> =>
  new Map(
    tags.flatMap((tag) =>
      regattaPresets(tag).map(({ picture }, number) => [`preset-${tag.toLowerCase()}-${number}`, picture()] as const),
    ),
  );

/** The page that is made for the cameras of any rig, made for this one. */
export function cameraWorkPage(devices: readonly DeviceRecord[]): ShowRecord[] {
  const cameras = tags.flatMap((tag) => devices.filter(({ data }) => data.tag === tag));
  let count = 0;
  const made = cameraPageEdit(cameras, 'Camera work', {
    records: [],
    documentOf: (id) => documentOf(cameras.find((each) => each.id === id)),
    newId: (kind) => (kind === 'page' ? 'page-work' : `${kind}-work-${(count += 1)}`),
  });
  if (!made) throw new Error('The demo has no cameras.');
  return made.edit.changes.flatMap((change): ShowRecord[] => {
    if (change.op !== 'add') return [];
    const { record } = change;
    return record.kind === 'page' ? [{ ...record, data: { ...record.data, order: 6.55 } }] : [record];
  });
}

function documentOf(device: DeviceRecord | undefined): DriverDocument | undefined {
  if (!device) return undefined;
  const compiled = compileDriver(shippedDrivers.find((each) => (each as { id?: unknown }).id === device.data.driver));
  return compiled.ok ? withEngineReadings(documentFor(compiled.value.whole, device.data), true) : undefined;
}

/** What the steps of iris, shutter and gain are, as the manual of the stand-in cameras lists them. */
export const cameraSteps = {
  iris: 'closed, F22, F19, F16, F13, F11, F9.5, F8, F6.7, F5.6, F4.8, F4, F3.4, F2.8, F2.4, F2, F1.7, F1.4',
  shutter:
    '1 s, 1/2, 1/4, 1/8, 1/15, 1/25, 1/30, 1/50, 1/60, 1/75, 1/100, 1/120, 1/150, 1/200, 1/250, 1/400, 1/500, 1/1000, 1/2000, 1/4000, 1/8000, 1/16000',
  gain: '-3 dB, 0 dB, 3 dB, 6 dB, 9 dB, 12 dB, 15 dB, 18 dB, 21 dB, 24 dB, 27 dB, 30 dB, 33 dB, 36 dB, 39 dB, 42 dB',
} as const;
