import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, type BrowserContext, type Page } from '@playwright/test';
import { freePorts } from './free-ports';
import { ProgramEnds } from './program-ends';
import { Stage } from './stage';
import { paced } from '../test/support/pace';

/** The built program with the demo show, as its supervisor starts it, on ports and data of its own. */
export class Program extends ProgramEnds {
  private constructor(
    private readonly child: ChildProcess,
    url: string,
    standinUrl: string,
    dataDir: string,
  ) {
    super(url, standinUrl, dataDir);
  }

  static async start(
    dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-e2e-')),
    ports?: { port: number; base: number },
    more: Readonly<Record<string, string>> = {},
    /** What starts it, where it shall not run in this test’s own network. */
    through: readonly string[] = [],
    demo = true,
  ): Promise<Program> {
    const { port, base: standinBase } = ports ?? (await freePlace());
    const [command = '', ...args] = [...through, process.execPath, 'dist/supervisor.js', ...(demo ? ['--demo'] : [])];
    const child = spawn(command, args, {
      // Without a spare engine, which only the tests of kills need.
      env: {
        ...process.env,
        PORT: String(port),
        STANDIN_PORT_BASE: String(standinBase),
        DATA_DIR: dataDir,
        SPARE_ENGINE: 'off',
        ...more,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const program = new Program(child, `http://127.0.0.1:${port}`, `http://127.0.0.1:${standinBase}`, dataDir);
    let output = '';
    await new Promise<void>((resolve, reject) => {
      // Longer than the program waits itself for one of its processes before it tries anew.
      const deadline = setTimeout(() => {
        child.kill();
        reject(new Error(`Not ready after 60 s:\n${output}`));
      }, 60_000);
      const onText = (chunk: Buffer) => {
        output += String(chunk);
        if (!output.includes('Sorrelfinch is ready')) return;
        clearTimeout(deadline);
        resolve();
      };
      child.stdout?.on('data', onText);
      child.stderr?.on('data', onText);
      child.once('exit', (code) => reject(new Error(`It ended with ${code}:\n${output}`)));
    });
    return program;
  }

  /** Ends it as Ctrl-C would, or kills it; resolves when it is gone. */
  async stop(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
    if (this.child.exitCode !== null || this.child.signalCode !== null) return;
    const gone = new Promise((resolve) => this.child.once('exit', resolve));
    this.child.kill(signal);
    await gone;
  }
}

/** True while a process with this id runs. */
export function runs(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

/** A port for the program and those of the stand-ins after it: searched for together, so that none is given twice. */
async function freePlace(): Promise<{ port: number; base: number }> {
  const port = await freePorts(27);
  return { port, base: port + 1 };
}

interface Fixtures {
  /** A program that no test has used. It shares what keeps nothing (pages, prober, rehearsals) with the tests before. */
  readonly program: ProgramEnds;
  /** One with a supervisor of its own, for tests that end its processes or start it anew. It takes seconds to start. */
  readonly ownProgram: Program;
  /** One more screen. It has a context of its own: of several pages in one window, Chromium draws only the one in front. */
  readonly newScreen: () => Promise<Page>;
}

export const test = base.extend<Fixtures, { readonly stage: Stage }>({
  stage: [
    async ({}, use) => {
      const stage = await Stage.start();
      await use(stage);
      await stage.stop();
    },
    { scope: 'worker', timeout: paced(90_000) },
  ],
  program: [
    async ({ stage }, use, { status, expectedStatus }) => {
      await use(await stage.begin());
      const said = await stage.end();
      if (status !== expectedStatus) console.error(said);
    },
    { timeout: paced(90_000) },
  ],
  ownProgram: [
    async ({}, use) => {
      const program = await Program.start();
      await use(program);
      await program.stop();
      rmSync(program.dataDir, { recursive: true, force: true });
    },
    { timeout: paced(90_000) },
  ],
  newScreen: async ({ browser }, use) => {
    const contexts: BrowserContext[] = [];
    await use(async () => {
      const context = await browser.newContext();
      contexts.push(context);
      return context.newPage();
    });
    for (const context of contexts) await context.close();
  },
});

export { expect } from '@playwright/test';
