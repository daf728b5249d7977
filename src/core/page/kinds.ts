import { memberKey, memberText, splitKey, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { ControlStart, DeviceRecord } from '../show';
import { echoOf, echoTest } from './view';

/** A start for a control that is not a button, with what it is called among the offers. */
interface KindOffer {
  readonly key: string;
  readonly purpose: string;
  readonly title: string;
  readonly help?: string;
  readonly start: ControlStart;
}

type Readings = Readonly<Record<string, { readonly value?: Scalar }>>;

/**
 * The faders, sticks, lists and readouts that a device offers: a fader for each number that its driver sends as a continuous
 * value, one for each member where the device lists them; a stick for each drive; its lists; and a readout for each reading.
 */
export function kindsOf(device: DeviceRecord, document: DriverDocument, readings: Readings): KindOffer[] {
  return [
    ...fadersOf(device.id, document, readings),
    ...Object.entries(document.drives).map(([name, { title }]): KindOffer => ({
      key: `stick ${name}`,
      purpose: 'Sticks',
      title,
      start: {
        ...nothing,
        type: 'stick',
        label: [{ text: device.data.tag }],
        drive: { device: device.id, drive: name },
      },
    })),
    ...Object.entries(document.lists).map(([name, { title, picture }]): KindOffer => ({
      key: `list ${name}`,
      purpose: 'Lists',
      title,
      start: {
        ...nothing,
        type: 'list',
        label: [{ text: title }],
        list: { device: device.id, list: name, form: picture ? 'large' : 'small' },
      },
    })),
    ...presetsOffered(device.id, document),
    ...barsOf(device.id, document, readings),
    ...shownOf(device, document),
    ...Object.entries(document.readings)
      .filter(([key]) => !key.includes('[]'))
      .map(([key, { title }]): KindOffer => ({
        key: `readout ${key}`,
        purpose: 'Readouts',
        title,
        start: { ...nothing, type: 'readout', label: [{ text: `${title} ` }, { reading: { device: device.id, key } }] },
      })),
  ];
}

/** A board with the presets of a camera. */
const presetsOffered = (device: string, document: DriverDocument): KindOffer[] =>
  document.presets
    ? [
        {
          key: 'presets',
          purpose: 'Presets',
          title: 'Presets with pictures',
          start: {
            ...nothing,
            type: 'presets',
            label: [{ text: 'Presets' }],
            presets: { device, places: 6 },
          },
        },
      ]
    : [];

/** Where a bar is full while nobody knows the reading that says it. */
const usualMost = 100;

/** A bar for each level that the device reports, named like the member where its driver names them. */
function barsOf(device: string, document: DriverDocument, readings: Readings): KindOffer[] {
  return Object.entries(document.readings).flatMap(([family, { title, level, index: isFamily }]): KindOffer[] => {
    if (!level) return [];
    const { from: min, to } = level;
    const ends = typeof to === 'number' ? { max: to } : { max: usualMost, most: { device, key: to } };
    const shows = (key: string) => ({ kind: 'bar' as const, reading: { device, key }, min, ...ends });
    const bar = (key: string, name: string, label: ControlStart['label']): KindOffer => ({
      key: `bar ${key}`,
      purpose: 'Bars',
      title: name,
      start: { ...nothing, type: 'readout', label, shows: shows(key) },
    });
    if (!isFamily) return [bar(family, title, [{ text: title }])];
    const names = family.replace(/\[\]\..*$/, '[].name');
    return Object.keys(readings).flatMap((key) => {
      const { family: of, index } = splitKey(key);
      if (of !== family || index === undefined) return [];
      const named = names in document.readings ? memberKey(names, index) : undefined;
      const name = named === undefined ? undefined : readings[named]?.value;
      const label = named === undefined ? [{ text: `${title} ${index}` }] : [{ reading: { device, key: named } }];
      return [bar(key, `${title}, ${String(name ?? index)}`, label)];
    });
  });
}

/** Readouts of what the device hands out as pictures, and of its layouts. */
function shownOf({ id: device, data }: DeviceRecord, document: DriverDocument): KindOffer[] {
  const readout = (key: string, title: string, shows: ControlStart['shows']): KindOffer => ({
    key,
    purpose: 'Pictures',
    title,
    start: { ...nothing, type: 'readout', label: [{ text: data.name }], shows },
  });
  return [
    ...Object.entries(document.stills).map(([still, { title }]) =>
      readout(`still ${still}`, title, { kind: 'still', device, still }),
    ),
    ...Object.entries(document.layouts).map(([layout, { title }]) =>
      readout(`layout ${layout}`, title, { kind: 'layout', device, layout }),
    ),
  ];
}

/** The most faders that are offered of one family whose members have no names. */
const mostFaders = 64;

const nothing: ControlStart = { label: [], values: {}, responses: { tap: [] }, lamps: [] };

/** The end of a fader over a time that has none, in seconds. */
const longestS = 3600;

type Numeric = Extract<DriverDocument['readings'][string]['value'], { type: 'whole' | 'decimal' | 'time' }>;
const isNumeric = (value: { readonly type: string }): value is Numeric =>
  value.type === 'whole' || value.type === 'decimal' || value.type === 'time';

/**
 * True for a parameter that a fader can set: a number that is no member of a list. The driver sends it as a continuous value, or the device
 * reports it, so that the fader knows where it is.
 */
function isFree(document: DriverDocument, command: string, name: string): boolean {
  const definition = document.commands[command];
  const param = definition?.params[name];
  if (!definition || !param || param.listFrom !== undefined || definition.risky) return false;
  const isIndex = definition.confirm?.by === 'readings' && definition.confirm.all.some(({ index }) => index === name);
  if (isIndex || param.optional) return false;
  if (definition.class === 'continuous' && param.value.type === 'decimal') return true;
  const echo = echoTest(document, command, name);
  const shape = document.readings[echo?.reading ?? '']?.value;
  const { value } = param;
  if (!shape || !isNumeric(shape) || !isNumeric(value)) return false;
  return value.type === 'time' || (value.min !== undefined && value.max !== undefined);
}

/** A fader for each number that a device takes, one for each member where it lists them. */
export function fadersOf(device: string, document: DriverDocument, readings: Readings): KindOffer[] {
  return Object.entries(document.commands).flatMap(([command, definition]): KindOffer[] => {
    const entries = Object.entries(definition.params);
    const [free, ...more] = entries.filter(([name]) => isFree(document, command, name));
    const [param, { value } = { value: undefined }] = free ?? ['', undefined];
    if (more.length > 0 || !value || !isNumeric(value)) return [];
    const family = echoTest(document, command, param);
    const level = document.readings[family?.reading ?? '']?.level;
    const ends = typeof level?.to === 'string' ? { most: { device, key: level.to } } : {};
    const member =
      entries.find(([, { listFrom }]) => listFrom !== undefined) ?? entries.find(([name]) => name === family?.index);
    // What else it needs has to be there by itself.
    const isOpen = ([name, { default: usual, optional }]: (typeof entries)[number]) =>
      name !== param && name !== member?.[0] && usual === undefined && !optional;
    if (entries.some(isOpen)) return [];
    const made = (index: number | undefined, title: string): KindOffer => {
      const values: Record<string, Scalar> = member && index !== undefined ? { [member[0]]: index } : {};
      const echo = echoOf(document, command, param, values);
      const params = Object.fromEntries(Object.keys(values).map((name) => [name, { value: name }]));
      const listed = member?.[1].listFrom;
      return {
        key: `fader ${command} ${index ?? ''}`,
        purpose: 'Faders',
        title,
        help: definition.title,
        start: {
          ...nothing,
          type: 'fader',
          label: listed
            ? [{ reading: { device, key: memberKey(listed, `$${member?.[0] ?? ''}`) } }]
            : [{ text: member ? title : definition.title }],
          values,
          range: {
            send: { device, command, params },
            param,
            ...(echo === undefined ? {} : { reading: { device, key: echo } }),
            min: Number(value.min ?? 0),
            max: Number(value.max ?? (value.type === 'time' ? longestS : 1)),
            ...ends,
          },
        },
      };
    };
    if (!member) return [made(undefined, definition.title)];
    if (member[1].listFrom === undefined) {
      // Members that the device does not list: all that the reading has by which the fader knows where it is.
      const all = document.readings[family?.reading ?? '']?.index;
      const count = all ? Math.min(mostFaders, Number(all.to) - all.from + 1) : 0;
      return Array.from({ length: count }, (_, n) => n + (all?.from ?? 0)).map((n) =>
        made(n, `${all?.title} ${all ? memberText(all, n) : n}`),
      );
    }
    return Object.entries(readings)
      .flatMap(([key, reading]) => {
        const { family, index } = splitKey(key);
        return family === member[1].listFrom &&
          index !== undefined &&
          reading.value !== undefined &&
          reading.value !== ''
          ? [{ index, name: String(reading.value) }]
          : [];
      })
      .sort((a, b) => a.index - b.index)
      .map(({ index, name }) => made(index, name));
  });
}
