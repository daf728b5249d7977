import type { PageRecord } from '../show';

/** How a panel looks at a page: on which shift level, and with which devices picked in its zones. */
export interface PageContext {
  readonly shift: string | undefined;
  /** Zone to device, where somebody picked one. */
  readonly picks: Readonly<Record<string, string>>;
}

export const usualContext: PageContext = { shift: undefined, picks: {} };

/** Picks a device in a zone; `undefined` gives the zone back to what it usually drives. */
export function withPick({ shift, picks }: PageContext, zone: string, device: string | undefined): PageContext {
  const { [zone]: _, ...others } = picks;
  return { shift, picks: device === undefined ? others : { ...others, [zone]: device } };
}

/** Chooses a level of a page, or the usual one. */
export const withShift = ({ picks }: PageContext, shift: string | undefined): PageContext => ({ shift, picks });

const shiftKey = 'shift';

/** A page in a context as one word, the same for the same context: `page-race;shift=s1;z1=dev-c2`. */
export function contextKey(page: string, { shift, picks }: PageContext): string {
  const parts = Object.entries(picks)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([zone, device]) => `;${zone}=${device}`);
  return `${page}${shift === undefined ? '' : `;${shiftKey}=${shift}`}${parts.join('')}`;
}

/** Takes such a word apart. A part without a sense is left out. */
export function readContextKey(key: string): { readonly page: string; readonly context: PageContext } {
  const [page = '', ...parts] = key.split(';');
  const pairs = parts.map((part) => part.split('=') as [string, string | undefined]);
  const shift = pairs.find(([name]) => name === shiftKey)?.[1];
  const picks = pairs.flatMap(([zone, device]) => (zone === shiftKey || !device ? [] : [[zone, device] as const]));
  return { page, context: { shift, picks: Object.fromEntries(picks) } };
}

/**
 * True for a context that a page can be looked at in: a level that it has, and in each zone a device that can be picked there.
 * Without the page only its bare name can be, for somebody may wait for it.
 */
export function canBeContext(page: PageRecord['data'] | undefined, key: string): boolean {
  const { page: id, context } = readContextKey(key);
  if (contextKey(id, context) !== key) return false;
  if (!page) return key === id;
  const { shift, picks } = context;
  if (shift !== undefined && !page.shifts?.some((level) => level.id === shift)) return false;
  return Object.entries(picks).every(([zone, device]) =>
    page.zones.some(({ id: own, pick }) => own === zone && pick?.devices.includes(device)),
  );
}
