import { applyEditAction } from '../../actions';

/** Applies an edit of a desk window; a plain request, for it has to be quick and nothing of the screen comes from the server with it. */
export async function POST(request: Request): Promise<Response> {
  const body = (await request.json().catch(() => undefined)) as
    { edit?: unknown; window?: unknown; passwords?: unknown } | undefined;
  return Response.json(await applyEditAction(body?.edit, body?.window, body?.passwords));
}
