import { expect } from 'vitest';
import { compileDriver, type CompiledDriver } from '../../src/core/driver';
import {
  applyEdit,
  canonicalJson,
  editSchema,
  invertEdit,
  type ControlRecord,
  type DeviceRecord,
  type Edit,
  type MacroRecord,
  type PageRecord,
  type ShowRecord,
} from '../../src/core/show';

/** Records and edits as tests need them again and again. */

export type Doc = ReadonlyMap<string, ShowRecord>;

export function compiled(source: unknown): CompiledDriver {
  const driver = compileDriver(source);
  if (!driver.ok) throw new Error('The driver does not compile.');
  return driver.value;
}

export const deviceRecord = (tag: string, more: Partial<DeviceRecord['data']> = {}): DeviceRecord => ({
  kind: 'device',
  id: `dev-${tag}`,
  version: 1,
  data: {
    tag,
    name: tag,
    role: 'camera',
    driver: 'ptz-camera',
    host: '10.0.0.5',
    port: 4402,
    enabled: true,
    site: '',
    user: '',
    options: {},
    ...more,
  },
});

/** A macro of these segments, each with an id of its own. */
export const macroRecord = (
  id: string,
  segments: readonly Partial<MacroRecord['data']['segments'][number]>[],
  more: Partial<MacroRecord['data']> = {},
): MacroRecord => ({
  kind: 'macro',
  id,
  version: 1,
  data: {
    name: id,
    order: 1,
    note: '',
    params: [],
    again: 'ignore',
    whenDown: 'go on',
    segments: segments.map((segment, n) => ({ id: `s${n}`, name: `part ${n + 1}`, steps: [], ...segment })),
    ...more,
  },
});

export const pageRecord = (id: string, name: string, more: Partial<PageRecord['data']> = {}): PageRecord => ({
  kind: 'page',
  id,
  version: 1,
  data: { name, order: 1, columns: 3, rows: 2, note: '', zones: [], ...more },
});

/** A button on the page `page`, labelled with its id. */
export const controlRecord = (id: string, more: Partial<ControlRecord['data']> = {}): ControlRecord => ({
  kind: 'control',
  id,
  version: 1,
  data: {
    page: 'page',
    type: 'button',
    col: 0,
    row: 0,
    cols: 1,
    rows: 1,
    label: [{ text: id }],
    values: {},
    responses: { tap: [] },
    lamps: [],
    ...more,
  },
});

export function must<T>(
  result: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: unknown },
): T {
  if (!result.ok) throw new Error(JSON.stringify(result.error));
  return result.value;
}

/** Ids that count up. */
export const counter = () => {
  let n = 0;
  return (kind: string) => `${kind}-new-${(n += 1)}`;
};

/** The show with an edit, and the edit as it was stored; `undefined` when it does not fit. */
export function applied(doc: Doc, edit: Edit): { readonly doc: Doc; readonly edit: Edit } | undefined {
  const result = applyEdit((id) => doc.get(id), edit);
  if (!result.ok) return undefined;
  const next = new Map(doc);
  for (const record of result.value.removes) next.delete(record.id);
  for (const record of result.value.puts) next.set(record.id, record);
  return { doc: next, edit: result.value.applied };
}

/** What a show says, whatever the versions of its records are. */
export const contentOf = (doc: Doc) =>
  canonicalJson(
    [...doc.values()].map(({ kind, id, data }) => ({ kind, id, data })).sort((a, b) => (a.id < b.id ? -1 : 1)),
  );

/** Applies an edit and takes it back; the show must then be as it was. Returns the show with the edit. */
export function done(records: readonly ShowRecord[], edit: Edit | undefined): ShowRecord[] {
  if (!edit) throw new Error('There is no edit.');
  const doc: Doc = new Map(records.map((record) => [record.id, record]));
  const there = applied(doc, editSchema.parse(JSON.parse(JSON.stringify(edit))));
  if (!there) throw new Error('The edit does not apply.');
  const back = applied(there.doc, invertEdit(there.edit));
  expect(back && contentOf(back.doc)).toBe(contentOf(doc));
  return [...there.doc.values()];
}
