import { fork, spawnSync, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { copyFileSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { setPriority, tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import type { FromChild, ToChild } from '../src/server/child-messages';
import { childVariables } from '../src/server/child-messages';
import { freePorts } from './free-ports';
import { ProgramEnds } from './program-ends';
import { paced } from '../test/support/pace';

/** Of the data folder, what stays from one test to the next: the databases are emptied and filled, as they are open elsewhere. */
const stays = /^(show|as-run)\.db|^secret\.key$/;
const liveFlags = ['--min-semi-space-size=64', '--max-semi-space-size=64', '--no-parallel-scavenge'];

/**
 * The built program for one test after another: pages, prober and rehearsals go on, and each test gets an engine, a demo show, a record
 * and stand-ins that nobody has used. The next engine is loaded while a test runs.
 */
export class Stage {
  private readonly children = new Set<ChildProcess>();
  private engine: ChildProcess | undefined;
  private next: Promise<ChildProcess> | undefined;
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
    stage.prepareEngine();
    stage.prepareFleet();
    await Promise.all(
      ['next-main', 'prober-main', 'pictures-main', 'rehearsal-main'].map((name) => stage.child(name, 'ready')),
    );
    return stage;
  }

  /** An engine and stand-ins for a test, with the demo show as it ships. */
  async begin(): Promise<ProgramEnds> {
    this.log = [];
    for (const name of readdirSync(this.dataDir)) {
      if (!stays.test(name)) rmSync(join(this.dataDir, name), { recursive: true, force: true });
    }
    this.restore('show.db', this.template);
    this.restore('as-run.db');
    const base = Number(this.env.STANDIN_PORT_BASE);
    await (this.fleet ?? this.prepareFleet());
    const engine = await (this.next ?? this.prepareEngine());
    this.engine = engine;
    rank(engine, live);
    const ready = this.said(engine, 'engine-main', 'ready');
    tell(engine, { type: 'begin' });
    await ready;
    tell(engine, { type: 'standins', on: true });
    const program = new ProgramEnds(`http://127.0.0.1:${this.port}`, `http://127.0.0.1:${base}`, this.dataDir);
    // A test is about what a press does, not about how fast all devices are called.
    for (let n = 0; n < 100 && !(await program.health()).ok; n += 1) await new Promise((next) => setTimeout(next, 50));
    this.prepareEngine();
    return program;
  }

  /** Ends what the test used, and begins with what the next one needs. Returns what its engine said. */
  async end(): Promise<string> {
    await this.endTest();
    this.prepareFleet();
    return this.log.join('');
  }

  private async endTest(): Promise<void> {
    if (this.engine) await this.stopChild(this.engine);
    this.engine = undefined;
    const fleet = await this.fleet?.catch(() => undefined);
    if (fleet) await this.stopChild(fleet);
    this.fleet = undefined;
  }

  async stop(): Promise<void> {
    await this.endTest();
    await Promise.all([...this.children].map((child) => this.stopChild(child)));
    rmSync(this.dataDir, { recursive: true, force: true });
    rmSync(this.template, { force: true });
  }

  /** Loads an engine that waits for its turn. */
  private prepareEngine(): Promise<ChildProcess> {
    const next = this.child('engine-main', 'standing by', { [childVariables.spare]: '1' });
    // The test that needs it fails; the one that runs now goes on.
    next.catch(() => undefined);
    this.next = next;
    return next;
  }

  /** Stand-ins that no test has used. They are a process of their own: a busy test would keep them from answering. */
  private prepareFleet(): Promise<ChildProcess> {
    const fleet = this.child('standins-main', 'ready');
    fleet.catch(() => undefined);
    this.fleet = fleet;
    return fleet;
  }

  private child(name: string, until: FromChild['type'], more: Readonly<Record<string, string>> = {}) {
    const child = fork(`dist/${name}.js`, {
      execArgv: name === 'engine-main' ? liveFlags : [],
      env: { ...process.env, ...this.env, ...more },
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    });
    if (name === 'standins-main') rank(child, live);
    if (name === 'engine-main') rank(child, later);
    this.children.add(child);
    child.once('exit', () => this.children.delete(child));
    for (const out of [child.stdout, child.stderr]) out?.on('data', (chunk: Buffer) => this.log.push(String(chunk)));
    return this.said(child, name, until).then(() => child);
  }

  private said(child: ChildProcess, name: string, wanted: FromChild['type']): Promise<void> {
    return new Promise((resolve, reject) => {
      const deadline = setTimeout(
        () => reject(new Error(`${name} is not ${wanted}:\n${this.log.join('')}`)),
        paced(60_000),
      );
      child.on('message', (message: FromChild) => {
        // As the supervisor of the demo would answer.
        if (message.type === 'want standins') tell(child, { type: 'standins', on: message.on });
        if (message.type !== wanted) return;
        clearTimeout(deadline);
        resolve();
      });
      child.once('exit', (code) => reject(new Error(`${name} ended with ${code}:\n${this.log.join('')}`)));
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

/** What answers in time, and an engine that is loaded for the next test. */
const live = -5;
const later = 10;

/**
 * The browsers of tests would take what engine and stand-ins need in time. Raising a priority is for root; without it all stay equal, for what
 * was lowered could not be raised.
 */
function rank({ pid }: ChildProcess, priority: number): void {
  if (pid === undefined || process.getuid?.() !== 0) return;
  try {
    setPriority(pid, priority);
  } catch {
    // It has ended, which is told elsewhere.
  }
}

const tell = (child: ChildProcess, message: ToChild): void => void (child.connected && child.send(message));
