import { z } from 'zod';
import { putPicture, scaledPicture } from '../../../../store';
import { fetchPicture } from '../../../server/engine-link';
import { isDesk } from '../../../server/principal';
import { showDb } from '../../../server/show-store';

const bodySchema = z.strictObject({ device: z.string().max(80), still: z.string().max(80) });

/** Fetches a picture from a device and keeps it, scaled; answers with its hash, or with the reason why there is none. */
export async function POST(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can do this.' }, { status: 403 });
  const body = bodySchema.safeParse(await request.json().catch(() => undefined));
  if (!body.success) return Response.json({ message: 'The request is not valid.' }, { status: 400 });
  const fetched = await fetchPicture(body.data.device, body.data.still);
  const scaled = fetched.ok ? await scaledPicture(fetched.value) : fetched;
  const put = scaled.ok ? putPicture(showDb(), scaled.value) : scaled;
  return put.ok ? Response.json({ hash: put.value }) : Response.json({ message: put.error }, { status: 502 });
}
