import { startersOf, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import { startOf, startOfStarter, type ControlStart, type DeviceRecord } from '../show';
import { kindsOf } from './kinds';

/**
 * Something that a new control can be: a starter of a device, complete with face, response and lamp, one of its commands, or what the page
 * itself offers.
 */
export interface Offer {
  readonly id: string;
  /** Without one it is the page itself that offers it. */
  readonly device?: DeviceRecord;
  readonly kind: 'starter' | 'command' | 'page';
  /** What it is for, in the driver's words, or the kind of control that it makes; commands have no purpose. */
  readonly purpose: string;
  readonly title: string;
  /** What goes on while the control is held. */
  readonly held: boolean;
  /** It can spoil a show and will be guarded. */
  readonly risky: boolean;
  readonly help?: string;
  readonly start: () => ControlStart;
}

type ReadingsOfDevice = Readonly<Record<string, { readonly value?: Scalar }>>;

/** Everything that the rig offers for a page: for each device its starters by purpose, then its commands. */
export function offersOf(
  devices: readonly DeviceRecord[],
  documentOf: (device: DeviceRecord) => DriverDocument | undefined,
  readingsOf: (device: string) => ReadingsOfDevice | undefined,
): Offer[] {
  return devices.flatMap((device): Offer[] => {
    const document = documentOf(device);
    if (!document) return [];
    const readings = readingsOf(device.id) ?? {};
    const values = Object.fromEntries(Object.entries(readings).map(([key, { value }]) => [key, value]));
    const starters = startersOf(document, values).map((starter, n): Offer => {
      const command = document.commands[starter.command ?? ''];
      return {
        id: `${device.id} starter ${n} ${starter.title}`,
        device,
        kind: 'starter',
        purpose: starter.purpose,
        title: starter.title,
        held: starter.held,
        risky: command?.risky ?? false,
        ...(command ? { help: command.title } : {}),
        start: () => startOfStarter(device.id, starter, document),
      };
    });
    const commands = Object.entries(document.commands).map(([id, command]): Offer => ({
      id: `${device.id} command ${id}`,
      device,
      kind: 'command',
      purpose: '',
      title: command.title,
      held: command.stop !== undefined,
      risky: command.risky,
      help: command.help,
      start: () => startOf(document, device.id, id),
    }));
    const kinds = kindsOf(device, document, readings).map(({ key, start, ...offer }): Offer => ({
      ...offer,
      id: `${device.id} ${key}`,
      device,
      kind: 'starter',
      held: false,
      risky: false,
      start: () => start,
    }));
    return [...starters, ...kinds, ...commands];
  });
}

/** The offers in which every word of what was typed occurs: those whose title begins with it first, starters before commands. */
export function searchOffers(offers: readonly Offer[], typed: string): Offer[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [...offers];
  const ranked = offers.flatMap((offer) => {
    const { tag, name, role } = offer.device?.data ?? { tag: '', name: 'page', role: '' };
    const title = offer.title.toLowerCase();
    const all = `${tag} ${name} ${role} ${offer.purpose} ${title} ${offer.help ?? ''}`.toLowerCase();
    if (!words.every((word) => all.includes(word))) return [];
    const begins = words.filter((word) => title.startsWith(word) || tag.toLowerCase() === word).length;
    const inTitle = words.filter((word) => title.includes(word)).length;
    return [{ offer, rank: begins * 4 + inTitle * 2 + (offer.kind === 'command' ? 0 : 1) }];
  });
  return ranked.sort((a, b) => b.rank - a.rank).map(({ offer }) => offer);
}

interface OfferGroup {
  readonly key: string;
  readonly title: string;
  readonly offers: readonly Offer[];
}

/** The offers gathered under headings: by device, or by what they are for. */
export function groupOffers(offers: readonly Offer[], by: 'device' | 'purpose'): OfferGroup[] {
  const groups = new Map<string, Offer[]>();
  for (const offer of offers) {
    const title =
      by === 'device' ? nameOf(offer.device) : offer.purpose || (offer.device ? 'Commands' : nameOf(undefined));
    const group = groups.get(title);
    if (group) group.push(offer);
    else groups.set(title, [offer]);
  }
  return [...groups].map(([title, own]) => ({ key: title, title, offers: own }));
}

const nameOf = (device: DeviceRecord | undefined): string =>
  device ? `${device.data.tag} ${device.data.name}` : 'This page';
