'use server';

import { z } from 'zod';
import { checkNewDriver } from '../core/driver';
import { editSchema, idSchema, type ActionResult } from '../core/show';
import { parseJson } from '../core/wire';
import {
  commitEdit,
  dailyBackup,
  installDriver,
  installedDrivers,
  leaveService,
  putInService,
  recordsOfKind,
  redoEdit,
  removeDriver,
  runningRevision,
  sealPassword,
  stepBack,
  trimHistory,
  StoreError,
  undoEdit,
  writePassword,
  type EditDone,
  type EditFailure,
} from '../store';
import type { Result } from '../core/result';
import { tellEngine } from './server/engine-link';
import { isDesk } from './server/principal';
import { dataDir, shippedIds, showDb } from './server/show-store';

const windowSchema = z.string().regex(/^[a-z0-9]{8,40}$/);
const passwordSchema = z
  .string()
  .max(200)
  .regex(/^[^\r\n\0]*$/, 'a password without line breaks');
const noteSchema = z.string().max(200);
const maxDriverChars = 2_000_000;

/** Applies an edit of this desk window, and keeps passwords of devices with it: both or neither. */
export async function applyEditAction(edit: unknown, window: unknown, passwords: unknown = {}): Promise<ActionResult> {
  return act(() => {
    const parsed = editSchema.safeParse(edit);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return {
        ok: false,
        message: `Not saved: ${issue?.path.slice(-2).join('.') || 'the edit'} expects ${issue?.message ?? 'something else'}.`,
      };
    }
    const given = z.record(idSchema, passwordSchema).safeParse(passwords);
    if (!given.success) return { ok: false, message: 'Not saved: a password cannot contain a line break.' };
    const secrets = Object.entries(given.data).map(([device, password]) => ({
      device,
      sealed: password === '' ? null : sealPassword(dataDir(), device, password),
    }));
    const beside = { drivers: [], secrets };
    const done = commitEdit(showDb(), parsed.data, windowSchema.parse(window), Date.now(), beside);
    if (done.ok && done.value.changed + secrets.length === 0) return { ok: true, said: 'Nothing to save.' };
    return answer(done, 'Saved');
  });
}

export async function undoAction(window: unknown): Promise<ActionResult> {
  return act(() => answer(undoEdit(showDb(), windowSchema.parse(window)), 'Undone'));
}

export async function redoAction(window: unknown): Promise<ActionResult> {
  return act(() => answer(redoEdit(showDb(), windowSchema.parse(window)), 'Done again'));
}

export async function putInServiceAction(note: unknown): Promise<ActionResult> {
  return act(() => {
    const revision = putInService(showDb(), noteSchema.parse(note), Date.now());
    return { ok: true, said: `Revision ${revision} is in service.` };
  });
}

export async function stepBackAction(): Promise<ActionResult> {
  return act(() => {
    const back = stepBack(showDb());
    return back.ok ? { ok: true, said: `Back to revision ${back.value}.` } : { ok: false, message: back.error };
  });
}

export async function leaveServiceAction(): Promise<ActionResult> {
  return act(() => {
    leaveService(showDb());
    return { ok: true, said: 'Out of service: edits go through at once.' };
  });
}

/** Installs a driver document from its text, whole or not at all. */
export async function installDriverAction(text: unknown, older: unknown = false): Promise<ActionResult> {
  return act(() => {
    const document = parseJson(z.string().max(maxDriverChars).parse(text));
    if (!document.ok) return { ok: false, message: `Not installed: it is not JSON. ${document.error}` };
    const compiled = checkNewDriver(document.value);
    if (!compiled.ok) {
      const count = compiled.error.length === 1 ? '1 mistake' : `${compiled.error.length} mistakes`;
      return { ok: false, message: `Not installed: the document has ${count}.`, problems: compiled.error };
    }
    const { id, title } = compiled.value.document;
    if (shippedIds.has(id)) {
      return { ok: false, message: `Not installed: “${id}” is the id of a driver that ships. Choose another id.` };
    }
    const { version } = compiled.value.document;
    const here = installedDrivers(showDb()).find((each) => each.id === id);
    const versionHere = here && Number((JSON.parse(here.json) as { version?: unknown }).version ?? 0);
    if (versionHere !== undefined && versionHere > version && older !== true)
      return {
        ok: false,
        code: 'older-driver',
        message: `Not installed: version ${versionHere} of “${title}” is installed here, and this is version ${version}.`,
      };
    installDriver(showDb(), id, document.value, Date.now());
    const revision = runningRevision(showDb());
    const when =
      revision === null ? '' : ` Revision ${revision} goes on with the drivers it has; the next one has this one.`;
    return { ok: true, said: `Installed: ${title}, version ${version}.${when}` };
  });
}

/** Takes a driver out that was installed here and that no device uses. */
export async function removeDriverAction(id: unknown): Promise<ActionResult> {
  return act(() => {
    const wanted = z.string().max(64).parse(id);
    const users = recordsOfKind(showDb(), 'device').filter(({ data }) => data.driver === wanted);
    if (users.length > 0) {
      const tags = users.map(({ data }) => data.tag).join(', ');
      return {
        ok: false,
        message: `Not removed: ${tags} would be left without a driver. Give it another one first.`,
      };
    }
    removeDriver(showDb(), wanted);
    return { ok: true, said: `Taken out: ${wanted}` };
  });
}

/** Keeps a device's password apart from the show; an empty one is forgotten. */
export async function setPasswordAction(device: unknown, password: unknown): Promise<ActionResult> {
  return act(() => {
    const parsed = passwordSchema.safeParse(password);
    if (!parsed.success) return { ok: false, message: 'Not saved: a password cannot contain a line break.' };
    writePassword(showDb(), dataDir(), idSchema.parse(device), parsed.data);
    return { ok: true, said: parsed.data === '' ? 'The password is forgotten.' : 'The password is kept.' };
  });
}

async function act(work: () => ActionResult): Promise<ActionResult> {
  if (!(await isDesk())) return { ok: false, message: 'Only the desk can edit the show.' };
  try {
    const result = work();
    if (result.ok) {
      await tellEngine();
      const wrong = backUp();
      if (wrong !== undefined) return { ...result, said: [result.said, wrong].filter(Boolean).join(' ') };
    }
    return result;
  } catch (error) {
    if (error instanceof StoreError) return { ok: false, message: `Not saved. ${error.message}` };
    if (error instanceof z.ZodError) return { ok: false, message: 'Not saved: the request was not understood.' };
    throw error;
  }
}

/** Makes the day's backup. What was saved is saved, whether the backup fits or not; then it says so. */
function backUp(): string | undefined {
  try {
    const now = Date.now();
    if (dailyBackup(showDb(), dataDir(), now)) trimHistory(showDb(), now);
    return undefined;
  } catch (error) {
    console.error('The daily backup could not be written.', error);
    return 'Saved, but the daily backup could not be written. Is the disk full?';
  }
}

function answer(result: Result<EditDone, EditFailure>, verb: string): ActionResult {
  return result.ok
    ? { ok: true, said: `${verb}: ${result.value.title}` }
    : { ok: false, message: result.error.message };
}
