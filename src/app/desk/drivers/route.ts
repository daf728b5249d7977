import { isDesk } from '../../server/principal';
import { driversView } from '../../server/show-store';

/** The drivers at hand, for the desk's editors. */
export async function GET(): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can read this.' }, { status: 403 });
  return Response.json(driversView(), { headers: { 'cache-control': 'no-store' } });
}
