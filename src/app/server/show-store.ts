import 'server-only';
import { resolve } from 'node:path';
import { compileDriver, type DriverDocument } from '../../core/driver';
import type { DeskView } from '../../core/show';
import { shippedDrivers } from '../../drivers';
import { allRecords, headSeq, openShow, serviceState, undoState, type Opened, type ShowDb } from '../../store';

/** One open show.db for the whole process; development reloads this module and must not open it again each time. */
const kept = globalThis as typeof globalThis & { sorrelfinchShow?: Opened<ShowDb> };

export function showDb(): ShowDb {
  kept.sorrelfinchShow ??= openShow(resolve(/*turbopackIgnore: true*/ process.env.DATA_DIR ?? 'data/show'));
  return kept.sorrelfinchShow.db;
}

const drivers: readonly DriverDocument[] = shippedDrivers.flatMap((document) => {
  const compiled = compileDriver(document);
  return compiled.ok ? [compiled.value.document] : [];
});

/** The show as edited last, with what the editors need beside it. */
export function deskView(window: string): DeskView {
  const db = showDb();
  return { seq: headSeq(db), records: allRecords(db), drivers, service: serviceState(db), ...undoState(db, window) };
}
