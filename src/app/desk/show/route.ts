import { deskView } from '../../server/show-store';
import { isDesk } from '../../server/principal';

/** The show as edited last, for the desk's editors. */
export async function GET(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can read this.' }, { status: 403 });
  const window = new URL(request.url).searchParams.get('window') ?? '';
  return Response.json(deskView(window), { headers: { 'cache-control': 'no-store' } });
}
