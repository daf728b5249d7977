import { deviceRoles } from './contract-tables';
import type { DriverDocument } from './schema';

/**
 * The document of a device as a driver of its own: its options are fixed as they are set there, except those whose values are sent, and
 * what the show added belongs to it.
 *
 * @param head `role`: the role of the device, which a generic driver leaves open
 * @param document what `documentFor` made for the device
 */
export function asDriver(
  document: DriverDocument,
  head: { readonly id: string; readonly title: string; readonly role?: string },
): DriverDocument {
  const text = JSON.stringify({ ...document, options: {} });
  const options = Object.fromEntries(
    Object.entries(document.options)
      .filter(([name]) => new RegExp(`option\\.${name}\\b`).test(text))
      .map(([name, { only: _, ...option }]) => [name, option]),
  );
  const commands = Object.fromEntries(
    Object.entries(document.commands).map(([id, { only: _, ...command }]) => [
      id,
      // A command that somebody added has no sentence; its title is one.
      { ...command, says: command.says ?? command.title.replace(/[{}]/g, '') },
    ]),
  );
  const readings = Object.fromEntries(
    Object.entries(document.readings).map(([key, { only: _, ...each }]) => [key, each]),
  );
  const { role, ...names } = head;
  return {
    ...document,
    ...names,
    ...(isRole(role) ? { role } : {}),
    version: 1,
    standIn: false,
    options,
    variants: [],
    // Those of the generic driver are about its options.
    samples: [],
    commands,
    readings,
  };
}

const isRole = (role: string | undefined): role is DriverDocument['role'] =>
  (deviceRoles as readonly (string | undefined)[]).includes(role);

/** An id for a driver that is made from a device: `own-` and its tag. */
export const ownDriverId = (tag: string, taken: readonly string[]): string => {
  const base = `own-${tag.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`;
  for (let n = 1; ; n += 1) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.includes(id)) return id;
  }
};
