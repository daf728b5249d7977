import { fork, spawnSync, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { copyFileSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { setPriority, tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import type { FromChild, ToChild } from '../src/server/child-messages';
import { childVariables } from '../src/server/child-messages';
import { freePorts } from './free-ports';
import type { FromHost, ToHost } from './host-messages';
import { ProgramEnds } from './program-ends';
import { paced } from '../test/support/pace';

/** Of the data folder, what stays from one test to the next: the databases are emptied and filled, as they are open elsewhere. */
const stays = /^(show|as-run)\.db|^secret\.key$/;
type Said = (FromChild | FromHost)['type'];
const liveFlags = ['--min-semi-space-size=64', '--max-semi-space-size=64', '--no-parallel-scavenge'];

/**
 * The built program for one test after another: pages, prober and rehearsals go on, and each test gets an engine, a demo show, a record
 * and stand-ins that nobody has used. Engine and stand-ins are new, their processes are not: what takes long is loaded once.
 */
export class Stage {
  private readonly children = new Set<ChildProcess>();
  private engine: Promise<ChildProcess> | undefined;
  private fleet: Promise<ChildProcess> | undefined;
  private log: string[] = [];

  private constructor(
    private readonly port: number,
    private readonly env: Readonly<Record<string, string>> & { readonly NODE_ENV: 'production' },
    private readonly dataDir: string,
    private readonly template: string,
  ) {}

  static async start(): Promise<Stage> {
    const first = await freePorts(32);
    const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-stage-'));
    const env = {
      PORT: String(first),
      STANDIN_PORT_BASE: String(first + 6),
      DATA_DIR: dataDir,
      NODE_ENV: 'production' as const,
      NEXT_TELEMETRY_DISABLED: '1',
      KIT_PAGE: 'on',
      [childVariables.token]: randomBytes(32).toString('base64url'),
      [childVariables.nextPort]: String(first + 1),
      [childVariables.controlPort]: String(first + 2),
      [childVariables.proberPort]: String(first + 3),
      [childVariables.rehearsalPort]: String(first + 4),
      [childVariables.picturesPort]: String(first + 5),
      [childVariables.mode]: 'production',
      [childVariables.standinPages]: `http://127.0.0.1:${first + 6}`,
    };
    const prepared = spawnSync(process.execPath, ['dist/prepare-main.js', '--demo'], {
      env: { ...process.env, ...env },
      encoding: 'utf8',
    });
    if (prepared.status !== 0) throw new Error(`The demo show could not be prepared:\n${prepared.stderr}`);
    const template = `${dataDir}.template.db`;
    copyFileSync(join(dataDir, 'show.db'), template);
    const stage = new Stage(first, env, dataDir, template);
    stage.engine = stage.child('engine-host', 'standing by');
    // Told when a test needs it.
    stage.engine.catch(() => undefined);
    stage.fleet = stage.fleetFrom(stage.child('fleet-host', 'standing by'));
    await Promise.all(
      ['next-main', 'prober-main', 'pictures-main', 'rehearsal-main'].map((name) => stage.child(name, 'ready')),
    );
    return stage;
  }

  /** An engine and stand-ins for a test, with the demo show as it ships. */
  async begin(): Promise<ProgramEnds> {
    this.log = [];
    await this.fleet;
    const engine = await this.engine;
    if (!engine) throw new Error('The stage has ended.');
    const ready = this.said(engine, 'engine-host', 'ready');
    tell(engine, { type: 'begin' });
    await ready;
    tell(engine, { type: 'standins', on: true });
    const standins = `http://127.0.0.1:${this.env.STANDIN_PORT_BASE}`;
    const program = new ProgramEnds(`http://127.0.0.1:${this.port}`, standins, this.dataDir);
    // A test is about what a press does, not about how fast all devices are called.
    for (let n = 0; n < 100 && !(await program.health()).ok; n += 1) await new Promise((next) => setTimeout(next, 50));
    return program;
  }

  /** Ends what the test used, and begins with what the next one needs. Returns what its engine said. */
  async end(): Promise<string> {
    this.fleet = this.fleetFrom(this.ended(this.fleet, 'fleet-host'));
    const engine = await this.ended(this.engine, 'engine-host');
    for (const name of readdirSync(this.dataDir)) {
      if (!stays.test(name)) rmSync(join(this.dataDir, name), { recursive: true, force: true });
    }
    this.restore('show.db', this.template);
    this.restore('as-run.db');
    tell(engine, { type: 'prepare' });
    this.engine = Promise.resolve(engine);
    return this.log.join('');
  }

  async stop(): Promise<void> {
    await Promise.all([...this.children].map((child) => this.stopChild(child)));
    rmSync(this.dataDir, { recursive: true, force: true });
    rmSync(this.template, { force: true });
  }

  /** The process with nothing of the test in it: the same one, or a new one where a test ended it or it does not let go. */
  private async ended(host: Promise<ChildProcess> | undefined, name: string): Promise<ChildProcess> {
    const child = await host?.catch(() => undefined);
    if (child && child.exitCode === null && child.signalCode === null) {
      const ended = this.said(child, name, 'ended');
      tell(child, { type: 'end' });
      try {
        await ended;
        return child;
      } catch (error) {
        this.log.push(String(error));
        child.kill('SIGKILL');
      }
    }
    return this.child(name, 'standing by');
  }

  /** Stand-ins that no test has used. They are a process of their own: a busy test would keep them from answering. */
  private fleetFrom(host: Promise<ChildProcess>): Promise<ChildProcess> {
    const fleet = host.then(async (child) => {
      const ready = this.said(child, 'fleet-host', 'ready');
      tell(child, { type: 'begin' });
      await ready;
      return child;
    });
    // The test that needs them fails; the one that runs now goes on.
    fleet.catch(() => undefined);
    return fleet;
  }

  private child(name: string, until: Said): Promise<ChildProcess> {
    const child = fork(`dist/${name}.js`, {
      execArgv: name === 'engine-host' ? liveFlags : [],
      env: { ...process.env, ...this.env },
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    });
    if (name.endsWith('-host')) rank(child);
    this.children.add(child);
    child.once('exit', () => this.children.delete(child));
    for (const out of [child.stdout, child.stderr]) out?.on('data', (chunk: Buffer) => this.log.push(String(chunk)));
    child.on('message', (message: FromChild) => {
      // As the supervisor of the demo would answer.
      if (message.type === 'want standins') tell(child, { type: 'standins', on: message.on });
    });
    return this.said(child, name, until).then(() => child);
  }

  private said(child: ChildProcess, name: string, wanted: Said): Promise<void> {
    return new Promise((resolve, reject) => {
      const onExit = (code: number | null) => settle(new Error(`${name} ended with ${code}:\n${this.log.join('')}`));
      const onMessage = (message: FromChild | FromHost) => {
        if (message.type === 'fatal') settle(new Error(`${name}: ${message.message}`));
        if (message.type === wanted) settle();
      };
      const settle = (error?: Error) => {
        clearTimeout(deadline);
        child.off('exit', onExit);
        child.off('message', onMessage);
        if (error) reject(error);
        else resolve();
      };
      const deadline = setTimeout(
        () => settle(new Error(`${name} is not ${wanted}:\n${this.log.join('')}`)),
        paced(60_000),
      );
      child.on('message', onMessage);
      child.once('exit', onExit);
    });
  }

  private async stopChild(child: ChildProcess): Promise<void> {
    if (child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    tell(child, { type: 'stop' });
    await gone;
  }

  /** Replaces all rows of a database with those of another, or deletes them. Processes that have it open see the new rows. */
  private restore(name: string, from?: string): void {
    let db: Database.Database;
    try {
      db = new Database(join(this.dataDir, name), { fileMustExist: true, timeout: 5000 });
    } catch {
      // No engine has made it yet.
      return;
    }
    db.pragma('foreign_keys = OFF');
    if (from !== undefined) db.exec(`ATTACH '${from}' AS template`);
    const tables = (db.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all() as string[]).filter(
      (table) => !/^(sqlite_|__drizzle)/.test(table),
    );
    db.transaction(() => {
      for (const table of tables) {
        db.exec(`DELETE FROM "${table}"`);
        if (from !== undefined) db.exec(`INSERT INTO "${table}" SELECT * FROM template."${table}"`);
      }
    })();
    db.close();
  }
}

/**
 * The browsers of tests would take what engine and stand-ins need in time. Raising a priority is for root; without it all stay equal, for what
 * was lowered could not be raised.
 */
function rank({ pid }: ChildProcess): void {
  if (pid === undefined || process.getuid?.() !== 0) return;
  try {
    setPriority(pid, -5);
  } catch {
    // It has ended, which is told elsewhere.
  }
}

const tell = (child: ChildProcess, message: ToChild | ToHost): void => void (child.connected && child.send(message));
