import { readingTitle, splitKey, type DriverDocument, type ValueShape } from '../driver';
import type { ReadingsView } from '../live';
import { inNumberOrder } from '../number-order';
import type { Scalar } from '../result';
import type { ControlRecord, DeviceRecord, ReadingTest } from '../show';

/** What there is to choose readings from. */
export interface ReadingChoices {
  readonly devices: readonly DeviceRecord[];
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly readings: ReadonlyMap<string, ReadingsView>;
}

/** True for a reading whose value can name a device: an input of a switcher by its number, or a device by its tag. */
export function namesDevices(document: DriverDocument | undefined, role: string, key: string): boolean {
  const type = shapeOf(document, key)?.type;
  return type === 'text' || (type === 'whole' && role === 'switcher');
}

/** The readings of a device that a rule can be about: the single ones, and of each family the members that it has reported. */
export function readingsToChoose(
  { documentOf, readings }: ReadingChoices,
  device: DeviceRecord,
  chosen: string,
): readonly { readonly key: string; readonly title: string }[] {
  const driver = documentOf(device.id);
  const single = Object.entries(driver?.readings ?? {}).filter(([key]) => !key.includes('[]'));
  const members = new Set(Object.keys(readings.get(device.id) ?? {}).filter((key) => key.includes('[')));
  if (chosen.includes('[')) members.add(chosen);
  return [
    ...single.map(([key, { title }]) => ({ key, title })),
    ...[...members].sort(inNumberOrder).flatMap((key) => {
      const title = readingTitle(driver, key);
      return title === undefined ? [] : [{ key, title }];
    }),
  ];
}

export const shapeOf = (document: DriverDocument | undefined, key: string): ValueShape | undefined =>
  document?.readings[splitKey(key).family]?.value;

/** A value that fits the reading: the one there was, or the first that it can have. */
export function startValue(document: DriverDocument | undefined, key: string, before: Scalar): Scalar {
  const shape = shapeOf(document, key);
  if (shape?.type === 'onOff') return typeof before === 'boolean' ? before : true;
  if (shape?.type === 'choice') {
    const known = shape.choices.some(({ value }) => value === before);
    return known ? before : (shape.choices[0]?.value ?? '');
  }
  if (shape?.type === 'whole' || shape?.type === 'decimal' || shape?.type === 'time')
    return typeof before === 'number' ? before : 1;
  return typeof before === 'string' ? before : '';
}

/** A test to begin with: of the first reading of a device, with what it is now or what the control is about. */
export function firstTest(
  { documentOf, readings }: ReadingChoices,
  device: string,
  { values }: ControlRecord['data'],
): ReadingTest | undefined {
  const document = documentOf(device);
  const key = Object.keys(document?.readings ?? {}).find((each) => !each.includes('[]'));
  if (key === undefined) return undefined;
  const now = valueNow(readings.get(device), key);
  const to = startValue(document, key, Object.values(values)[0] ?? now ?? true);
  return { op: 'equals', reading: { device, key }, to };
}

const valueNow = (readings: ReadingsView | undefined, key: string): Scalar | undefined => readings?.[key]?.value;
