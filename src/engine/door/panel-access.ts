import { noLog, type Log } from '../../log';
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { AccessView } from '../../core/live';
import { idSchema } from '../../core/show';
import { replaceFile } from '../record/replace-file';

/** A screen that came in with a token: it has the rights of its panel and no others. */
export interface Joined {
  readonly id: string;
  readonly panel: string;
  /** In milliseconds since 1970. */
  readonly at: number;
  /** What its browser says that it is. */
  readonly device: string;
}

const joinedSchema = z.strictObject({
  id: z.string(),
  panel: idSchema,
  at: z.number(),
  device: z.string(),
  /** SHA-256 of its secret, in hexadecimal digits. */
  secret: z.string(),
});
type Kept = z.infer<typeof joinedSchema>;

const inviteForMs = 10 * 60_000;
const mostInvites = 50;
const mostJoined = 500;

const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** What became of a token that was shown. */
export type JoinResult =
  | { readonly ok: true; readonly panel: string; readonly credential: string }
  | { readonly ok: false; readonly why: 'used' | 'unknown' };

/**
 * The ways in for panels: one-time tokens, and the screens that came in with them. Of a screen only the hash of its secret is kept, in a
 * file that only the owner can read.
 */
export class PanelAccess {
  private readonly invites = new Map<string, { readonly panel: string; readonly until: number }>();
  private readonly used = new Set<string>();
  private readonly joined: Map<string, Kept>;
  private writing: Promise<void> = Promise.resolve();

  constructor(
    private readonly dataDir: string,
    private readonly log: Log = noLog,
    private readonly now: () => number = Date.now,
  ) {
    this.joined = new Map(readKept(dataDir).map((each) => [each.id, each]));
  }

  invite(panel: string): { readonly token: string; readonly forMs: number } {
    const token = randomBytes(24).toString('base64url');
    this.invites.set(hashOf(token), { panel, until: this.now() + inviteForMs });
    if (this.invites.size > mostInvites) this.invites.delete(this.invites.keys().next().value ?? '');
    return { token, forMs: inviteForMs };
  }

  /** Invitations that nobody has used yet. */
  get open(): AccessView['invites'] {
    const now = this.now();
    return [...this.invites].flatMap(([hash, { panel, until }]) =>
      until > now ? [{ id: inviteId(hash), panel, until }] : [],
    );
  }

  /** Takes an invitation back; false when it was used meanwhile or is over. */
  withdraw(id: string): boolean {
    const hash = [...this.invites.keys()].find((each) => inviteId(each) === id);
    return hash !== undefined && this.invites.delete(hash);
  }

  /** The screens that have joined, connected or not. */
  get list(): AccessView['joined'] {
    return [...this.joined.values()].map(({ id, panel, device, at }) => ({ id, panel, device, at }));
  }

  /** Lets a screen in with a token, which is good no more from then on. The credential is for its cookie. */
  join(token: string, device: string): JoinResult {
    const hash = hashOf(token);
    const invite = this.invites.get(hash);
    if (!invite || invite.until < this.now()) return { ok: false, why: this.used.has(hash) ? 'used' : 'unknown' };
    this.invites.delete(hash);
    this.used.add(hash);
    const [id, secret] = [randomBytes(9).toString('base64url'), randomBytes(24).toString('base64url')];
    const kept = { id, panel: invite.panel, at: this.now(), device: device.slice(0, 120), secret: hashOf(secret) };
    this.joined.set(id, kept);
    if (this.joined.size > mostJoined) this.joined.delete(this.joined.keys().next().value ?? '');
    this.keep();
    return { ok: true, panel: invite.panel, credential: `${id}.${secret}` };
  }

  /** Whose credential this is. */
  whoIs(credential: string): Joined | undefined {
    const [id = '', secret = ''] = credential.split('.');
    const kept = this.joined.get(id);
    if (!kept) return undefined;
    const [given, wanted] = [Buffer.from(hashOf(secret)), Buffer.from(kept.secret)];
    return given.length === wanted.length && timingSafeEqual(given, wanted) ? kept : undefined;
  }

  /** True until it is thrown out. */
  has(id: string): boolean {
    return this.joined.has(id);
  }

  throwOut(id: string): boolean {
    const was = this.joined.delete(id);
    if (was) this.keep();
    return was;
  }

  /** Resolves when everything is on disk. */
  settled(): Promise<void> {
    return this.writing;
  }

  private keep(): void {
    const file = fileOf(this.dataDir);
    this.writing = this.writing
      .then(async () => {
        await replaceFile(file, JSON.stringify([...this.joined.values()]));
      })
      // It goes on without: who has joined has to join again after the next start.
      .catch((cause: unknown) => this.log.error({ cause }, 'The list of joined screens cannot be written.'));
  }
}

const inviteId = (hash: string): string => hash.slice(0, 16);

const fileOf = (dataDir: string): string => join(dataDir, 'joined-panels.json');

function readKept(dataDir: string): Kept[] {
  try {
    return z.array(joinedSchema).parse(JSON.parse(readFileSync(fileOf(dataDir), 'utf8')));
  } catch {
    // None yet, or damaged: nobody has joined.
    return [];
  }
}
