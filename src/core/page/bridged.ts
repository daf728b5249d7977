import type { ContractBridge } from '../driver';
import {
  mapConditionArguments,
  mapReadings,
  mapSends,
  resolveArgument,
  type ControlRecord,
  type ReadingRef,
  type SendSpec,
  type SentArgument,
} from '../show';

type Data = ControlRecord['data'];

/**
 * A control's data with what it sends to a device, and shows of it, under the names and in the ranges of another driver. The device itself
 * stays: `withDevices` replaces it.
 */
export function bridged(data: Data, device: string, bridge: ContractBridge): Data {
  const toSend = (send: SendSpec): SendSpec => {
    if (send.device !== device) return send;
    const other = bridge.command(send.command);
    const params = Object.entries(send.params).flatMap(([param, argument]) => {
      const name = other.paramName(param);
      if (name === undefined) return [];
      const value = resolveArgument(argument, data.values);
      const moved = value === undefined ? undefined : other.value(param, value);
      return [[name, moved === undefined || moved === value ? argument : moved] as const];
    });
    return { ...send, command: other.command, params: Object.fromEntries<SentArgument>(params) };
  };
  const toReading = (ref: ReadingRef): ReadingRef =>
    ref.device === device ? { ...ref, key: bridge.reading(ref.key) } : ref;
  const lamps = data.lamps.map((rule) => ({
    ...rule,
    when: mapConditionArguments(rule.when, (argument, ref) => {
      const value = ref.device === device ? resolveArgument(argument, data.values) : undefined;
      const moved = value === undefined ? undefined : bridge.readingValue(ref.key, value);
      return moved === undefined || moved === value ? argument : moved;
    }),
  }));
  const { range, drive, shows } = data;
  const other = range?.send.device === device ? bridge.command(range.send.command) : undefined;
  const at = (value: number) => Number(range && other ? other.value(range.param, value) : value);
  return {
    ...mapSends(mapReadings({ ...data, lamps }, toReading), toSend),
    ...(range && other
      ? {
          range: {
            ...range,
            send: toSend(range.send),
            param: other.paramName(range.param) ?? range.param,
            min: at(range.min),
            max: at(range.max),
            ...(range.tick === undefined ? {} : { tick: at(range.min + range.tick) - at(range.min) || range.tick }),
            ...(range.reading ? { reading: toReading(range.reading) } : {}),
            ...(range.most ? { most: toReading(range.most) } : {}),
          },
        }
      : {}),
    ...(drive?.device === device ? { drive: { ...drive, drive: bridge.drive(drive.drive) } } : {}),
    ...(shows && 'device' in shows && shows.device === device && shows.kind === 'still'
      ? { shows: { ...shows, still: bridge.still(shows.still) } }
      : {}),
  };
}
