import { freeSlug } from '../free-slug';
import { fail, ok, type Result } from '../result';
import type { BindingData } from './binding';
import type { Edit, RecordChange } from './edit';
import type { BindingRecord, PanelRecord, ShowRecord } from './records';

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

/** What is `undefined` in `to` is taken out. */
export function changePanelEdit(from: PanelRecord, to: Partial<PanelRecord['data']>, what: string): Edit {
  const given = Object.entries({ ...from.data, ...to }).filter(([, value]) => value !== undefined);
  const data = Object.fromEntries(given) as PanelRecord['data'];
  return { title: `${what} of panel ${from.data.name}`, changes: [{ op: 'update', from, to: { ...from, data } }] };
}

/** Removes a panel, with what its hand gear was bound to. */
export const removePanelEdit = (record: PanelRecord, records: readonly ShowRecord[]): Edit => ({
  title: `Remove panel ${record.data.name}`,
  changes: [...records.filter(({ kind, data }) => kind === 'binding' && data.panel === record.id), record].map(
    (each) => ({ op: 'remove', record: each }),
  ),
});

/** The most inputs of hand gear that one panel binds. */
const mostBindings = 400;

/** Binds an input of hand gear to a control. It takes the place of what the input did on this panel before. Fails, with a sentence, when there are too many. */
export function bindEdit(
  bindings: readonly BindingRecord[],
  data: BindingData,
  newId: (kind: 'binding') => string,
): Result<Edit, string> {
  const ofPanel = bindings.filter((each) => each.data.panel === data.panel);
  const [same, ...more] = ofPanel.filter((each) => each.data.gear === data.gear && each.data.input === data.input);
  if (!same && ofPanel.length >= mostBindings)
    return fail(`A panel has ${mostBindings} bindings at most. Free some that are not used.`);
  const put: RecordChange = same
    ? { op: 'update', from: same, to: { ...same, data } }
    : { op: 'add', record: { kind: 'binding', id: newId('binding'), version: 1, data } };
  const removed = more.map((record): RecordChange => ({ op: 'remove', record }));
  return ok({ title: `Bind ${data.input} of ${data.gear}`, changes: [put, ...removed] });
}

export const removeBindingEdit = (record: BindingRecord): Edit => ({
  title: `Free ${record.data.input} of ${record.data.gear}`,
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
