import type { DriverDocument } from '../driver';
import { highestPreset } from './preset';
import type { ShowRecord } from './records';

/**
 * Readings of a device that its driver knows nothing of, because the program works them out: its tally, from what the switchers report, and
 * which of its presets a camera has reached. The tally is `unknown` while nobody knows, whatever the device's own link is like.
 */

/** Of a device that a tie makes the source of an input. */
export const tallyState = 'tally.state';
export const tallyRecorded = 'tally.recorded';
/** Of each input of a switcher. */
export const inputTally = 'input[].tally';
export const inputRecorded = 'input[].recorded';

/** The family by which a driver names the inputs of a switcher. */
export const inputNames = 'input[].name';

const keys: ReadonlySet<string> = new Set([tallyState, tallyRecorded]);

/** Of a camera whose driver says how presets are stored: their numbers, or -1 for none. */
export const presetReached = 'preset.reached';
export const presetCalled = 'preset.called';
export const presetMissed = 'preset.missed';
/** What the readings of presets say where there is none. */
export const noPreset = -1;

/** True for the tally of a device or an input. */
export const isTallyKey = (key: string): boolean =>
  keys.has(key) || (key.startsWith('input[') && (key.endsWith('].tally') || key.endsWith('].recorded')));

/** True for a key of a reading that the program works out itself. */
export const isEngineKey = (key: string): boolean => isTallyKey(key) || key in ofPresets;

type Readings = DriverDocument['readings'];

const state = {
  type: 'choice',
  choices: [
    { value: 'onAir', title: 'On air' },
    { value: 'next', title: 'Next' },
    { value: 'clear', title: 'Off air' },
  ],
} as const satisfies Readings[string]['value'];
const onOff = { type: 'onOff', on: '1', off: '0' } as const;

const ofSource: Readings = {
  [tallyState]: { title: 'Tally', value: { ...state, choices: [...state.choices] } },
  [tallyRecorded]: { title: 'On air and recorded', value: onOff },
};

const presetNumber = { type: 'whole', min: noPreset, max: highestPreset } as const satisfies Readings[string]['value'];

const ofPresets: Readings = {
  [presetReached]: { title: 'Preset reached', value: presetNumber },
  [presetCalled]: { title: 'Preset being recalled', value: presetNumber },
  [presetMissed]: { title: 'Preset not reached', value: presetNumber },
};

/** The numbers of the inputs whose tally is known. `undefined` for a device that is no switcher, or whose driver does not name its inputs. */
export const tallyInputs = ({ tally, readings }: DriverDocument): Readings[string]['index'] =>
  tally ? readings[inputNames]?.index : undefined;

/** The devices that ties make the sources of inputs. */
export const sourcesOf = (records: Iterable<ShowRecord>): ReadonlySet<string> =>
  new Set([...records].flatMap((record) => (record.kind === 'tie' ? [record.data.source] : [])));

/** By document, with and without those of a source: asked for with every look at a face. */
const made = new WeakMap<DriverDocument, { source?: DriverDocument; other?: DriverDocument }>();

/** The document of a device with the readings that the program works out. @param isSource a tie makes the device the source of an input */
export function withEngineReadings(document: DriverDocument, isSource: boolean): DriverDocument {
  const index = tallyInputs(document);
  if (!isSource && !index && !document.presets) return document;
  const known = made.get(document) ?? {};
  made.set(document, known);
  const ofInputs: Readings = index
    ? {
        [inputTally]: { title: 'Input tally', value: { ...state, choices: [...state.choices] }, index },
        [inputRecorded]: { title: 'Input on air and recorded', value: onOff, index },
      }
    : {};
  const readings = () => ({
    ...document.readings,
    ...(isSource ? ofSource : {}),
    ...ofInputs,
    ...(document.presets ? ofPresets : {}),
  });
  return (known[isSource ? 'source' : 'other'] ??= { ...document, readings: readings() });
}
