import Papa from 'papaparse';
import { z } from 'zod';
import { asRunFilterSchema, flatColumns, flatRow } from '../../../../core/live';
import { readAsRun } from '../../../../store';
import { asRunDb } from '../../../server/as-run-store';
import { isDesk } from '../../../server/principal';

const exportSchema = asRunFilterSchema.extend({ format: z.enum(['csv', 'jsonl']) });
const isoTime = (at: number): string => new Date(at).toISOString();

/** The record as CSV (RFC 4180) or as JSON lines, oldest first, as it is read. */
export async function GET(request: Request): Promise<Response> {
  if (!(await isDesk())) return Response.json({ message: 'Only the desk can read this.' }, { status: 403 });
  const asked = exportSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return Response.json({ message: asked.error.issues[0]?.message }, { status: 400 });
  const { format, ...filter } = asked.data;
  const pieces = readAsRun(asRunDb(), filter);
  const utf8 = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      if (format === 'csv') controller.enqueue(utf8.encode(`${flatColumns.join(',')}\r\n`));
    },
    async pull(controller) {
      // Between two pieces others get their turn.
      await new Promise((resolve) => setImmediate(resolve));
      const piece = pieces.next();
      if (piece.done) return controller.close();
      const rows = piece.value;
      if (rows.length === 0) return controller.enqueue(new Uint8Array());
      const text =
        format === 'jsonl'
          ? rows.map((each) => each.text).join('\n') + '\n'
          : `${Papa.unparse(
              rows.map(({ row }) => flatRow(row, isoTime)),
              { header: false, columns: [...flatColumns], escapeFormulae: true },
            )}\r\n`;
      controller.enqueue(utf8.encode(text));
    },
  });
  const type = format === 'csv' ? 'text/csv; charset=utf-8' : 'application/x-ndjson; charset=utf-8';
  return new Response(body, {
    headers: {
      'content-type': type,
      'content-disposition': `attachment; filename="as-run.${format}"`,
      'cache-control': 'no-store',
    },
  });
}
