import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { z } from 'zod';
import { logLevels } from '../log';
import { fail, ok, type Problem, type Result } from '../core/result';

/** What can be set from outside, by environment. The README has the table. */
export interface Settings {
  readonly port: number;
  readonly host: string;
  readonly dataDir: string;
  readonly standinPortBase: number;
  readonly accessKey: string | undefined;
  readonly allowedHosts: readonly string[];
  /** Browsers and programs on this computer have to show the access key, too. */
  readonly keyOnLoopback: boolean;
  /** What is done at this start about a show that cannot be opened. */
  readonly recover: 'backup' | 'new' | undefined;
  /** A second engine process stands by, loaded, and takes over when the first one ends. */
  readonly hasSpareEngine: boolean;
  /** Paths of a certificate of one's own and its key, in PEM. */
  readonly tls: { readonly cert: string; readonly key: string } | undefined;
}

const port = (name: string, fallback: number, most = 65_535) =>
  z.coerce
    .number({ error: `${name} expects a number` })
    .int()
    .min(1)
    .max(most, `${name} expects a port up to ${most}`)
    .default(fallback);

const environmentSchema = z.object({
  PORT: port('PORT', 4300),
  HOST: z.string().min(1).default('127.0.0.1'),
  DATA_DIR: z.string().min(1).default('data/show'),
  STANDIN_PORT_BASE: port('STANDIN_PORT_BASE', 4400, 65_000),
  ACCESS_KEY: z.string().min(12, 'ACCESS_KEY needs at least 12 characters').optional(),
  ALLOWED_HOSTS: z.string().default(''),
  RECOVER: z.enum(['backup', 'new'], 'RECOVER is backup or new').optional(),
  REQUIRE_KEY: z.enum(['elsewhere', 'always'], 'REQUIRE_KEY is elsewhere or always').default('elsewhere'),
  LOG_LEVEL: z.enum(logLevels, `LOG_LEVEL is one of ${logLevels.join(', ')}`).default('info'),
  SPARE_ENGINE: z.enum(['on', 'off'], 'SPARE_ENGINE is on or off').default('on'),
  TLS_CERT: z.string().optional(),
  TLS_KEY: z.string().optional(),
});

/** Where the program listens, as chosen at the desk; kept in the data folder, readable by the owner only. */
export const listenFile = (dataDir: string): string => join(dataDir, 'listen.json');
/** While this file is there, the stand-ins of the demo run without `--demo`, too. */
export const standinsFile = (dataDir: string): string => join(dataDir, 'stand-ins-on');
const listenSchema = z.object({ host: z.string().min(1).max(253), accessKey: z.string().min(12).max(200) });

export function chosenListen(dataDir: string): { HOST?: string; ACCESS_KEY?: string } {
  try {
    const { host, accessKey } = listenSchema.parse(JSON.parse(readFileSync(listenFile(dataDir), 'utf8')));
    return { HOST: host, ACCESS_KEY: accessKey };
  } catch {
    // None was chosen, or the file is damaged: this computer only.
    return {};
  }
}

/**
 * Reads the settings; the environment wins over what was chosen at the desk. Refuses an address that other computers can reach unless an access key is set: without one
 * anybody on the network could press buttons.
 */
export function readSettings(
  environment: Readonly<Record<string, string | undefined>>,
): Result<Settings, readonly Problem[]> {
  const set = Object.fromEntries(
    Object.entries(environment).filter(([, value]) => value !== '' && value !== undefined),
  );
  const given = { ...chosenListen(set.DATA_DIR ?? 'data/show'), ...set };
  const parsed = environmentSchema.safeParse(given);
  if (!parsed.success) {
    return fail(parsed.error.issues.map((issue) => ({ path: issue.path.join('.'), message: issue.message })));
  }
  const {
    PORT,
    HOST,
    DATA_DIR,
    STANDIN_PORT_BASE,
    ACCESS_KEY,
    ALLOWED_HOSTS,
    RECOVER,
    REQUIRE_KEY,
    SPARE_ENGINE,
    TLS_CERT,
    TLS_KEY,
  } = parsed.data;
  if ((TLS_CERT === undefined) !== (TLS_KEY === undefined))
    return fail([
      { path: 'TLS_CERT', message: 'TLS_CERT and TLS_KEY go together: a certificate and its key, in PEM.' },
    ]);
  const host = HOST === 'localhost' ? '127.0.0.1' : HOST;
  if (host !== '127.0.0.1' && host !== '::1' && !ACCESS_KEY) {
    return fail([
      {
        path: 'HOST',
        message: `“${HOST}” can be reached by other computers. Set ACCESS_KEY (12 characters or more) as well, or leave HOST out.`,
      },
    ]);
  }
  if (REQUIRE_KEY === 'always' && !ACCESS_KEY)
    return fail([{ path: 'REQUIRE_KEY', message: 'REQUIRE_KEY=always needs an ACCESS_KEY (12 characters or more).' }]);
  return ok({
    port: PORT,
    host,
    dataDir: resolve(DATA_DIR),
    standinPortBase: STANDIN_PORT_BASE,
    accessKey: ACCESS_KEY,
    allowedHosts: ALLOWED_HOSTS.split(',')
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
    recover: RECOVER,
    hasSpareEngine: SPARE_ENGINE === 'on',
    keyOnLoopback: REQUIRE_KEY === 'always',
    tls: TLS_CERT !== undefined && TLS_KEY !== undefined ? { cert: TLS_CERT, key: TLS_KEY } : undefined,
  });
}
