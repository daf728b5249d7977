import { splitKey, valueText } from '../driver';
import { readingsToChoose, shapeOf, type ReadingChoices } from '../page';
import type { DeviceRecord } from '../show';
import type { PickEntry } from './word-search';

/** A reading of a device, as it is picked. */
interface ReadingEntry extends PickEntry {
  readonly device: DeviceRecord;
  readonly key: string;
  /** What it says now; `undefined` while that is not known. */
  readonly now: string | undefined;
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
    const readings = choices.readings.get(device.id) ?? {};
    const document = choices.documentOf(device.id);
    return readingsToChoose(choices, device, device.id === chosen?.device ? chosen.key : '').map(
      ({ key, title }): ReadingEntry => {
        const value = readings[key]?.value;
        const shape = shapeOf(document, key);
        const unit = shape && 'unit' in shape && shape.unit ? ` ${shape.unit}` : '';
        return {
          id: readingId(device.id, key),
          device,
          key,
          tag: device.data.tag,
          title,
          group: device.data.name,
          more: splitKey(key).family,
          now: value === undefined ? undefined : `${valueText(shape, value)}${unit}`,
        };
      },
    );
  });
}
