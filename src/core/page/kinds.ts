import { memberKey, splitKey, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { ControlStart, DeviceRecord } from '../show';
import { echoOf } from './view';

/** A start for a control that is not a button, with what it is called among the offers. */
export interface KindOffer {
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

const nothing: ControlStart = { label: [], values: {}, responses: { tap: [] }, lamps: [] };

function fadersOf(device: string, document: DriverDocument, readings: Readings): KindOffer[] {
  return Object.entries(document.commands).flatMap(([command, definition]): KindOffer[] => {
    if (definition.class !== 'continuous') return [];
    const entries = Object.entries(definition.params);
    const [free, ...more] = entries.filter(([, { value }]) => value.type === 'decimal');
    const member = entries.find(([, { listFrom }]) => listFrom !== undefined);
    if (!free || more.length > 0 || free[1].value.type !== 'decimal') return [];
    const [param, { value }] = free;
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
            : [{ text: definition.title }],
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
