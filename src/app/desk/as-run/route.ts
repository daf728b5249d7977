import { z } from 'zod';
import { asRunFilterSchema } from '../../../core/live';
import { searchAsRun } from '../../../store';
import { asRunDb } from '../../server/as-run-store';
import { isDesk } from '../../server/principal';

const pageSchema = asRunFilterSchema.extend({ before: z.coerce.number().int().min(0).optional() });
const limit = 200;
/** How long one request searches the record; the client continues from where it stopped. */
const budgetMs = 250;

/** Part of the record that fits a filter, newest first. */
export async function GET(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can read this.' }, { status: 403 });
  const asked = pageSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return Response.json({ message: asked.error.issues[0]?.message }, { status: 400 });
  const { before, ...filter } = asked.data;
  return Response.json(searchAsRun(asRunDb(), filter, { before, limit, budgetMs }), {
    headers: { 'cache-control': 'no-store' },
  });
}
