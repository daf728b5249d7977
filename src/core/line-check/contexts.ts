import type { DriverDocument } from '../driver';
import {
  atLevel,
  contextKey,
  drivingOther,
  usualContext,
  withPick,
  withShift,
  zoneOf,
  type PageContext,
} from '../page';
import type { ControlRecord, PageRecord } from '../show';

type Data = ControlRecord['data'];

/** A control in one of the contexts in which it is different. */
export interface ControlInContext {
  readonly control: ControlRecord;
  /** With the shift level and the picked device applied. */
  readonly data: Data;
  /** The page in this context, as `contextKey` writes it. */
  readonly context: string;
  /** The level and the device, where they are not the usual ones, for a title. */
  readonly shift: string | undefined;
  readonly picked: string | undefined;
}

interface Known {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly roleOf: (device: string) => string | undefined;
}

/** A control in every context in which it does or shows something different: on each of its shift levels, with each device of its zone. */
export function contextsOf(control: ControlRecord, page: PageRecord, known: Known): ControlInContext[] {
  const levels = [undefined, ...(page.data.shifts ?? []).map(({ id }) => id).filter((id) => control.data.shifts?.[id])];
  const zone = zoneOf(page.data.zones, control.data);
  const [made, ...others] = zone?.pick?.devices ?? [];
  return levels.flatMap((shift): ControlInContext[] => {
    const data = atLevel(control.data, shift);
    const base: PageContext = withShift(usualContext, shift);
    const usual = { control, data, context: contextKey(page.id, base), shift, picked: undefined };
    if (!zone || made === undefined || !JSON.stringify(data).includes(`"${made}"`)) return [usual];
    const first = { ...usual, context: contextKey(page.id, withPick(base, zone.id, made)), picked: made };
    return [
      first,
      ...others.map((device) => ({
        ...first,
        data: drivingOther(data, made, device, known),
        context: contextKey(page.id, withPick(base, zone.id, device)),
        picked: device,
      })),
    ];
  });
}
