import type { ControlRecord, LabelSegment, LampRule, ShowRecord, Tint } from '../src/core/show';

/** What the pages of the demo are made of: zones of buttons with their tints, lamps and icons. */

export type Params = Readonly<Record<string, string | number | boolean>>;

/** When a control is lit, and as what. */
export interface Lamp {
  readonly key: string;
  readonly to: string | number | boolean;
  readonly show: LampRule['show'];
  readonly word?: string;
  /** It counts from so much less to so much more. */
  readonly about?: number;
  /** What counts is that it has changed not longer ago than this. */
  readonly withinMs?: number;
  /** It lights while the reading is anything else. */
  readonly not?: true;
}

export interface Button {
  readonly label: string | LabelSegment[];
  readonly device: string;
  readonly command?: string;
  /** The macro that it begins. */
  readonly runs?: string;
  readonly params?: Params;
  readonly held?: boolean;
  /** What it does besides, or instead. */
  readonly responses?: Partial<ControlRecord['data']['responses']>;
  readonly values?: Params;
  readonly shows?: ControlRecord['data']['shows'];
  readonly icon?: string;
  /** A fader: what it moves, from where to where. */
  readonly range?: ControlRecord['data']['range'];
  /** It covers so many columns. */
  readonly cols?: number;
  readonly rows?: number;
  readonly lamp?: Lamp;
  /** Instead of one: the first that holds. */
  readonly lamps?: readonly Lamp[];
  /** A list of the device, to browse. */
  readonly list?: Omit<NonNullable<ControlRecord['data']['list']>, 'device'>;
}

export interface Zone {
  readonly title: string;
  readonly col: number;
  readonly row: number;
  readonly cols: number;
  readonly buttons: readonly Button[];
}

/** A tint for each system, the same on every page, with its word in the legend. */
const systems: readonly (readonly [prefix: string, tint: Tint, word: string])[] = [
  ['dev-c', 'lagoon', 'Camera'],
  ['dev-r', 'slate', 'Replays'],
  ['dev-t', 'sand', 'Titles'],
  ['dev-a', 'plum', 'Sound'],
  ['dev-e', 'clay', 'Streams'],
  ['dev-g', 'lichen', 'Start and board'],
  ['dev-s1', 'lichen', 'Start and board'],
  ['dev-d', 'slate', 'Screens'],
  ['dev-l', 'sand', 'Lights'],
  ['dev-k', 'plum', 'Clocks'],
  ['dev-own', 'plum', 'Clocks'],
  ['dev-p', 'lagoon', 'Composer'],
  ['dev-v', 'slate', 'Slides'],
  ['dev-w', 'clay', 'Wall'],
  ['dev-h', 'sand', 'House'],
  ['dev-b', 'lichen', 'Start and board'],
];
const systemOf = (device: string) => systems.find(([prefix]) => device.startsWith(prefix));

function legendOf(zones: readonly Zone[]): Record<string, string> {
  const used = zones.flatMap(({ buttons }) => buttons.map(({ device }) => systemOf(device)));
  return Object.fromEntries(used.flatMap((system) => (system ? [[system[1], system[2]] as const] : [])));
}

/** Lays buttons out in zones, each filled row by row. */
/** A live picture from a device, in a zone without a title: the picture has one. */
export const pictureZone = (
  label: string,
  device: string,
  still: string,
  at: { readonly col: number; readonly row: number; readonly cols: number; readonly rows: number },
): Zone => ({
  title: '',
  ...at,
  buttons: [{ label, device, shows: { kind: 'still', device, still }, cols: at.cols, rows: at.rows }],
});

export function page(
  id: string,
  name: string,
  order: number,
  columns: number,
  note: string,
  zones: readonly Zone[],
): ShowRecord[] {
  const placeOf = ({ buttons }: Zone, n: number) => buttons.slice(0, n).reduce((sum, { cols = 1 }) => sum + cols, 0);
  // The buttons of a zone are all of one height.
  const heightOf = ({ buttons }: Zone) => buttons[0]?.rows ?? 1;
  const rowsOf = (zone: Zone) =>
    Math.max(1, Math.ceil(placeOf(zone, zone.buttons.length) / zone.cols)) * heightOf(zone);
  const controls = zones.flatMap((zone, z) =>
    zone.buttons.map((button, n) => {
      const place = placeOf(zone, n);
      return control(
        `${id.replace('page-', 'ctl-')}-${z + 1}-${n + 1}`,
        id,
        zone.col + (place % zone.cols),
        zone.row + Math.floor(place / zone.cols) * heightOf(zone),
        button,
      );
    }),
  );
  return [
    {
      kind: 'page',
      id,
      version: 1,
      data: {
        name,
        order,
        columns,
        rows: Math.max(...zones.map((zone) => zone.row + rowsOf(zone))),
        note,
        legend: legendOf(zones),
        zones: zones.map((zone, n) => ({
          id: `${id}-zone-${n + 1}`,
          title: zone.title,
          col: zone.col,
          row: zone.row,
          cols: zone.cols,
          rows: rowsOf(zone),
        })),
      },
    },
    ...controls,
  ];
}

function whenOf(device: string, { key, to, about, withinMs, not }: Lamp): LampRule['when'] {
  const reading = { device, key };
  if (not) return { op: 'differs', reading, to };
  if (withinMs !== undefined) return { op: 'changed', reading, withinMs };
  return about === undefined
    ? { op: 'equals', reading, to }
    : { op: 'within', reading, from: Number(to) - about, to: Number(to) + about };
}

function control(id: string, on: string, col: number, row: number, button: Button): ControlRecord {
  const { label, device, command, params = {}, held, lamp, shows, runs, responses, values, icon, range, list } = button;
  const lamps = button.lamps ?? (lamp ? [lamp] : []);
  const tint = systemOf(device)?.[1];
  const sends = command === undefined ? [] : [{ device, command, params: { ...params } }];
  return {
    kind: 'control',
    id,
    version: 1,
    data: {
      page: on,
      type: list
        ? 'list'
        : range
          ? 'fader'
          : [command, runs, responses].every((each) => each === undefined)
            ? 'readout'
            : 'button',
      ...(range ? { range } : {}),
      ...(list ? { list: { device, ...list } } : {}),
      col,
      row,
      cols: button.cols ?? 1,
      rows: button.rows ?? 1,
      ...(shows ? { shows } : {}),
      ...(tint ? { tint } : {}),
      ...(icon === undefined ? {} : { icon }),
      label: typeof label === 'string' ? [{ text: label }] : label,
      values: { ...values },
      responses: {
        ...(held ? { tap: [], held: sends } : { tap: sends }),
        ...(runs === undefined ? {} : { runs: { macro: runs, params: {} } }),
        ...responses,
      },
      lamps: lamps.map((each) => ({
        when: whenOf(device, each),
        show: each.show,
        ...(each.word === undefined ? {} : { word: each.word }),
      })),
    },
  };
}

export const reading = (device: string, key: string): LabelSegment => ({ reading: { device, key } });
