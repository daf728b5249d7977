import { randomBytes } from 'node:crypto';
import { liveChangeSchema } from '../../../core/live';
import { writeLive } from '../../../store';
import { tellEngine } from '../../server/engine-link';
import { isEngine } from '../../server/principal';
import { showDb } from '../../server/show-store';

/** Writes what takes effect at once, for the engine; answers with what is missing, as a sentence. */
export async function POST(request: Request): Promise<Response> {
  if (!(await isEngine())) return Response.json({ message: 'Only the engine can do this.' }, { status: 403 });
  const change = liveChangeSchema.safeParse(await request.json().catch(() => undefined));
  if (!change.success) return Response.json({ message: 'The change is not valid.' }, { status: 400 });
  const newId = (kind: string) => `${kind}-${randomBytes(8).toString('hex')}`;
  const message = await writeLive(showDb(), change.data, Date.now(), newId);
  await tellEngine();
  return Response.json(message === undefined ? {} : { message });
}
