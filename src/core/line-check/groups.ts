import { inNumberOrder } from '../number-order';
import { ownId } from '../show';
import type { CheckItem } from './item';
import { figuresOf, standings, type Figures, type Standing } from './standing';

type Listed = Pick<CheckItem, 'id' | 'kind' | 'title' | 'devices' | 'pages' | 'panels'> & {
  readonly standing: Standing;
};

/** Items that belong together, with how far they are proved. */
export interface CheckGroup<Item> {
  readonly id: string;
  readonly title: string;
  readonly figures: Figures;
  /** Those that are to be listed: what needs somebody first. */
  readonly items: readonly Item[];
}

interface Wanted {
  readonly by: 'device' | 'page';
  /** Leaves out what is proved and what cannot be. */
  readonly isToDo: boolean;
  /** Words that the title has to contain, in any order. */
  readonly search: string;
  readonly titleOf: (id: string) => string | undefined;
}

const panelsGroup = 'panels';
const inletsGroup = 'inlets';
const elsewhere = 'elsewhere';

/** Groups items by the device that they are about, or by the page on which they are used. An item of several pages is in each of them. */
export function groupsOf<Item extends Listed>(
  items: readonly Item[],
  { by, isToDo, search, titleOf }: Wanted,
): readonly CheckGroup<Item>[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const groups = new Map<string, Item[]>();
  for (const item of items) {
    for (const id of groupIds(item, by)) {
      const own = groups.get(id);
      if (own) own.push(item);
      else groups.set(id, [item]);
    }
  }
  const made = [...groups].map(([id, own]): CheckGroup<Item> => {
    const title = groupTitles.get(id) ?? titleOf(id) ?? 'No longer there';
    const shown = own.filter((item) => {
      if (isToDo && (item.standing === 'passed' || item.standing === 'none')) return false;
      const text = `${item.title} ${title}`.toLowerCase();
      return words.every((word) => text.includes(word));
    });
    return { id, title, figures: figuresOf(own.map(({ standing }) => standing)), items: shown.toSorted(inUrgency) };
  });
  return made
    .filter((group) => group.items.length > 0)
    .sort((a, b) => last(a) - last(b) || inNumberOrder(a.title, b.title));
}

/** What is about no device or page comes last. */
const last = ({ id }: { readonly id: string }): number => (groupTitles.has(id) ? 1 : 0);

const groupTitles: ReadonlyMap<string, string> = new Map([
  [panelsGroup, 'Panels and hand gear'],
  [inletsGroup, 'Inlets'],
  [elsewhere, 'On no page'],
]);

function groupIds({ devices, pages, panels, kind }: Listed, by: Wanted['by']): readonly string[] {
  if (by === 'page') return pages.length > 0 && panels.length === 0 ? pages : [elsewhere];
  const [first] = devices;
  if (first !== undefined) return [first];
  if (kind === 'inlet') return [inletsGroup];
  // What is about no device is about what the program itself says.
  return [kind === 'panel' || kind === 'gear' ? panelsGroup : ownId];
}

const inUrgency = (a: Listed, b: Listed): number =>
  standings.indexOf(a.standing) - standings.indexOf(b.standing) ||
  a.kind.localeCompare(b.kind) ||
  inNumberOrder(a.title, b.title);

/** Figures in a line: `80 of 92 proved, 1 failed, 3 to look at`. */
export function figuresText({ count, total }: Figures): string {
  const provable = total - count.none;
  const parts = [
    provable === 0 ? 'nothing to prove' : `${count.passed} of ${provable} proved`,
    count.failed > 0 && `${count.failed} failed`,
    count.doubtful > 0 && `${count.doubtful} to look at`,
    count.due > 0 && `${count.due} due again`,
  ];
  return parts.filter(Boolean).join(', ');
}
