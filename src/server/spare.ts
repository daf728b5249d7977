import { spawn, type ChildProcess } from 'node:child_process';
import type { Readable } from 'node:stream';
import type { HealthResponse } from '../core/live';
import { childVariables, type FromChild } from './child-messages';

/** A process that fails while it gets ready is not started again for this long. */
const afterFailureMs = 30_000;

export interface ProcessSpec {
  readonly name: string;
  /** The command and its arguments; the process speaks on its IPC channel. */
  readonly command: string;
  readonly args: readonly string[];
  readonly env: Readonly<Record<string, string | undefined>>;
  readonly output: ProcessOutput;
}

/** Takes what the processes say, and what is said of them. */
export interface ProcessOutput {
  follow(process: string, out: Readable | null, err: Readable | null): void;
  enter(process: string, level: 'info' | 'warn' | 'error', message: string, cause?: unknown): void;
}

export function spawnProcess({ name, command, args, env, output }: ProcessSpec): ChildProcess {
  const child = spawn(command, [...args], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
  });
  output.follow(name, child.stdout, child.stderr);
  return child;
}

/** A second process of the same kind that has loaded its code and waits, so that it can take over from one that ends. */
export class Spare {
  private process: ChildProcess | undefined;
  private isStandingBy = false;
  private soon: NodeJS.Timeout | undefined;

  constructor(
    private readonly spec: ProcessSpec,
    private readonly onChange: () => void,
  ) {}

  /** What Health says of it; empty while there is none that could take over. */
  get status(): HealthResponse['processes'] {
    if (!this.isStandingBy) return [];
    return [{ name: `spare ${this.spec.name}`, state: 'running', pid: this.process?.pid, restarts: 0 }];
  }

  /** Starts one in `afterMs`, unless there is one by then. */
  prepare(afterMs: number): void {
    clearTimeout(this.soon);
    this.soon = setTimeout(() => this.start(), afterMs);
  }

  /** Hands the process over and lets it begin, also when it is still loading: it is ahead of a new one. */
  take(): ChildProcess | undefined {
    clearTimeout(this.soon);
    const { process: spare } = this;
    if (!spare?.connected) return undefined;
    this.forget(spare);
    spare.send({ type: 'begin' }, () => undefined);
    return spare;
  }

  async stop(): Promise<void> {
    clearTimeout(this.soon);
    const { process: spare } = this;
    if (!spare) return;
    this.forget(spare);
    const gone = new Promise<void>((resolve) => void spare.once('exit', () => resolve()));
    spare.kill('SIGKILL');
    await gone;
  }

  private start(): void {
    if (this.process) return;
    const { name, output } = this.spec;
    const spare = spawnProcess({ ...this.spec, env: { ...this.spec.env, [childVariables.spare]: '1' } });
    this.process = spare;
    spare.on('message', (message: FromChild) => {
      if (message.type !== 'standing by') return;
      this.isStandingBy = true;
      this.onChange();
    });
    const onEnd = () => {
      output.enter(name, 'warn', 'The spare has ended; another is loaded in a while.');
      this.forget(spare);
      this.onChange();
      this.prepare(afterFailureMs);
    };
    spare.on('error', onEnd);
    spare.on('exit', onEnd);
  }

  private forget(spare: ChildProcess): void {
    spare.removeAllListeners();
    this.process = undefined;
    this.isStandingBy = false;
  }
}
