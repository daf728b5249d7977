import type { DriverDocument } from '../driver';
import { driverWords } from '../show';
import type { PickEntry } from './word-search';

/** A driver, as it is picked. */
interface DriverEntry extends PickEntry {
  /** How it is spoken to: TCP, UDP, HTTP … */
  readonly link: string;
}

/** All drivers, by what kind of work their devices do, those for any device and those of stand-ins last. What only some model answers to counts, but less than the title. */
export function driverEntries(drivers: readonly DriverDocument[]): DriverEntry[] {
  return [...drivers]
    .sort(
      (a, b) =>
        Number(a.standIn) - Number(b.standIn) ||
        Number(a.role === 'any') - Number(b.role === 'any') ||
        a.role.localeCompare(b.role) ||
        a.title.localeCompare(b.title),
    )
    .map((document) => ({
      id: document.id,
      title: document.title,
      group: document.role === 'any' ? 'any device' : document.standIn ? `${document.role}, stand-in` : document.role,
      more: driverWords(document),
      link: document.link.kind.toUpperCase(),
    }));
}
