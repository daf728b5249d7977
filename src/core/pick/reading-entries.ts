import { splitKey, valueWithUnit } from '../driver';
import { readingsToChoose, shapeOf, type ReadingChoices } from '../page';
import type { DeviceRecord } from '../show';
import type { PickEntry } from './word-search';

/** A reading of a device, as it is picked. */
export interface ReadingEntry extends PickEntry {
  readonly device: DeviceRecord;
  readonly key: string;
}

export const readingId = (device: string, key: string): string => `${device} ${key}`;

/**
 * All readings that a rule can be about, device by device.
 *
 * @param chosen the one that is stored: it is offered although its device has not reported it yet
 */
export function readingEntries(
  choices: ReadingChoices,
  chosen?: { readonly device: string; readonly key: string },
): ReadingEntry[] {
  return choices.devices.flatMap((device) => {
    return readingsToChoose(choices, device, device.id === chosen?.device ? chosen.key : '').map(
      ({ key, title }): ReadingEntry => {
        return {
          id: readingId(device.id, key),
          device,
          key,
          tag: device.data.tag,
          title,
          group: device.data.name,
          more: splitKey(key).family,
        };
      },
    );
  });
}

/** The value of a reading now, in words and with its unit; `undefined` while it is not known. */
export function readingText({ readings, documentOf }: ReadingChoices, device: string, key: string): string | undefined {
  const value = readings.get(device)?.[key]?.value;
  if (value === undefined) return undefined;
  const shape = shapeOf(documentOf(device), key);
  return valueWithUnit(shape, value);
}
