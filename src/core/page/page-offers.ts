import type { ControlRecord, ControlStart, MacroRecord, PageRecord } from '../show';
import type { Offer } from './offers';

type Sets = NonNullable<ControlRecord['data']['sets']>;

/** One thing that a control can choose on the screen on which it is pressed. */
interface Settable {
  /** As a choice in a sentence: “level Replay, while held”. */
  readonly title: string;
  /** As the label of a control. */
  readonly label: string;
  readonly purpose: 'Levels' | 'Picks' | 'Page keys' | 'This screen';
  readonly sets: Sets;
}

/** Everything that a control of a page can choose: its levels, what its zones can drive, pages, and the screen itself. */
export function settableOn(
  page: PageRecord,
  pages: readonly PageRecord[],
  tagOf: (device: string) => string | undefined,
): readonly Settable[] {
  const { shifts = [], zones } = page.data;
  return [
    ...shifts.flatMap(({ id, name }): Settable[] => [
      { title: `level ${name}, while held`, label: name, purpose: 'Levels', sets: { shift: id, while: 'held' } },
      { title: `level ${name}, until another`, label: name, purpose: 'Levels', sets: { shift: id, while: 'chosen' } },
    ]),
    ...zones.flatMap(({ id, title, pick }) =>
      (pick?.devices ?? []).map((device): Settable => {
        const tag = tagOf(device) ?? '?';
        return { title: `${tag} in ${title}`, label: tag, purpose: 'Picks', sets: { zone: id, device } };
      }),
    ),
    { title: 'the next page', label: 'Next page', purpose: 'Page keys', sets: { go: 'next' } },
    { title: 'the page before', label: 'Back', purpose: 'Page keys', sets: { go: 'back' } },
    { title: 'the first page', label: 'First page', purpose: 'Page keys', sets: { go: 'first' } },
    ...pages
      .filter(({ id }) => id !== page.id)
      .map(({ id, data }): Settable => {
        return { title: `page ${data.name}`, label: data.name, purpose: 'Page keys', sets: { page: id } };
      }),
    { title: 'lock against touch', label: 'Lock screen', purpose: 'This screen', sets: { screen: 'lock' } },
    { title: 'dim or brighten', label: 'Dim screen', purpose: 'This screen', sets: { screen: 'dim' } },
  ];
}

const empty: ControlStart = { label: [], values: {}, responses: { tap: [] }, lamps: [] };

/** What a page offers besides the rig: an empty control, macros, levels, picks, page keys and what it does with the screen. */
export function offersOfPage(
  page: PageRecord,
  pages: readonly PageRecord[],
  macros: readonly MacroRecord[],
  tagOf: (device: string) => string | undefined,
): Offer[] {
  const offer = (id: string, title: string, purpose: string, start: Partial<ControlStart>, more?: Partial<Offer>) => ({
    id: `page ${id}`,
    kind: 'page' as const,
    purpose,
    title,
    held: false,
    risky: false,
    start: () => ({ ...empty, ...start }),
    ...more,
  });
  return [
    offer('empty', 'Empty control', '', {}),
    ...macros.map(({ id, data }) =>
      offer(`macro ${id}`, data.name, 'Macros', {
        label: [{ text: data.name }],
        responses: { tap: [], runs: { macro: id, params: {} } },
      }),
    ),
    ...settableOn(page, pages, tagOf).map(({ title, label, purpose, sets }) =>
      offer(
        `sets ${JSON.stringify(sets)}`,
        title.charAt(0).toUpperCase() + title.slice(1),
        purpose,
        { label: [{ text: label }], sets },
        { held: 'while' in sets && sets.while === 'held' },
      ),
    ),
  ];
}
