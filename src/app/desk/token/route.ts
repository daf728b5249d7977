import { createHash, randomBytes } from 'node:crypto';
import { isDesk } from '../../server/principal';

/** A new token for a caller of an inlet, with the hash that is kept of it: the token itself is shown once. */
export async function POST(): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can do this.' }, { status: 403 });
  const token = randomBytes(18).toString('base64url');
  const hash = createHash('sha256').update(token).digest('hex');
  return Response.json({ token, hash }, { headers: { 'cache-control': 'no-store' } });
}
