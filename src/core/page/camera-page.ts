import { checkValue, type DriverDocument, type ValueShape } from '../driver';
import type { Scalar } from '../result';
import {
  startOf,
  tallyState,
  type ControlRecord,
  type DeviceRecord,
  type Edit,
  type PageRecord,
  type RecordChange,
  type ShowRecord,
  type Zone,
} from '../show';
import { fadersOf } from './kinds';
import { addPageEdit } from './page-edits';

/** A page to work cameras with, made from the rig: picture, stick, rockers, presets and the settings of the picture. */

type Data = ControlRecord['data'];
type Id = (kind: 'page' | 'ctl' | 'zone') => string;

export interface CameraPageSources {
  readonly records: readonly ShowRecord[];
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly newId: Id;
}

/** Ten columns and seven rows for the camera fill a tablet that lies on its side. */
const columns = 10;
const cameraRows = 7;

/** True for a device that such a page can be made for: a camera whose driver says how its head is steered. */
export const isSteered = (document: DriverDocument | undefined): boolean => document?.drives.head !== undefined;

/**
 * A page for these cameras. With several, their numbers at the top pick which one everything else drives; each number shows the tally of its
 * camera. What the first camera's driver does not offer is left out; what another one lacks is barred while that is picked.
 */
export function cameraPageEdit(
  cameras: readonly DeviceRecord[],
  name: string,
  { records, documentOf, newId }: CameraPageSources,
): { readonly edit: Edit; readonly page: PageRecord } | undefined {
  const [camera] = cameras;
  const document = camera && documentOf(camera.id);
  if (!camera || !document) return undefined;
  const pickRows = cameras.length === 1 ? 0 : Math.ceil(cameras.length / columns);
  const made = addPageEdit(records, name, newId('page'));
  const own: Zone = {
    id: newId('zone'),
    // The numbers say which camera it is; a title would take the height of half a row.
    title: cameras.length === 1 ? camera.data.name : '',
    col: 0,
    row: pickRows,
    cols: columns,
    rows: cameraRows,
    ...(cameras.length === 1 ? {} : { pick: { devices: cameras.map(({ id }) => id) } }),
  };
  const page: PageRecord = {
    ...made.page,
    data: {
      ...made.page.data,
      columns,
      rows: pickRows + cameraRows,
      zones: [own],
    },
  };
  const put = (col: number, row: number, cols: number, rows: number, data: Partial<Data>): RecordChange => ({
    op: 'add',
    record: {
      kind: 'control',
      id: newId('ctl'),
      version: 1,
      data: { ...empty, ...data, page: page.id, col, row, cols, rows },
    },
  });
  const numbers =
    cameras.length === 1
      ? []
      : cameras.map((each, n) => {
          const cols = Math.max(1, Math.floor(columns / cameras.length));
          const across = Math.min(cameras.length, columns);
          return put((n % across) * cols, Math.floor(n / across), cols, 1, numberOf(each, own.id));
        });
  const controls = controlsFor(camera.id, document).map(({ at: [col, row, cols, rows], data }) =>
    put(col, pickRows + row, cols, rows, data),
  );
  return {
    page,
    edit: {
      title: `Add page ${page.data.name}`,
      changes: [{ op: 'add', record: page }, ...numbers, ...controls],
    },
  };
}

const empty: Omit<Data, 'page' | 'col' | 'row'> = {
  type: 'button',
  cols: 1,
  rows: 1,
  label: [],
  values: {},
  responses: { tap: [] },
  lamps: [],
};

const text = (label: string): Data['label'] => [{ text: label }];

/** The number of a camera: it picks what the zone drives, and is lit by the camera's tally. */
const numberOf = ({ id, data }: DeviceRecord, zone: string): Partial<Data> => {
  const tally = (to: string) => ({ op: 'equals' as const, reading: { device: id, key: tallyState }, to });
  return {
    label: text(`${data.tag} ${data.name}`),
    sets: { zone, device: id },
    lamps: [
      { when: tally('onAir'), show: 'onAir', word: 'ON AIR' },
      { when: tally('next'), show: 'next', word: 'NEXT' },
    ],
  };
};

interface Placed {
  readonly at: readonly [col: number, row: number, cols: number, rows: number];
  readonly data: Partial<Data>;
}

/** Everything that is about the camera, as far as its driver offers it. */
function controlsFor(device: string, document: DriverDocument): Placed[] {
  const { drives, stills, presets } = document;
  const rocker = (drive: string, label: string): Partial<Data> | undefined =>
    drives[drive] && { type: 'stick', label: text(label), drive: { device, drive, axes: 'along' } };
  const still = stills.view ? 'view' : Object.keys(stills)[0];
  const button = (command: string, given: Readonly<Record<string, Scalar>>, label: string) =>
    chosen(document, device, command, given, label);
  const all: readonly (readonly [Placed['at'], Partial<Data> | undefined])[] = [
    [
      [0, 0, 5, 3],
      still === undefined
        ? undefined
        : { type: 'readout', label: text('Picture'), shows: { kind: 'still', device, still } },
    ],
    [[5, 0, 3, 3], drives.head && { type: 'stick', label: text('Pan and tilt'), drive: { device, drive: 'head' } }],
    [[8, 0, 1, 3], rocker('zoom', 'Zoom')],
    [[9, 0, 1, 3], rocker('focus', 'Focus')],
    [
      [0, 3, 5, 4],
      presets && {
        type: 'presets',
        label: text('Presets'),
        presets: { device, places: 8, columns: 4, guardsOnAir: true },
      },
    ],
    [[5, 3, 1, 1], button('exposure', { mode: 'auto' }, 'Auto exposure')],
    [[6, 3, 1, 1], button('exposure', { mode: 'manual' }, 'Manual exposure')],
    [[7, 3, 1, 1], button('autoFocus', { on: true }, 'Auto focus')],
    [[8, 3, 1, 1], button('autoFocus', { on: false }, 'Manual focus')],
    [[9, 3, 1, 1], button('home', {}, 'Home')],
    [[5, 4, 2, 1], fader(document, device, 'iris', 'Iris')],
    [[7, 4, 2, 1], fader(document, device, 'gain', 'Gain')],
    [[9, 4, 1, 1], chosen(document, device, 'menu', { on: true }, 'Menu', { on: false })],
    [[5, 5, 1, 1], button('whiteBalance', { mode: 'auto' }, 'Auto white')],
    [[6, 5, 1, 1], button('whiteBalance', { mode: 'manual' }, 'Manual white')],
    [[7, 5, 1, 1], button('whiteBalance', { mode: 'indoor' }, 'Indoor')],
    [[8, 5, 1, 1], button('whiteBalance', { mode: 'outdoor' }, 'Outdoor')],
    [[9, 5, 1, 1], button('menuEnter', {}, 'Enter')],
    [[5, 6, 2, 1], fader(document, device, 'redGain', 'Red')],
    [[7, 6, 2, 1], fader(document, device, 'blueGain', 'Blue')],
    [[9, 6, 1, 1], button('menuBack', {}, 'Back')],
  ];
  return all.flatMap(([at, data]) => (data ? [{ at, data }] : []));
}

/** A button for a command with these values, lit while the camera reports them; `undefined` where the driver lacks it. */
function chosen(
  document: DriverDocument,
  device: string,
  command: string,
  given: Readonly<Record<string, Scalar>>,
  label: string,
  /** What a second tap sends instead. */
  otherwise?: Readonly<Record<string, Scalar>>,
): Partial<Data> | undefined {
  const offered = document.commands[command];
  // A mode that the camera does not have is not offered.
  if (!offered || Object.entries(given).some(([name, value]) => !takes(offered.params[name]?.value, value)))
    return undefined;
  const start = startOf(document, device, command, given);
  const { confirm } = offered;
  const test = confirm?.by === 'readings' ? confirm.all[0] : undefined;
  const [value] = Object.values(given);
  const lamps: Data['lamps'] =
    test && value !== undefined
      ? [{ when: { op: 'equals', reading: { device, key: test.reading }, to: value }, show: 'active', word: 'ON' }]
      : [];
  const responses = otherwise
    ? { ...start.responses, turns: [[{ device, command, params: { ...otherwise } }]] }
    : start.responses;
  return { ...start, responses, label: text(label), lamps };
}

/** A fader for a number of the camera; `undefined` where the driver offers none. */
function fader(document: DriverDocument, device: string, command: string, label: string): Partial<Data> | undefined {
  const found = fadersOf(device, document, {}).find(({ start }) => start.range?.send.command === command);
  return found && { ...found.start, label: text(label) };
}

const takes = (shape: ValueShape | undefined, value: Scalar): boolean =>
  shape !== undefined && checkValue(shape, value).ok;
