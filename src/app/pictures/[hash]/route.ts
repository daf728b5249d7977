import { getPicture } from '../../../store';
import { showDb } from '../../server/show-store';

interface Context {
  readonly params: Promise<{ readonly hash: string }>;
}

/** A picture of the show. Its address is its content, so that it is fetched once and kept. */
export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { hash } = await params;
  const picture = /^[0-9a-f]{64}$/.test(hash) ? getPicture(showDb(), hash) : undefined;
  if (!picture) return new Response('There is no such picture.', { status: 404 });
  return new Response(new Uint8Array(picture.bytes), {
    headers: {
      'content-type': picture.type,
      'cache-control': 'public, max-age=31536000, immutable',
      'x-content-type-options': 'nosniff',
    },
  });
}
