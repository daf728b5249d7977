'use server';

import { X509Certificate } from 'node:crypto';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { z } from 'zod';
import type { ActionResult } from '../core/show';
import { listenFile } from '../server/settings';
import { isDesk } from './server/principal';
import { dataDir } from './server/show-store';

export interface ListenView {
  readonly host: string;
  readonly port: number;
  /** True when the environment decides, so that a choice here has no effect. */
  readonly fixed: boolean;
  readonly hasKey: boolean;
  /** Of the certificate that this program has made: SHA-256, as browsers show it. */
  readonly fingerprint?: string;
}

/** Where the program listens now. */
export async function listenAction(): Promise<ListenView | undefined> {
  if (!(await isDesk())) return undefined;
  const { HOST, PORT, ACCESS_KEY, SORRELFINCH_HOST } = process.env;
  return {
    host: SORRELFINCH_HOST ?? HOST ?? '127.0.0.1',
    port: Number(PORT ?? 4300),
    fixed: (HOST ?? '') !== '',
    hasKey: (ACCESS_KEY ?? '') !== '',
    ...ownFingerprint(),
  };
}

function ownFingerprint(): { fingerprint?: string } {
  if ((process.env.TLS_CERT ?? '') !== '') return {};
  try {
    const { fingerprint256 } = new X509Certificate(readFileSync(join(dataDir(), 'tls', 'cert.pem')));
    return { fingerprint: fingerprint256 };
  } catch {
    // None was made: the program listens on this computer only.
    return {};
  }
}

const choiceSchema = z.object({
  host: z.string().max(64),
  accessKey: z.string().min(12, 'An access key needs 12 characters or more.').max(200),
});

/** Chooses where the program listens from its next start on. This computer alone needs no key. */
export async function chooseListenAction(host: unknown, accessKey: unknown): Promise<ActionResult> {
  if (!(await isDesk())) return { ok: false, message: 'Only the desk can do this.' };
  if (host === '127.0.0.1') {
    rmSync(listenFile(dataDir()), { force: true });
    return { ok: true, said: 'From the next start on only this computer can reach the program.' };
  }
  const choice = choiceSchema.safeParse({ host, accessKey });
  if (!choice.success) return { ok: false, message: choice.error.issues[0]?.message ?? 'Not understood.' };
  const own = Object.values(networkInterfaces()).flatMap((list) => (list ?? []).map(({ address }) => address));
  if (choice.data.host !== '0.0.0.0' && (isIP(choice.data.host) === 0 || !own.includes(choice.data.host))) {
    return { ok: false, message: `This computer does not have the address ${choice.data.host}.` };
  }
  writeFileSync(listenFile(dataDir()), `${JSON.stringify(choice.data)}\n`, { mode: 0o600 });
  return { ok: true, said: 'Chosen. It takes effect when the program is started the next time.' };
}
