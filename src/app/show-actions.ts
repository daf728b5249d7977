'use server';

import { z } from 'zod';
import type { ActionResult, HistoryFigures, NotStaged, StagedShow } from '../core/show';
import { backups, historyFigures, readBackup, StoreError, type Backup } from '../store';
import { demoPasswords, demoShow } from '../../demo/show';
import { wantStandins } from './server/engine-link';
import { isDesk } from './server/principal';
import { dataDir, showDb } from './server/show-store';
import { loadNow, stageShow } from './server/staged-shows';

const windowSchema = z.string().regex(/^[a-z0-9]{8,40}$/);
const notDesk = { ok: false, message: 'Only the desk can do this.' } as const;

export async function listBackupsAction(): Promise<readonly Backup[]> {
  return (await isDesk()) ? backups(dataDir()) : [];
}

/** How much undo history and how many revisions are kept. */
export async function historyAction(): Promise<HistoryFigures | undefined> {
  return (await isDesk()) ? historyFigures(showDb()) : undefined;
}

/** Says what bringing a backup back would change. */
export async function stageBackupAction(name: unknown): Promise<StagedShow | NotStaged> {
  if (!(await isDesk())) return notDesk;
  const text = readBackup(dataDir(), z.string().max(100).parse(name));
  if (text === undefined) return { ok: false, message: 'Not restored: this backup no longer exists.' };
  return stageShow(text, 'before restoring');
}

/** Starts from the demo show, with its stand-ins and their passwords. */
export async function loadDemoAction(window: unknown): Promise<ActionResult> {
  if (!(await isDesk())) return notDesk;
  const base = Number(process.env.STANDIN_PORT_BASE ?? 4400);
  const why = await wantStandins(true);
  if (why !== undefined) return { ok: false, message: `The demo show was not loaded. ${why}` };
  const file = { name: 'Tidewick Regatta', records: demoShow(base) };
  try {
    return await loadNow(
      { file, drivers: [], why: 'before loading' },
      demoPasswords,
      'file',
      windowSchema.parse(window),
    );
  } catch (error) {
    if (error instanceof StoreError) return { ok: false, message: `Not loaded. ${error.message}` };
    throw error;
  }
}

/** Starts or ends the stand-ins of the demo. */
export async function standinsAction(on: unknown): Promise<ActionResult> {
  if (!(await isDesk())) return notDesk;
  const wanted = z.boolean().parse(on);
  const why = await wantStandins(wanted);
  if (why !== undefined) return { ok: false, message: why };
  return { ok: true, said: wanted ? 'The stand-ins are running.' : 'The stand-ins are stopped.' };
}
