import {
  answerTimers,
  changedReports,
  nextPhaseInMs,
  overlongLine,
  reportsOf,
  timeReport,
  type TimersState,
} from '../../core/timers';
import type { InternalEnd } from '../devices/links';

const maxLineLength = 4000;
const secondMs = 1000;

const linesOf = (messages: readonly object[]): string =>
  messages.map((message) => `${JSON.stringify(message)}\n`).join('');

/** One list of timers that runs in this program. It is spoken to as `docs/protocols/clock-machine.md` says. */
export class TimerService implements InternalEnd {
  private readonly listeners = new Set<(text: string) => void>();
  private second: NodeJS.Timeout | undefined;
  private phase: NodeJS.Timeout | undefined;

  constructor(
    private current: TimersState,
    private readonly onChange: () => void,
  ) {}

  get state(): TimersState {
    return this.current;
  }

  connect(say: (text: string) => void): ReturnType<InternalEnd['connect']> {
    this.listeners.add(say);
    this.second ??= setInterval(() => this.tell([...this.running, timeReport(new Date())]), secondMs);
    this.waitForPhase();
    say(linesOf([{ is: 'clocks', model: 'timers', firmware: '1.0' }]));
    let rest = '';
    return {
      take: (text) => {
        const lines = (rest + text).split('\n');
        rest = lines.pop() ?? '';
        for (const line of lines) this.take(line, say);
      },
      close: () => {
        this.listeners.delete(say);
        if (this.listeners.size === 0) this.stop();
      },
    };
  }

  /** The timers were changed by somebody else than a controller: another list. */
  change(to: (state: TimersState, now: number) => TimersState): void {
    this.set(to(this.current, performance.now()));
  }

  stop(): void {
    clearInterval(this.second);
    clearTimeout(this.phase);
    this.second = this.phase = undefined;
  }

  private get running(): readonly object[] {
    return this.current.isRunning ? reportsOf(this.current, performance.now()).slice(0, 1) : [];
  }

  private take(line: string, say: (text: string) => void): void {
    if (line.length > maxLineLength) return say(linesOf([overlongLine()]));
    const { state, lines } = answerTimers(this.current, line, performance.now(), new Date());
    // The report goes before the answer, so a session that waits for both has the new state when the answer arrives.
    this.set(state);
    say(linesOf(lines));
  }

  private set(state: TimersState): void {
    if (state === this.current) return;
    const before = this.current;
    this.current = state;
    this.tell(changedReports(before, state, performance.now()));
    this.waitForPhase();
    this.onChange();
  }

  private tell(messages: readonly object[]): void {
    if (messages.length === 0) return;
    const text = linesOf(messages);
    for (const say of this.listeners) say(text);
  }

  private waitForPhase(): void {
    clearTimeout(this.phase);
    const inMs = this.listeners.size === 0 ? undefined : nextPhaseInMs(this.current, performance.now());
    if (inMs === undefined) return;
    this.phase = setTimeout(
      () => {
        this.tell(this.running);
        this.waitForPhase();
      },
      Math.ceil(inMs) + 1,
    );
  }
}
