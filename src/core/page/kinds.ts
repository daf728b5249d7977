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

/** A bar for each level that the device reports, named like the member where its driver names them. */
function barsOf(device: string, document: DriverDocument, readings: Readings): KindOffer[] {
  return Object.entries(document.readings).flatMap(([family, { title, level, index: isFamily }]): KindOffer[] => {
    if (!level) return [];
    const shows = (key: string) => ({
      kind: 'bar' as const,
      reading: { device, key },
      min: level.from,
      max: level.to,
    });
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

function fadersOf(device: string, document: DriverDocument, readings: Readings): KindOffer[] {
  return Object.entries(document.commands).flatMap(([command, definition]): KindOffer[] => {
    if (definition.class !== 'continuous') return [];
    const entries = Object.entries(definition.params);
    const [free, ...more] = entries.filter(([, { value }]) => value.type === 'decimal');
    if (!free || more.length > 0 || free[1].value.type !== 'decimal') return [];
    const [param, { value }] = free;
    const family = echoTest(document, command, param);
    const member =
      entries.find(([, { listFrom }]) => listFrom !== undefined) ?? entries.find(([name]) => name === family?.index);
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
            max: Number(value.max ?? 1),
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
