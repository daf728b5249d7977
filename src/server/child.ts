import type { ChildProcess } from 'node:child_process';
import type { HealthResponse } from '../core/live';
import type { FromChild, ToChild } from './child-messages';
import { Spare, spawnProcess, type ProcessSpec } from './spare';

export interface ChildSpec extends ProcessSpec {
  /** A start that takes longer hangs: it is ended, and tried anew. */
  readonly readyWithinMs: number;
  /** A child that does not answer for this long is killed and restarted. Not watched when left out. */
  readonly answersWithinMs?: number;
  /** Keeps a second process loaded, which takes over when this one ends. */
  readonly hasSpare?: boolean;
  /** How long after a start the spare is loaded; by default when the panels have been served. */
  readonly spareAfterMs?: number;
}

const longestWaitMs = 10_000;
/** How often a child is asked whether it is well. */
const pingEveryMs = 500;
/** A child that was ready for this long is restarted at once when it ends. */
const wellAfterMs = 2000;
const usualSpareAfterMs = 1500;
/** A spare has nothing left to load, so it is ready soon or hangs. */
const spareReadyWithinMs = 10_000;

/** One process under the supervisor: started, watched, and started again with growing waits when it dies. */
export class Child {
  private process: ChildProcess | undefined;
  private state: HealthResponse['processes'][number]['state'] = 'stopped';
  private restarts = 0;
  private failures = 0;
  /** When it was ready; undefined while it is not. */
  private readyAt: number | undefined;
  private again: NodeJS.Timeout | undefined;
  private hanging: NodeJS.Timeout | undefined;
  private pings: NodeJS.Timeout | undefined;
  private stopping = false;
  private unanswered = 0;
  private readonly spare: Spare | undefined;

  constructor(
    private readonly spec: ChildSpec,
    private readonly onChange: () => void,
    private readonly onFatal: (message: string) => void,
    /** Whatever else it says. */
    private readonly onSaid: (
      message: Exclude<FromChild, { type: 'ready' | 'fatal' | 'pong' | 'standing by' }>,
    ) => void = () => undefined,
  ) {
    if (spec.hasSpare) this.spare = new Spare(spec, onChange);
  }

  get status(): HealthResponse['processes'][number] {
    return { name: this.spec.name, state: this.state, pid: this.process?.pid, restarts: this.restarts };
  }

  get spareStatus(): HealthResponse['processes'] {
    return this.spare?.status ?? [];
  }

  get ready(): boolean {
    return this.state === 'running';
  }

  start(): void {
    this.readyAt = undefined;
    const spare = this.spare?.take();
    const child = spare ?? spawnProcess(this.spec);
    this.process = child;
    this.setState('starting');
    const { name, output } = this.spec;
    const readyWithinMs = spare ? Math.min(spareReadyWithinMs, this.spec.readyWithinMs) : this.spec.readyWithinMs;
    this.hanging = setTimeout(() => {
      output.enter(name, 'error', `Not ready after ${readyWithinMs / 1000} s; the process is being killed.`);
      child.kill('SIGKILL');
    }, readyWithinMs);
    child.on('message', (message: FromChild) => {
      if (message.type === 'ready') {
        clearTimeout(this.hanging);
        this.readyAt = performance.now();
        this.setState('running');
        this.watch(child);
        this.spare?.prepare(this.spec.spareAfterMs ?? usualSpareAfterMs);
      } else if (message.type === 'standing by') return;
      else if (message.type === 'pong') this.unanswered = 0;
      else if (message.type === 'fatal') this.onFatal(message.message);
      else this.onSaid(message);
    });
    let ended = false;
    const onEnd = (how: unknown, signal?: unknown) => {
      if (ended) return;
      ended = true;
      this.onEnd(how instanceof Error ? how.message : signal ? `signal ${String(signal)}` : `code ${String(how)}`);
    };
    child.on('error', onEnd);
    child.on('exit', onEnd);
  }

  tell(message: ToChild): void {
    if (this.process?.connected) this.process.send(message, () => undefined);
  }

  /** Stops it and starts it again, as after a change of its sources. */
  async restart(): Promise<void> {
    if (this.stopping) return;
    await this.stop();
    this.stopping = false;
    this.start();
  }

  /** Asks it to stop, and ends it when it does not. */
  async stop(): Promise<void> {
    this.stopping = true;
    clearTimeout(this.again);
    clearTimeout(this.hanging);
    clearInterval(this.pings);
    await this.spare?.stop();
    const child = this.process;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise<void>((resolve) => void child.once('exit', () => resolve()));
    this.tell({ type: 'stop' });
    const deadline = setTimeout(() => child.kill('SIGKILL'), 5000);
    await gone;
    clearTimeout(deadline);
  }

  /**
   * Asks again and again whether the child is well. What counts is how many questions in a row stay unanswered, and not the time: after this
   * computer has slept, nobody has had a chance to answer.
   */
  private watch(child: ChildProcess): void {
    const { name, answersWithinMs, output } = this.spec;
    clearInterval(this.pings);
    this.unanswered = 0;
    if (answersWithinMs === undefined) return;
    this.pings = setInterval(() => {
      if (this.unanswered * pingEveryMs >= answersWithinMs) {
        output.enter(name, 'error', `No answer for ${answersWithinMs / 1000} s; the process is being killed.`);
        clearInterval(this.pings);
        return void child.kill('SIGKILL');
      }
      this.unanswered += 1;
      this.tell({ type: 'ping' });
    }, pingEveryMs);
  }

  private onEnd(how: string): void {
    this.process = undefined;
    clearTimeout(this.hanging);
    clearInterval(this.pings);
    if (this.stopping) return this.setState('stopped');
    // One that had been ready comes back soon: a show waits for it. Only starts that fail wait longer and longer.
    if (this.readyAt !== undefined)
      this.failures = performance.now() - this.readyAt > wellAfterMs ? 0 : Math.min(this.failures, 1);
    const waitMs = this.failures === 0 ? 0 : Math.min(longestWaitMs, 250 * 2 ** (this.failures - 1));
    this.failures += 1;
    this.restarts += 1;
    this.setState('waiting');
    const { name, output } = this.spec;
    output.enter(
      name,
      'error',
      `The process ended (${how}). It restarts ${waitMs === 0 ? 'at once' : `in ${waitMs} ms`}.`,
    );
    this.again = setTimeout(() => this.start(), waitMs);
  }

  private setState(state: HealthResponse['processes'][number]['state']): void {
    this.state = state;
    this.onChange();
  }
}
