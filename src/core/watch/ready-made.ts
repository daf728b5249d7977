import type { DriverDocument } from '../driver';
import type { DeviceRecord, ShowRecord, TieRecord, WatchData, WatchWhen } from '../show';
import { watchesOf } from './edits';
import { hasKeys } from './key-tie';

/** The default pre-roll, in frames. */
const usualPreRoll = 12;

interface ReadyMade {
  readonly name: string;
  readonly when: WatchWhen;
  readonly sends: WatchData['sends'];
}

/**
 * A watch that brings the titles of a rig with a key of its switcher: the first key that has none yet, its first layer, taken out with the key. Only while
 * the key shows the title machine, where a tie says which input that is. `undefined` without a switcher with keys or without titles.
 */
export function graphicsWithKey(
  records: readonly ShowRecord[],
  documentOf: (device: string) => DriverDocument | undefined,
): ReadyMade | undefined {
  const devices = records.filter((record): record is DeviceRecord => record.kind === 'device');
  const switcher = devices.find(({ id }) => hasKeys(documentOf(id)));
  const titles = devices.find(({ id, data }) => {
    const commands = data.role === 'titles' ? documentOf(id)?.commands : undefined;
    return commands?.take !== undefined && commands.out !== undefined;
  });
  if (!switcher || !titles) return undefined;
  const taken = new Set(
    watchesOf(records).flatMap(({ data: { when } }) =>
      when.is === 'key' && when.switcher === switcher.id ? [when.key] : [],
    ),
  );
  const range = documentOf(switcher.id)?.readings['key[].on']?.index;
  let key = range?.from ?? 1;
  while (taken.has(key) && key < Number(range?.to ?? key)) key += 1;
  const tie = records.find(
    (record): record is TieRecord =>
      record.kind === 'tie' && record.data.source === titles.id && record.data.switcher === switcher.id,
  );
  const send = (command: string) => ({
    device: titles.id,
    command,
    params: { layer: firstLayer(documentOf(titles.id)) },
  });
  return {
    name: `Titles with key ${key}`,
    when: {
      is: 'key',
      switcher: switcher.id,
      key,
      ...(tie ? { input: tie.data.input } : {}),
      preRoll: usualPreRoll,
      out: { sends: [send('out')], withKey: true },
    },
    sends: [send('take')],
  };
}

const firstLayer = (document: DriverDocument | undefined): number =>
  document?.readings['layer[].state']?.index?.from ?? 1;
