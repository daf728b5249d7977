import type { ControlRecord, DeviceRecord, ShowRecord } from './records';

/** What uses a device. */
export interface DeviceUsers {
  readonly controls: readonly { readonly control: ControlRecord; readonly page: string }[];
  /** Devices that are reached through it. */
  readonly behind: readonly DeviceRecord[];
  /** Inputs of a switcher that it feeds, or that are fed if it is the switcher. */
  readonly ties: readonly Extract<ShowRecord, { kind: 'tie' }>[];
  /** Devices whose displays show its inputs. */
  readonly shownBy: readonly DeviceRecord[];
  /** Macros with a step that it takes, or that wait for what it reports. */
  readonly macros: readonly string[];
}

/** Everything that would no longer work without a device. */
export function usersOfDevice(records: readonly ShowRecord[], device: string): DeviceUsers {
  const pages = new Map(records.flatMap((record) => (record.kind === 'page' ? [[record.id, record.data.name]] : [])));
  return {
    controls: records.flatMap((record) =>
      record.kind === 'control' && stringsIn(record.data).includes(device)
        ? [{ control: record, page: pages.get(record.data.page) ?? '?' }]
        : [],
    ),
    behind: records.filter(
      (record): record is DeviceRecord => record.kind === 'device' && record.data.through?.device === device,
    ),
    ties: records.filter(
      (record): record is Extract<ShowRecord, { kind: 'tie' }> =>
        record.kind === 'tie' && (record.data.source === device || record.data.switcher === device),
    ),
    macros: records.flatMap((record) =>
      record.kind === 'macro' && stringsIn(record.data.segments).includes(device) ? [record.data.name] : [],
    ),
    shownBy: records.filter(
      (record): record is DeviceRecord =>
        record.kind === 'device' && (record.data.displays ?? []).some(({ switcher }) => switcher === device),
    ),
  };
}

/** What uses a device, in a line: `4 controls on Race and Cameras, S1 behind it, feeds 1 input`. Empty when nothing does. */
export function usersText({ controls, behind, ties, shownBy, macros }: DeviceUsers): string {
  const pages = [...new Set(controls.map(({ page }) => page))];
  const list = (words: readonly string[]) =>
    words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
  return [
    controls.length > 0 && `${controls.length === 1 ? '1 control' : `${controls.length} controls`} on ${list(pages)}`,
    macros.length > 0 && `the ${macros.length === 1 ? 'macro' : 'macros'} ${list(macros)}`,
    behind.length > 0 && `${list(behind.map(({ data }) => data.tag))} behind it`,
    shownBy.length > 0 && `shown by ${list(shownBy.map(({ data }) => data.tag))}`,
    ties.length > 0 && (ties.length === 1 ? '1 tie' : `${ties.length} ties`),
  ]
    .filter((part) => part !== false)
    .join(', ');
}

/** What uses a device and what it uses, in a few words: `7 controls`, and `feeds SW1 1`, `S1 behind it`. */
export interface DeviceUses {
  readonly controls: string | undefined;
  readonly others: readonly string[];
}

/** The same for each device, found in one pass over the show. A device without an entry is used by nothing and uses nothing. */
export function usesOfRig(records: readonly ShowRecord[]): ReadonlyMap<string, DeviceUses> {
  const tags = new Map(records.flatMap((record) => (record.kind === 'device' ? [[record.id, record.data.tag]] : [])));
  const controls = new Map<string, number>();
  const words = new Map<string, string[]>();
  const say = (device: string, word: string) => words.set(device, [...(words.get(device) ?? []), word]);
  for (const record of records) {
    if (record.kind === 'control') {
      for (const id of new Set(stringsIn(record.data))) if (tags.has(id)) controls.set(id, (controls.get(id) ?? 0) + 1);
    } else if (record.kind === 'tie') {
      say(record.data.source, `feeds ${tags.get(record.data.switcher) ?? '?'} ${record.data.input}`);
    } else if (record.kind === 'device') {
      if (record.data.through) say(record.data.through.device, `${record.data.tag} behind it`);
      for (const id of new Set(record.data.displays?.map(({ switcher }) => switcher)))
        say(id, `shown by ${record.data.tag}`);
    }
  }
  const countText = (count = 0) => (count === 0 ? undefined : count === 1 ? '1 control' : `${count} controls`);
  return new Map(
    [...new Set([...controls.keys(), ...words.keys()])].map((device) => [
      device,
      { controls: countText(controls.get(device)), others: words.get(device) ?? [] },
    ]),
  );
}

function stringsIn(value: unknown): string[] {
  if (typeof value === 'string') return [value];
  if (typeof value !== 'object' || value === null) return [];
  return Object.values(value).flatMap(stringsIn);
}
