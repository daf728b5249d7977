import { z } from 'zod';
import { withoutAddresses, type ShowFile } from '../../../../core/show';
import { readPasswords, ReportShelf, sealSecrets, showFileNow } from '../../../../store';
import { isDesk } from '../../../server/principal';
import { dataDir, showDb } from '../../../server/show-store';

const bodySchema = z.strictObject({ passphrase: z.string().max(200), template: z.boolean() });

const refuse = (message: string, status: number) => Response.json({ ok: false, message }, { status });

/** The show as a file. Passwords go with it only under a passphrase. */
export async function POST(request: Request): Promise<Response> {
  if (!(await isDesk())) return refuse('Only the desk can do this.', 403);
  const body = bodySchema.safeParse(await request.json().catch(() => undefined));
  if (!body.success) return refuse('Not saved: the request was not understood.', 400);
  const { passphrase, template } = body.data;
  if (passphrase !== '' && passphrase.length < 8)
    return refuse('A passphrase needs 8 characters or more; without one the file has no passwords.', 400);
  const now = Date.now();
  const file = showFileNow(showDb(), now);
  const reports = template ? [] : new ReportShelf(dataDir()).of(file.name);
  const whole: ShowFile = {
    ...file,
    ...(template ? { records: withoutAddresses(file.records) } : {}),
    ...(reports.length > 0 ? { reports: [...reports] } : {}),
  };
  const secrets = passphrase === '' ? undefined : sealSecrets(readPasswords(showDb(), dataDir()), passphrase);
  const stem = (file.name || 'show').replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase();
  const name = `${stem}-${new Date(now).toISOString().slice(0, 10)}${template ? '-template' : ''}.json`;
  return new Response(JSON.stringify(secrets ? { ...whole, secrets } : whole, null, 2), {
    headers: {
      'content-type': 'application/json; charset=utf-8',
      'cache-control': 'no-store',
      'x-file-name': encodeURIComponent(name),
    },
  });
}
