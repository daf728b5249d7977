import { isLive, mapArgumentReadings, mapConditionReadings, type ReadingRef } from './conditions';
import { ownId } from './own-device';
import type { ControlRecord, LabelSegment, SendSpec } from './records';
import { mapSends, sendsOfControl } from './sends';
import { mapShownReading } from './shown';

type Data = ControlRecord['data'];
type Named = Pick<
  Data,
  'label' | 'responses' | 'lamps' | 'range' | 'drive' | 'list' | 'presets' | 'shifts' | 'sets' | 'shows'
>;

/** The control's data with every device that it names replaced as the map says. */
export function withDevices<T extends Named>(data: T, to: (device: string) => string): T {
  // What the program itself says is the same in every show.
  const map = (device: string) => (device === ownId ? device : to(device));
  return {
    ...mapLevels(data, (level) =>
      mapSends(
        mapReadings(level, (ref) => ({ ...ref, device: map(ref.device) })),
        (send) => ({ ...send, device: map(send.device) }),
      ),
    ),
    ...(data.drive ? { drive: { ...data.drive, device: map(data.drive.device) } } : {}),
    ...(data.shows && 'device' in data.shows ? { shows: { ...data.shows, device: map(data.shows.device) } } : {}),
    ...(data.list ? { list: { ...data.list, device: map(data.list.device) } } : {}),
    ...(data.presets?.device !== undefined ? { presets: { ...data.presets, device: map(data.presets.device) } } : {}),
    ...(data.sets && 'device' in data.sets ? { sets: { ...data.sets, device: map(data.sets.device) } } : {}),
  };
}

type Level = Pick<Data, 'label' | 'responses' | 'lamps' | 'range' | 'shows'>;

/** The control with what it is usually, and what is another on each shift level, replaced; what a level leaves as it is stays left out. */
export function mapLevels<T extends Level & Pick<Data, 'shifts'>>(data: T, to: <L extends Level>(level: L) => L): T {
  const usual = to(data);
  if (!data.shifts) return usual;
  const shifts = Object.entries(data.shifts).map(([id, own]) => {
    const whole = to({ label: own.label ?? [], responses: own.responses ?? { tap: [] }, lamps: own.lamps ?? [] });
    return [
      id,
      {
        ...own,
        ...(own.label ? { label: whole.label } : {}),
        ...(own.responses ? { responses: whole.responses } : {}),
        ...(own.lamps ? { lamps: whole.lamps } : {}),
      },
    ] as const;
  });
  return { ...usual, shifts: Object.fromEntries(shifts) };
}

/** Parameters with each reading that they are taken from replaced. */
const paramsWithReadings = (params: SendSpec['params'], to: (ref: ReadingRef) => ReadingRef): SendSpec['params'] =>
  Object.values(params).some(isLive)
    ? Object.fromEntries(Object.entries(params).map(([name, each]) => [name, mapArgumentReadings(each, to)]))
    : params;

/** The control's data with each reading that its commands take a value from replaced. */
function withArgumentReadings<T extends Pick<Data, 'responses' | 'range'>>(
  data: T,
  to: (ref: ReadingRef) => ReadingRef,
): T {
  const mapped = mapSends(data, (send) => ({ ...send, params: paramsWithReadings(send.params, to) }));
  const { runs } = mapped.responses;
  return runs
    ? { ...mapped, responses: { ...mapped.responses, runs: { ...runs, params: paramsWithReadings(runs.params, to) } } }
    : mapped;
}

/** The control's data with each reading in it replaced: in its label, its lamps, its range, what is drawn on it, and what its commands take. */
export function mapReadings<T extends Pick<Data, 'label' | 'lamps' | 'range' | 'shows' | 'responses'>>(
  given: T,
  to: (ref: ReadingRef) => ReadingRef,
): T {
  const data = withArgumentReadings(given, to);
  const inLabel = (label: readonly LabelSegment[]) =>
    label.map((segment) => ('reading' in segment ? { reading: to(segment.reading) } : segment));
  return {
    ...data,
    label: inLabel(data.label),
    lamps: data.lamps.map((rule) => ({
      ...rule,
      when: mapConditionReadings(rule.when, to),
      ...(rule.label ? { label: inLabel(rule.label) } : {}),
    })),
    ...(data.shows ? { shows: mapShownReading(data.shows, to) } : {}),
    ...(data.range
      ? {
          range: {
            ...data.range,
            ...(data.range.reading ? { reading: to(data.range.reading) } : {}),
            ...(data.range.most ? { most: to(data.range.most) } : {}),
          },
        }
      : {}),
  };
}

/** The devices that a control drives, in the order in which it does, each once. */
export const drivenBy = (data: Pick<Data, 'responses' | 'range' | 'drive' | 'list' | 'presets'>): string[] => [
  ...new Set([
    ...sendsOfControl(data).map(({ device }) => device),
    ...(data.drive ? [data.drive.device] : []),
    ...(data.list ? [data.list.device] : []),
    ...(data.presets?.device === undefined ? [] : [data.presets.device]),
  ]),
];

/** All devices that a control names: what it drives, and what its label, its lamps and its range show. */
export function devicesOf(data: Named): string[] {
  const found = new Set<string>();
  withDevices(data, (device) => {
    found.add(device);
    return device;
  });
  return [...found];
}
