import { actOf, steer, type DriverDocument } from '../driver';
import type { ListItem } from '../face';
import { sendsOfControl, type ControlRecord, type SendSpec } from '../show';

type Data = ControlRecord['data'];

/**
 * What a trial of a control presses: a button as it is; of a fader or dial its command with a value; of a stick a drive to the
 * right at half its way, while held; of a list its first act on the current or first item. `undefined` where there is nothing.
 */
export function trialOf(
  data: Data,
  documentOf: (device: string) => DriverDocument | undefined,
  value: number | undefined,
  items: readonly ListItem[] | undefined,
): Data | undefined {
  const { range, drive, list } = data;
  const as = (sends: readonly SendSpec[], held: boolean): Data => {
    const { range: _, drive: __, list: ___, ...rest } = data;
    return { ...rest, type: 'button', responses: held ? { tap: [], held: [...sends] } : { tap: [...sends] } };
  };
  if (range) {
    const set = value ?? (range.min + range.max) / 2;
    return as([{ ...range.send, params: { ...range.send.params, [range.param]: set } }], false);
  }
  if (drive) {
    const document = documentOf(drive.device);
    const wanted = document && steer(document, drive.drive, 0.5, 0);
    return wanted && as([{ device: drive.device, command: wanted.command, params: { ...wanted.params } }], true);
  }
  if (list) {
    const document = documentOf(list.device);
    const item = items?.find(({ mark }) => mark === 'current') ?? items?.[0];
    const made = document && actOf(document, list.list, 0, item && { index: item.index, value: item.title }, undefined);
    return made?.ok ? as([{ device: list.device, ...made.value, params: { ...made.value.params } }], false) : undefined;
  }
  return sendsOfControl(data).length > 0 || data.responses.runs ? data : undefined;
}
