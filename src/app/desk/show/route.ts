import { showNews } from '../../server/show-store';
import { isDesk } from '../../server/principal';

/** The show as edited last, for the desk's editors; with `since`, what has changed after that edit. */
export async function GET(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can read this.' }, { status: 403 });
  const { searchParams } = new URL(request.url);
  const since = /^\d{1,15}$/.test(searchParams.get('since') ?? '') ? Number(searchParams.get('since')) : undefined;
  return Response.json(showNews(searchParams.get('window') ?? '', since), { headers: { 'cache-control': 'no-store' } });
}
