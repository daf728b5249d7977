import { maxShowFileBytes } from '../../../core/show';
import { StoreError } from '../../../store';
import { isDesk } from '../../server/principal';
import { stageShow } from '../../server/staged-shows';

const tooLarge = {
  ok: false,
  message: `The file is larger than ${maxShowFileBytes / 1024 / 1024} MB, which is the most that can be loaded. Are there large pictures in it?`,
} as const;

/** Takes a show file, read as it comes, and answers with what loading it would change. */
export async function POST(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ ok: false, message: 'Only the desk can do this.' }, { status: 403 });
  if (Number(request.headers.get('content-length') ?? 0) > maxShowFileBytes)
    return Response.json(tooLarge, { status: 413 });
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  const reader = request.body?.getReader();
  for (let read = await reader?.read(); read && !read.done; read = await reader?.read()) {
    const chunk = read.value;
    bytes += chunk.length;
    if (bytes > maxShowFileBytes) return Response.json(tooLarge, { status: 413 });
    chunks.push(chunk);
  }
  try {
    return Response.json(stageShow(Buffer.concat(chunks).toString('utf8')));
  } catch (error) {
    if (error instanceof StoreError) return Response.json({ ok: false, message: `Not loaded. ${error.message}` });
    throw error;
  }
}
