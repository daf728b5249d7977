import { asRunFilterSchema, delaysOf, summaryOf, type Delay } from '../../../../core/live';
import { searchAsRun } from '../../../../store';
import { asRunDb } from '../../../server/as-run-store';
import { isDesk } from '../../../server/principal';

const mostPoints = 2000;
const budgetMs = 1000;

/** How long the newest sends took that fit a filter, and what that comes to by device. */
export async function GET(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can read this.' }, { status: 403 });
  const asked = asRunFilterSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return Response.json({ message: asked.error.issues[0]?.message }, { status: 400 });
  const filter = { ...asked.data, kind: 'press' as const };
  const endAt = performance.now() + budgetMs;
  const delays: Delay[] = [];
  let before: number | undefined;
  do {
    const part = searchAsRun(asRunDb(), filter, { before, limit: 500, budgetMs: endAt - performance.now() });
    delays.push(...delaysOf(part.rows).filter(({ device }) => !filter.device || device === filter.device));
    before = part.before;
  } while (before !== undefined && delays.length < mostPoints && performance.now() < endAt);
  return Response.json({ delays, summary: summaryOf(delays) }, { headers: { 'cache-control': 'no-store' } });
}
