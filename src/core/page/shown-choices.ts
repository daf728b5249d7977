import type { DriverDocument } from '../driver';
import { isPictureValue } from '../face';
import type { ControlRecord, DeviceRecord, ShownSpec } from '../show';
import { readingsToChoose, shapeOf, type ReadingChoices } from './reading-choice';

/** Something by name that a device can show on a control. */
interface ShownChoice {
  readonly device: DeviceRecord;
  readonly key: string;
  readonly title: string;
}

/** The stills or the layouts that the rig offers. */
export function shownChoices(
  kind: 'still' | 'layout',
  devices: readonly DeviceRecord[],
  documentOf: (device: string) => DriverDocument | undefined,
): ShownChoice[] {
  return devices.flatMap((device) => {
    const document = documentOf(device.id);
    const named = (kind === 'still' ? document?.stills : document?.layouts) ?? {};
    return Object.entries(named).map(([key, { title }]) => ({ device, key, title }));
  });
}

/** What a control shows at first when a kind is chosen: of what it drives where that offers it, or of the first device that does. */
export function startShown(
  kind: ShownSpec['kind'] | '',
  choices: ReadingChoices,
  data: ControlRecord['data'],
): ShownSpec | undefined {
  if (kind === '') return undefined;
  if (kind === 'address') return { kind, url: '' };
  const driven = new Set(data.responses.tap.map(({ device }) => device));
  const { documentOf } = choices;
  const devices = [...choices.devices].sort((a, b) => Number(driven.has(b.id)) - Number(driven.has(a.id)));
  if (kind === 'still' || kind === 'layout') {
    const [first] = shownChoices(kind, devices, documentOf);
    const device = first?.device.id ?? devices[0]?.id ?? 'none';
    const key = first?.key ?? 'none';
    return kind === 'still' ? { kind, device, still: key } : { kind, device, layout: key };
  }
  for (const device of devices) {
    for (const { key } of readingsToChoose(choices, device, '')) {
      const shape = shapeOf(documentOf(device.id), key);
      const reading = { device: device.id, key };
      const value = choices.readings.get(device.id)?.[key]?.value;
      if (kind === 'picture') {
        if (isPictureValue(value)) return { kind, reading };
      } else if (shape?.type === 'whole' || shape?.type === 'decimal') {
        return { kind, reading, min: Number(shape.min ?? 0), max: Number(shape.max ?? 100) };
      }
    }
  }
  const reading = { device: devices[0]?.id ?? 'none', key: 'none' };
  return kind === 'picture' ? { kind, reading } : { kind, reading, min: 0, max: 100 };
}
