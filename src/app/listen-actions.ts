'use server';

import { X509Certificate } from 'node:crypto';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { z } from 'zod';
import type { ActionResult } from '../core/show';
import { checkGiven, forgetGiven, keepGiven, readGiven } from '../server/given-certificate';
import { chosenListen, listenFile } from '../server/settings';
import type { ListenView } from '../ui/desk';
import { isDesk } from './server/principal';
import { dataDir } from './server/show-store';

/** Where the program listens now. */
export async function listenAction(): Promise<ListenView | undefined> {
  if (!(await isDesk())) return undefined;
  const { HOST, PORT, SORRELFINCH_HOST } = process.env;
  return {
    host: SORRELFINCH_HOST ?? HOST ?? '127.0.0.1',
    port: Number(PORT ?? 4300),
    fixed: (HOST ?? '') !== '',
    ...chosenView(),
    ...certificateView(),
  };
}

/** What was chosen at the desk, and whether an access key is kept with it. */
function chosenView(): Pick<ListenView, 'hasKey' | 'chosen'> {
  const kept = chosenListen(dataDir());
  return { hasKey: kept.ACCESS_KEY !== undefined, chosen: { host: kept.HOST ?? '127.0.0.1' } };
}

function certificateView(): Pick<ListenView, 'certificate'> {
  try {
    const byEnvironment = process.env.TLS_CERT ?? '';
    const given = byEnvironment === '' ? readGiven(dataDir(), Date.now()) : undefined;
    const pem =
      given?.cert ?? readFileSync(byEnvironment === '' ? join(dataDir(), 'tls', 'cert.pem') : byEnvironment, 'utf8');
    const { fingerprint256, validTo } = new X509Certificate(pem);
    const madeBy = given ? 'given' : byEnvironment === '' ? 'program' : 'environment';
    return { certificate: { fingerprint: fingerprint256, madeBy, until: Date.parse(validTo) } };
  } catch {
    // None was made: the program listens on this computer only.
    return {};
  }
}

const givenSchema = z.object({ cert: z.string().max(100_000), key: z.string().max(20_000) });

/** Takes a certificate of one's own, with its key, from the next start on; without one, the program's own serves again. */
export async function giveCertificateAction(given: unknown): Promise<ActionResult> {
  if (!(await isDesk())) return { ok: false, message: 'Only the desk can do this.' };
  if (given === undefined) {
    forgetGiven(dataDir());
    return { ok: true, said: 'From the next start, the program makes its own certificate.' };
  }
  const parsed = givenSchema.safeParse(given);
  if (!parsed.success) return { ok: false, message: 'These files are too large for a certificate and its key.' };
  const checked = checkGiven(parsed.data, Date.now());
  if (!checked.ok) return { ok: false, message: checked.error };
  keepGiven(dataDir(), parsed.data);
  const { names, until } = checked.value;
  const named = names.length > 0 ? names.join(', ') : 'no name at all: browsers will ask';
  return {
    ok: true,
    said: `Kept, good until ${new Date(until).toISOString().slice(0, 10)}, from the next start on. It names ${named}.`,
  };
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
    return { ok: true, said: 'From the next start, only this computer can reach the program.' };
  }
  // Left empty, the key that is kept already goes on.
  const key = accessKey === '' ? (chosenListen(dataDir()).ACCESS_KEY ?? '') : accessKey;
  const choice = choiceSchema.safeParse({ host, accessKey: key });
  if (!choice.success) return { ok: false, message: choice.error.issues[0]?.message ?? 'Not understood.' };
  const own = Object.values(networkInterfaces()).flatMap((list) => (list ?? []).map(({ address }) => address));
  if (choice.data.host !== '0.0.0.0' && (isIP(choice.data.host) === 0 || !own.includes(choice.data.host))) {
    return { ok: false, message: `This computer does not have the address ${choice.data.host}.` };
  }
  writeFileSync(listenFile(dataDir()), `${JSON.stringify(choice.data)}\n`, { mode: 0o600 });
  return { ok: true, said: 'Saved. It takes effect at the next start.' };
}
