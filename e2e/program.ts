import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';
import type { HealthResponse } from '../src/core/live';

/** The built program with the demo show, on ports and data of its own. */
export class Program {
  private constructor(
    private readonly child: ChildProcess,
    readonly url: string,
    readonly standinUrl: string,
    readonly dataDir: string,
  ) {}

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

  async health(): Promise<HealthResponse> {
    return (await (await fetch(`${this.url}/api/health`)).json()) as HealthResponse;
  }

  async pidOf(name: string): Promise<number> {
    const pid = (await this.health()).processes.find((each) => each.name === name)?.pid;
    if (pid === undefined) throw new Error(`${name} does not run.`);
    return pid;
  }

  async switcher(): Promise<{ program: number; preview: number; controllers: number }> {
    return (await (await fetch(`${this.standinUrl}/sw1/state`)).json()) as never;
  }

  /** Works a stand-in by hand, or makes it misbehave. */
  async operate(verb: string, body: object, tag = 'sw1'): Promise<void> {
    const answer = await fetch(`${this.standinUrl}/${tag}/${verb}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(await answer.text());
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
  const port = await freePorts(14);
  return { port, base: port + 1 };
}

/** The first of so many free ports in a row. */
async function freePorts(count: number): Promise<number> {
  const free = (port: number) =>
    new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
  for (let port = 20_000 + Math.floor(Math.random() * 10_000); port < 32_000; port += count) {
    const all = await Promise.all(Array.from({ length: count }, (_, n) => free(port + n)));
    if (all.every(Boolean)) return port;
  }
  throw new Error('No free ports.');
}

/** Each test gets a program of its own, so that no test sees what another left behind. */
export const test = base.extend<{ program: Program }>({
  program: [
    async ({}, use) => {
      const program = await Program.start();
      await use(program);
      await program.stop();
      rmSync(program.dataDir, { recursive: true, force: true });
    },
    { timeout: 90_000 },
  ],
});

export { expect } from '@playwright/test';
