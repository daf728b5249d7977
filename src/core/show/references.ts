import type { ControlRecord, DeviceRecord, ShowRecord, TieRecord } from './records';

/** What uses a device. */
interface DeviceUsers {
  readonly controls: readonly { readonly control: ControlRecord; readonly page: string }[];
  /** Pages with a zone that can drive it, or that follows it, or that it calls. By name. */
  readonly pages: readonly string[];
  /** Devices that are reached through it. */
  readonly behind: readonly DeviceRecord[];
  /** Inputs of a switcher that it feeds, or that are fed if it is the switcher. */
  readonly ties: readonly TieRecord[];
  /** Devices whose displays show its inputs. */
  readonly shownBy: readonly DeviceRecord[];
  /** Macros with a step that it takes, or that wait for what it reports. By name. */
  readonly macros: readonly string[];
  /** Snapshots that keep readings of it. By name. */
  readonly snapshots: readonly string[];
  /** Presets that it stores. */
  readonly presets: number;
  /** Watches that wait for what it reports, or that send it something. By name. */
  readonly watches: readonly string[];
}

interface Found {
  controls: { control: ControlRecord; page: string }[];
  pages: string[];
  behind: DeviceRecord[];
  ties: TieRecord[];
  shownBy: DeviceRecord[];
  macros: string[];
  snapshots: string[];
  presets: number;
  watches: string[];
}

/**
 * The fields of records that name devices, whatever they are part of: a test holds this list against the schema of records, so that a new
 * reference cannot be forgotten.
 */
export const deviceFields = ['device', 'devices', 'switcher', 'source'] as const;

const noUsers = (): Found => ({
  controls: [],
  pages: [],
  behind: [],
  ties: [],
  shownBy: [],
  macros: [],
  snapshots: [],
  presets: 0,
  watches: [],
});

/** Everything that uses each device, found in one pass over the show. A device without an entry is used by nothing. */
function usersOf(records: readonly ShowRecord[]): ReadonlyMap<string, DeviceUsers> {
  const pages = new Map(records.flatMap((record) => (record.kind === 'page' ? [[record.id, record.data.name]] : [])));
  const users = new Map<string, Found>();
  const of = (device: string): Found => {
    const known = users.get(device);
    if (known) return known;
    const fresh = noUsers();
    users.set(device, fresh);
    return fresh;
  };
  for (const record of records) {
    for (const device of devicesNamedIn(record.data)) {
      if (device === record.id) continue;
      const found = of(device);
      switch (record.kind) {
        case 'control':
          found.controls.push({ control: record, page: pages.get(record.data.page) ?? '?' });
          break;
        case 'page':
          found.pages.push(record.data.name);
          break;
        case 'tie':
          found.ties.push(record);
          break;
        case 'macro':
          found.macros.push(record.data.name);
          break;
        case 'snapshot':
          found.snapshots.push(record.data.name);
          break;
        case 'preset':
          found.presets += 1;
          break;
        case 'watch':
          found.watches.push(record.data.name);
          break;
        case 'device':
          if (record.data.through?.device === device) found.behind.push(record);
          if (record.data.displays?.some(({ switcher }) => switcher === device)) found.shownBy.push(record);
          break;
        case 'binding':
        case 'show':
        case 'panel':
        case 'variable':
        case 'inlet':
          break;
      }
    }
  }
  return users;
}

const nobody: DeviceUsers = noUsers();

/** Everything that would no longer work without a device. */
export const usersOfDevice = (records: readonly ShowRecord[], device: string): DeviceUsers =>
  usersOf(records).get(device) ?? nobody;

/** What uses a device, in a line: `4 controls on Race and Cameras, S1 behind it, feeds 1 input`. Empty when nothing does. */
export function usersText(users: DeviceUsers): string {
  const { controls, pages: named, behind, ties, shownBy, macros, snapshots, presets, watches } = users;
  const pages = [...new Set(controls.map(({ page }) => page))];
  return [
    controls.length > 0 && `${controls.length === 1 ? '1 control' : `${controls.length} controls`} on ${list(pages)}`,
    named.length > 0 && `a pick, follow or call of ${list(named)}`,
    macros.length > 0 && `the ${macros.length === 1 ? 'macro' : 'macros'} ${list(macros)}`,
    snapshots.length > 0 && `the ${snapshots.length === 1 ? 'snapshot' : 'snapshots'} ${list(snapshots)}`,
    presets > 0 && (presets === 1 ? '1 preset' : `${presets} presets`),
    watches.length > 0 && `the ${watches.length === 1 ? 'watch' : 'watches'} ${list(watches)}`,
    behind.length > 0 && `${list(behind.map(({ data }) => data.tag))} behind it`,
    shownBy.length > 0 && `shown by ${list(shownBy.map(({ data }) => data.tag))}`,
    ties.length > 0 && (ties.length === 1 ? '1 tie' : `${ties.length} ties`),
  ]
    .filter((part) => part !== false)
    .join(', ');
}

/** What uses a device and what it uses: how many controls, and in a few words the rest: `feeds SW1 1`, `S1 behind it`. */
export interface DeviceUses {
  readonly controls: number;
  readonly others: readonly string[];
}

/** The same for each device in a few words. A device without an entry is used by nothing and uses nothing. */
export function usesOfRig(records: readonly ShowRecord[]): ReadonlyMap<string, DeviceUses> {
  const tags = new Map(records.flatMap((record) => (record.kind === 'device' ? [[record.id, record.data.tag]] : [])));
  const uses = new Map<string, DeviceUses>();
  for (const [device, { controls, pages, ties, behind, shownBy, macros, snapshots, presets, watches }] of usersOf(
    records,
  )) {
    if (!tags.has(device)) continue;
    const others = [
      ...ties.flatMap(({ data }) =>
        data.source === device ? [`feeds ${tags.get(data.switcher) ?? '?'} ${data.input}`] : [],
      ),
      ...behind.map(({ data }) => `${data.tag} behind it`),
      ...shownBy.map(({ data }) => `shown by ${data.tag}`),
      ...pages.map((page) => `named by ${page}`),
      ...macros.map((macro) => `in ${macro}`),
      ...snapshots.map((snapshot) => `kept in ${snapshot}`),
      ...(presets > 0 ? [presets === 1 ? '1 preset' : `${presets} presets`] : []),
      ...watches.map((watch) => `watched by ${watch}`),
    ];
    if (controls.length > 0 || others.length > 0) uses.set(device, { controls: controls.length, others });
  }
  return uses;
}

const list = (words: readonly string[]) =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** The devices that are named anywhere in a value, each once. */
function devicesNamedIn(value: unknown): ReadonlySet<string> {
  const found = new Set<string>();
  const look = (at: unknown): void => {
    if (typeof at !== 'object' || at === null) return;
    if (Array.isArray(at)) return at.forEach(look);
    for (const [key, inside] of Object.entries(at)) {
      if ((deviceFields as readonly string[]).includes(key))
        for (const each of Array.isArray(inside) ? inside : [inside]) if (typeof each === 'string') found.add(each);
      look(inside);
    }
  };
  look(value);
  return found;
}
