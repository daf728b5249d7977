import 'server-only';
import { resolve } from 'node:path';
import { compileDriver, parseDriver, type DriverDocument } from '../../core/driver';
import type { DriversView, ShowNews } from '../../core/show';
import { shippedDrivers } from '../../drivers';
import {
  allRecords,
  changesSince,
  devicesWithPassword,
  driversKey,
  headSeq,
  installedDrivers,
  openShow,
  serviceState,
  toRecord,
  undoState,
  type Opened,
  type ShowDb,
} from '../../store';

/** One open show.db for the whole process; development reloads this module and must not open it again each time. */
const kept = globalThis as typeof globalThis & { sorrelfinchShow?: Opened<ShowDb> };

export function showDb(): ShowDb {
  kept.sorrelfinchShow ??= openShow(dataDir());
  return kept.sorrelfinchShow.db;
}

const documentOf = (document: unknown): DriverDocument[] => {
  const compiled = compileDriver(document);
  return compiled.ok ? [compiled.value.whole] : [];
};
/** Those that ship are known to compile. */
const shipped: readonly DriverDocument[] = shippedDrivers.flatMap((document) => {
  const parsed = parseDriver(document);
  return parsed.ok ? [parsed.value] : [];
});

/** Documents that were installed here, compiled once for each text. */
const compiledTexts = new Map<string, readonly DriverDocument[]>();

function installed(db: ShowDb): readonly DriverDocument[] {
  return installedDrivers(db).flatMap(({ json }) => {
    let documents = compiledTexts.get(json);
    if (!documents) compiledTexts.set(json, (documents = documentOf(JSON.parse(json))));
    return documents;
  });
}

/** The driver documents that ship, by id: they cannot be replaced. */
export const shippedIds: ReadonlySet<string> = new Set(shipped.map(({ id }) => id));

export const dataDir = (): string => resolve(/*turbopackIgnore: true*/ process.env.DATA_DIR ?? 'data/show');

/** The drivers that ship and those that were installed here. */
export function driversView(): DriversView {
  const own = installed(showDb());
  return { drivers: [...shipped, ...own], installed: own.map(({ id }) => id) };
}

/** What has changed in the show since an edit number, or all of it; the drivers are asked for apart. */
export function showNews(window: string, since: number | undefined): ShowNews {
  const db = showDb();
  const seq = headSeq(db);
  const known = since !== undefined && since <= seq ? since : null;
  const changes = known === null ? undefined : changesSince(db, known);
  return {
    seq,
    since: known,
    puts: changes ? changes.puts.map(toRecord) : allRecords(db),
    removes: changes ? changes.removes.map(({ id }) => id) : [],
    driversKey: driversKey(db),
    withPassword: devicesWithPassword(db),
    service: serviceState(db),
    ...undoState(db, window),
  };
}
