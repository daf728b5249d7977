import type { CompiledDriver } from '../driver';
import {
  nameOfRecord,
  ownDocumentOf,
  sourcesOf,
  withEngineReadings,
  type DeviceRecord,
  type Edit,
  type MacroRecord,
  type PageRecord,
  type ShowRecord,
} from '../show';
import { problemsOfControl } from './control-problems';
import { problemsOfWatch } from './watch-problems';
import { problemsOfMacro } from './macro-problems';
import { problemsOfPage } from './page-problems';

/** Something that an edit brings in and that will not work here. */
interface BroughtProblem {
  /** The page and the label, or the macro. */
  readonly where: string;
  readonly message: string;
}

/** What will not work of the pages, controls and macros that an edit adds or changes, in the show as the edit leaves it. */
export function problemsBrought(
  records: readonly ShowRecord[],
  edit: Edit,
  driverOf: (device: DeviceRecord) => CompiledDriver | undefined,
): BroughtProblem[] {
  const after = new Map(records.map((record) => [record.id, record]));
  const brought: ShowRecord[] = [];
  for (const change of edit.changes) {
    if (change.op === 'remove') after.delete(change.record.id);
    else {
      const record = change.op === 'add' ? change.record : change.to;
      after.set(record.id, record);
      brought.push(record);
    }
  }
  const of =
    <K extends ShowRecord['kind']>(kind: K) =>
    (id: string) => {
      const record = after.get(id);
      return record?.kind === kind ? (record as Extract<ShowRecord, { kind: K }>) : undefined;
    };
  const [device, page, macro, panel] = [of('device'), of('page'), of('macro'), of('panel')];
  const all = [...after.values()];
  const own = ownDocumentOf(all);
  const tied = sourcesOf(all);
  const sources = {
    device,
    page,
    hasMacro: (id: string) => macro(id) !== undefined,
    document: (each: DeviceRecord) => {
      const document = driverOf(each)?.document;
      return document && withEngineReadings(document, tied.has(each.id));
    },
    own,
  };
  const macroSources = {
    devices: new Map(all.flatMap((each) => (each.kind === 'device' ? [[each.id, each] as const] : []))),
    macros: new Map(
      all.flatMap((each): (readonly [string, MacroRecord])[] => (each.kind === 'macro' ? [[each.id, each]] : [])),
    ),
    driverOf,
    own,
    page: (id: string): PageRecord | undefined => page(id),
    hasPanel: (id: string) => panel(id) !== undefined,
  };
  return brought.flatMap((record): BroughtProblem[] => {
    const said = (where: string, found: readonly { readonly message: string }[]) =>
      found.map(({ message }) => ({ where, message }));
    switch (record.kind) {
      case 'page':
        return said(record.data.name, problemsOfPage(record, sources));
      case 'macro':
        return said(`Macro ${record.data.name}`, problemsOfMacro(record, macroSources));
      case 'watch':
        return said(`Watch ${record.data.name}`, problemsOfWatch(record, { ...sources, records: all }));
      case 'control': {
        const on = page(record.data.page)?.data.name ?? '?';
        return said(`${on}: ${nameOfRecord(record)}`, problemsOfControl(record, sources));
      }
      default:
        return [];
    }
  });
}
