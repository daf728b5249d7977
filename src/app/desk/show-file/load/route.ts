import { z } from 'zod';
import { StoreError } from '../../../../store';
import { isDesk } from '../../../server/principal';
import { loadStaged } from '../../../server/staged-shows';

const bodySchema = z.strictObject({
  id: z.string().max(40),
  passphrase: z.string().max(200),
  addresses: z.enum(['rig', 'file']),
  window: z.string().regex(/^[a-z0-9]{8,40}$/),
});

/** Loads a show file that was sent before, in place of the show that is there. */
export async function POST(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ ok: false, message: 'Only the desk can do this.' }, { status: 403 });
  const body = bodySchema.safeParse(await request.json().catch(() => undefined));
  if (!body.success) return Response.json({ ok: false, message: 'Not loaded: the request was not understood.' });
  const { id, passphrase, addresses, window } = body.data;
  try {
    return Response.json(await loadStaged(id, passphrase, addresses, window));
  } catch (error) {
    if (error instanceof StoreError) return Response.json({ ok: false, message: `Not loaded. ${error.message}` });
    throw error;
  }
}
