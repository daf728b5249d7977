import 'server-only';
import { resolve } from 'node:path';
import { compileDriver, type DriverDocument } from '../../core/driver';
import type { DeskView, DriversView } from '../../core/show';
import { shippedDrivers } from '../../drivers';
import {
  allRecords,
  devicesWithPassword,
  driversKey,
  headSeq,
  installedDrivers,
  openShow,
  serviceState,
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
  return compiled.ok ? [compiled.value.document] : [];
};
const shipped: readonly DriverDocument[] = shippedDrivers.flatMap(documentOf);

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

/** The show as edited last, with what the editors need beside it; the drivers are asked for apart. */
export function deskView(window: string): Omit<DeskView, keyof DriversView> {
  const db = showDb();
  return {
    seq: headSeq(db),
    records: allRecords(db),
    driversKey: driversKey(db),
    withPassword: devicesWithPassword(db),
    service: serviceState(db),
    ...undoState(db, window),
  };
}
