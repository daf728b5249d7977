'use server';

import { z } from 'zod';
import { editSchema, type ActionResult } from '../core/show';
import {
  commitEdit,
  leaveService,
  putInService,
  redoEdit,
  stepBack,
  StoreError,
  undoEdit,
  type EditDone,
  type EditFailure,
} from '../store';
import type { Result } from '../core/result';
import { tellEngine } from './server/engine-link';
import { isDesk } from './server/principal';
import { showDb } from './server/show-store';

const windowSchema = z.string().regex(/^[a-z0-9]{8,40}$/);
const noteSchema = z.string().max(200);

/** Applies an edit of this desk window. */
export async function applyEditAction(edit: unknown, window: unknown): Promise<ActionResult> {
  return act(() => {
    const parsed = editSchema.safeParse(edit);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return {
        ok: false,
        message: `Not saved: ${issue?.path.slice(-2).join('.') || 'the edit'} expects ${issue?.message ?? 'something else'}.`,
      };
    }
    return answer(commitEdit(showDb(), parsed.data, windowSchema.parse(window), Date.now()), 'Saved');
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

async function act(work: () => ActionResult): Promise<ActionResult> {
  if (!(await isDesk())) return { ok: false, message: 'Only the desk can edit the show.' };
  try {
    const result = work();
    if (result.ok) await tellEngine();
    return result;
  } catch (error) {
    if (error instanceof StoreError) return { ok: false, message: `Not saved. ${error.message}` };
    if (error instanceof z.ZodError) return { ok: false, message: 'Not saved: the request was not understood.' };
    throw error;
  }
}

function answer(result: Result<EditDone, EditFailure>, verb: string): ActionResult {
  return result.ok
    ? { ok: true, said: `${verb}: ${result.value.title}` }
    : { ok: false, message: result.error.message };
}
