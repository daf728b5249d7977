import {
  indexesOf,
  memberKey,
  paramText,
  type DriverCommand,
  type DriverDocument,
  type DriverParameter,
} from '../driver';
import type { Scalar } from '../result';
import type { DeviceRecord, ShowLookup } from '../show';
import type { PickEntry, TypedParam } from './word-search';

type Readings = Readonly<Record<string, { readonly value?: Scalar }>>;

/** A command of a device, as it is picked. */
export interface CommandEntry extends PickEntry {
  readonly device: DeviceRecord;
  readonly key: string;
  readonly command: DriverCommand;
}

export const commandId = (device: string, command: string): string => `${device} ${command}`;

/** All commands of the rig, device by device. What a device lists can be typed by its name or its number. */
export function commandEntries(
  { readable, documentOf }: Pick<ShowLookup, 'readable' | 'documentOf'>,
  readingsOf: (device: string) => Readings | undefined,
): CommandEntry[] {
  return readable.flatMap((device) => {
    const document = documentOf(device.id);
    if (!document) return [];
    const readings = readingsOf(device.id) ?? {};
    return Object.entries(document.commands).map(([key, command]): CommandEntry => ({
      id: commandId(device.id, key),
      device,
      key,
      command,
      tag: device.data.tag,
      title: command.title,
      group: device.data.name,
      more: `${(command.says ?? '').replace(/\{\w+\}/g, '')} ${command.help ?? ''}`,
      params: Object.entries(command.params).map(([name, param]) => typedParam(name, param, document, readings)),
    }));
  });
}

function typedParam(name: string, param: DriverParameter, document: DriverDocument, readings: Readings): TypedParam {
  const { value: shape, listFrom } = param;
  const family = listFrom === undefined ? undefined : document.readings[listFrom];
  const members = family?.index && listFrom ? indexesOf(family.index) : [];
  const byName = (word: string): Scalar | undefined => {
    // A word of one letter fits too much.
    if (word.length < 2 || listFrom === undefined) return undefined;
    for (const index of members) {
      const own = readings[memberKey(listFrom, index)]?.value;
      if (own === undefined || own === '') continue;
      if (
        String(own)
          .toLowerCase()
          .split(/\s+/)
          .some((part) => part.startsWith(word))
      )
        return param.sends === 'value' ? own : index;
    }
    return undefined;
  };
  return {
    name,
    read: (word) => {
      if (shape.type === 'whole' || shape.type === 'decimal') {
        const number = Number(word.replace('−', '-'));
        if (word !== '' && Number.isFinite(number)) {
          const { min, max } = shape;
          const fits =
            (shape.type === 'decimal' || Number.isInteger(number)) &&
            !(typeof min === 'number' && number < min) &&
            !(typeof max === 'number' && number > max);
          return fits ? number : undefined;
        }
        return byName(word);
      }
      if (shape.type === 'onOff') return word === 'on' ? true : word === 'off' ? false : undefined;
      if (shape.type === 'choice')
        return shape.choices.find(({ value }) => paramText(param, value)?.toLowerCase().split(/\s+/).includes(word))
          ?.value;
      return byName(word);
    },
  };
}
