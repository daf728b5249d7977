import type { DriverDocument } from '../driver';

/** The words by which a driver is found: what it is, what it does, and how it is spoken to. */
export function driverWords(document: DriverDocument): string {
  const { title, role, id, link, framing, commands, readings, starters, searchWords } = document;
  const titles = [...Object.values(commands), ...Object.values(readings)].map((each) => each.title);
  const protocol = framing.kind === 'http' ? 'http json' : framing.kind;
  const models = document.identity.models ?? [];
  return [
    title,
    role,
    id,
    ...searchWords,
    link.kind,
    protocol,
    ...models,
    ...titles,
    ...starters.map(({ purpose }) => purpose),
  ]
    .join(' ')
    .toLowerCase();
}

/** The drivers in which every typed word is found, those whose title begins with the first word before the others, stand-ins last. */
export function searchDrivers(drivers: readonly DriverDocument[], typed: string): DriverDocument[] {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const first = wanted[0] ?? '';
  const rank = ({ title, role }: DriverDocument) =>
    title
      .toLowerCase()
      .split(/\s+/)
      .some((word) => word.startsWith(first))
      ? 0
      : role.startsWith(first)
        ? 1
        : 2;
  return drivers
    .filter((document) => {
      const words = driverWords(document);
      return wanted.every((word) => words.includes(word));
    })
    .sort((a, b) => Number(a.standIn) - Number(b.standIn) || rank(a) - rank(b) || a.title.localeCompare(b.title));
}

/** The one driver that a text names: by its id or title, else the only one in which all its words are found. */
export function driverOfText(drivers: readonly DriverDocument[], text: string): DriverDocument | undefined {
  const wanted = text.trim().toLowerCase();
  const exact = drivers.find(({ id, title }) => id === wanted || title.toLowerCase() === wanted);
  if (exact) return exact;
  const found = searchDrivers(drivers, text).filter(({ id, title, role }) =>
    wanted.split(/\s+/).every((word) => `${id} ${title} ${role}`.toLowerCase().includes(word)),
  );
  return found.length === 1 ? found[0] : undefined;
}
