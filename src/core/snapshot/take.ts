import { splitSeveral, type DriverDocument } from '../driver';
import { fail, ok, type Result, type Scalar } from '../result';
import type { DeviceRecord, SnapshotPart } from '../show';
import { keysOf, tracksOf } from './tracks';

/** A group of readings of one device: `boxes` of the switcher. */
export interface KeepOf {
  readonly device: string;
  readonly keep: string;
}

/** Every group that can be kept, called after its device: "SW1 Boxes of the layout". */
export const groupsOf = (
  devices: Iterable<DeviceRecord>,
  documentOf: TakeSources['documentOf'],
): (KeepOf & { readonly title: string })[] =>
  [...devices].flatMap(({ id, data }) =>
    Object.entries(documentOf(id)?.keeps ?? {}).map(([keep, { title }]) => ({
      device: id,
      keep,
      title: `${data.tag} ${title}`,
    })),
  );

/** The groups that a text names, with semicolons between them and regardless of case. Fails with the reason, as a sentence. */
export function groupsNamed<Group extends { readonly title: string }>(
  text: string,
  all: readonly Group[],
): Result<readonly Group[], string> {
  const titles = splitSeveral(text);
  if (titles.length === 0) return fail('Choose at least one group to keep.');
  const groups: Group[] = [];
  for (const title of titles) {
    const group = all.find((each) => each.title.toLowerCase() === title.toLowerCase());
    if (!group) {
      const example = all[0] ? ` Groups are named like “${all[0].title}”.` : '';
      return fail(`No device of the rig has a group “${title}”.${example}`);
    }
    groups.push(group);
  }
  return ok(groups);
}

/** What was taken, and what could not be: readings that are not known now. */
interface Taken {
  readonly parts: readonly SnapshotPart[];
  readonly unknown: readonly { readonly device: string; readonly key: string }[];
  /** Groups that the driver of the device does not have. */
  readonly missing: readonly KeepOf[];
}

interface TakeSources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  /** A value only while it is fresh. */
  readonly fresh: (device: string, key: string) => Scalar | undefined;
}

/** Takes the readings of groups as they are now. A group of which nothing is known is left out. */
export function take(groups: readonly KeepOf[], { documentOf, fresh }: TakeSources): Taken {
  const parts: SnapshotPart[] = [];
  const unknown: { device: string; key: string }[] = [];
  const missing: KeepOf[] = [];
  for (const group of groups) {
    const { device, keep } = group;
    const document = documentOf(device);
    const definition = document?.keeps[keep];
    if (!document || !definition) {
      missing.push(group);
      continue;
    }
    const values: Record<string, Scalar> = {};
    for (const key of keysOf(tracksOf(document, definition))) {
      const value = fresh(device, key);
      if (value === undefined) unknown.push({ device, key });
      else values[key] = value;
    }
    if (Object.keys(values).length > 0) parts.push({ device, keep, values });
  }
  return { parts, unknown, missing };
}
