import { createHash } from 'node:crypto';
import { request } from 'node:http';
import type { ProbeAnswers, ProbeOrder } from '../core/diagnosis';

const maxPictureBytes = 1_048_576;
const types = /^image\/(jpeg|png|webp|gif|svg\+xml)\b/;

/** Fetches a picture that a device hands out. One that is the same as before is not handed on again. Never rejects. */
export function fetchPicture(
  { host, port, path, has, user, password, timeoutMs }: Extract<ProbeOrder, { do: 'picture' }>,
  signal: AbortSignal,
): Promise<ProbeAnswers['picture']> {
  return new Promise((resolve) => {
    const fail = (error: string) => resolve({ hash: '', type: '', error });
    const auth = user === undefined ? {} : { auth: `${user}:${password ?? ''}` };
    const req = request({ host, port, path, signal, timeout: timeoutMs, ...auth }, (res) => {
      const type = types.exec(res.headers['content-type'] ?? '')?.[0];
      if (res.statusCode !== 200 || type === undefined) {
        res.resume();
        return fail(res.statusCode === 200 ? 'It is not a picture.' : `It answered with ${res.statusCode}.`);
      }
      const chunks: Buffer[] = [];
      let bytes = 0;
      res.on('data', (chunk: Buffer) => {
        bytes += chunk.length;
        chunks.push(chunk);
        if (bytes > maxPictureBytes) req.destroy(new Error('It is too large.'));
      });
      res.on('error', (error) => fail(error.message));
      res.on('end', () => {
        const whole = Buffer.concat(chunks);
        const hash = createHash('sha256').update(whole).digest('hex');
        resolve(hash === has ? { hash, type } : { hash, type, bytes: whole.toString('base64') });
      });
    });
    req.on('timeout', () => req.destroy(new Error('It did not answer in time.')));
    req.on('error', (error) => fail(error.message));
    req.end();
  });
}
