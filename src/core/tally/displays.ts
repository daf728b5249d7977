import { memberKey, type DriverDocument } from '../driver';
import { inputNames, type DeviceRecord, type ReadingRef } from '../show';
import type { TallyNetwork, TallySources } from './tally';
import { wordOf } from './word';

/** What a display of a multiviewer is told: the name under its picture and its lamp. */
export interface DisplayNow {
  readonly number: number;
  /** Begins with `?` while nobody knows whether it is on air. */
  readonly text: string;
  readonly lamp: 'onAir' | 'next' | 'off';
}

/** Where a display's name and lamp come from. */
interface DisplaySources extends Pick<TallySources, 'readingNow'> {
  readonly network: Pick<TallyNetwork, 'ofInput' | 'sourceOf'>;
  /** The name of a device, of those that are in the rig. */
  readonly nameOf: (device: string) => string | undefined;
}

/**
 * What each display of a device has to say. The name is the one that was typed, or that of the switcher's input, or while that is
 * not known that of the device that feeds it. A lamp in doubt is dark, for one that is lit says that it is; the name bears the doubt.
 */
export function displaysOf(
  device: DeviceRecord,
  { network, nameOf, readingNow }: DisplaySources,
  /** Only what shows inputs of these switchers. */
  only?: ReadonlySet<string>,
): DisplayNow[] {
  const wanted = (device.data.displays ?? []).filter(({ switcher }) => !only || only.has(switcher));
  return wanted.map(({ number, switcher, input, name }) => {
    const reading = readingNow({ device: switcher, key: memberKey(inputNames, input) });
    const said = reading?.freshness === 'fresh' ? String(reading.value ?? '') : '';
    const text = name || said || nameOf(network.sourceOf(switcher, input) ?? '') || `Input ${input}`;
    const word = nameOf(switcher) === undefined ? 'unknown' : wordOf(network.ofInput(switcher, input));
    const lamp = word === 'onAir' || word === 'next' ? word : 'off';
    return { number, text: word === 'unknown' ? `? ${text}` : text, lamp };
  });
}

/** Every reading that the names on a device's displays depend on. */
export function readingsForNames({ data }: DeviceRecord): ReadingRef[] {
  return (data.displays ?? []).map(({ switcher, input }) => ({ device: switcher, key: memberKey(inputNames, input) }));
}

/** The parameters of the command that says it, by the driver. */
export function displayParams(
  { number, name, lamp, ...values }: NonNullable<DriverDocument['displays']>,
  now: DisplayNow,
): Readonly<Record<string, string | number | boolean>> {
  return { [number]: now.number, [name]: now.text, [lamp]: values[now.lamp] };
}
