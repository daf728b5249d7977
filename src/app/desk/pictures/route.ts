import { allRecords, picturesOf, putPicture } from '../../../store';
import { isDesk } from '../../server/principal';
import { showDb } from '../../server/show-store';

/** All pictures that the show's controls use, for a file of pages. */
export async function GET(): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can read this.' }, { status: 403 });
  return Response.json(picturesOf(showDb(), allRecords(showDb())), { headers: { 'cache-control': 'no-store' } });
}

/** Keeps a picture; answers with its hash, or with why it is refused. */
export async function POST(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can do this.' }, { status: 403 });
  const put = putPicture(showDb(), new Uint8Array(await request.arrayBuffer()));
  return put.ok ? Response.json({ hash: put.value }) : Response.json({ message: put.error }, { status: 415 });
}
