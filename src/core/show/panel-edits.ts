import { freeSlug } from '../free-slug';
import type { Edit } from './edit';
import type { PanelRecord, ShowRecord } from './records';

export const panelsOf = (records: readonly ShowRecord[]): PanelRecord[] =>
  records
    .filter((record): record is PanelRecord => record.kind === 'panel')
    .sort((a, b) => a.data.order - b.data.order || (a.id < b.id ? -1 : 1));

/** A new panel with all pages, under an address of its own. */
export function newPanelEdit(records: readonly ShowRecord[], id: string, name: string): Edit {
  const panels = panelsOf(records);
  const data: PanelRecord['data'] = {
    name,
    path: freePath(name, panels),
    order: Math.max(0, ...panels.map(({ data: { order } }) => order)) + 1,
    pages: [],
    hidden: [],
    brightness: 100,
  };
  return { title: `New panel ${name}`, changes: [{ op: 'add', record: { kind: 'panel', id, version: 1, data } }] };
}

export function changePanelEdit(from: PanelRecord, to: Partial<PanelRecord['data']>, what: string): Edit {
  const data = { ...from.data, ...to };
  return { title: `${what} of panel ${from.data.name}`, changes: [{ op: 'update', from, to: { ...from, data } }] };
}

export const removePanelEdit = (record: PanelRecord): Edit => ({
  title: `Remove panel ${record.data.name}`,
  changes: [{ op: 'remove', record }],
});

/** Words that stand for something else in a panel's address. */
const taken = ['tally', 'walk', 'clock', 'outputs', 'join'];

/** What is wrong with an address that was typed for a panel; `undefined` when nothing is. */
export function pathProblem(path: string, self: string, records: readonly ShowRecord[]): string | undefined {
  if (!/^[a-z0-9][a-z0-9-]{0,29}$/.test(path)) return 'Small letters, digits and hyphens, 30 at most.';
  if (taken.includes(path)) return `“${path}” stands for something else. Choose another word.`;
  if (records.some(({ kind, id }) => kind === 'page' && id === path)) return 'A page has this as its id.';
  const twin = panelsOf(records).find(({ id, data }) => id !== self && data.path === path);
  return twin && `The panel “${twin.data.name}” has this address already.`;
}

const freePath = (name: string, panels: readonly PanelRecord[]): string =>
  freeSlug(name, [...panels.map(({ data }) => data.path), ...taken], 24, 'panel');

/** True when a panel shows a page: it names it, or names none and so has all. */
export const panelHasPage = ({ data }: Pick<PanelRecord, 'data'>, page: string): boolean =>
  data.pages.length === 0 || data.pages.includes(page);

/** Which panels a step about a page reaches, and which not because they do not have it. */
export function panelsReached(
  records: readonly ShowRecord[],
  panel: string | undefined,
  page: string | undefined,
): { readonly reached: readonly PanelRecord[]; readonly without: readonly PanelRecord[] } {
  const meant = panelsOf(records).filter(({ id }) => panel === undefined || id === panel);
  const has = (each: PanelRecord) => page === undefined || panelHasPage(each, page);
  return { reached: meant.filter(has), without: meant.filter((each) => !has(each)) };
}
