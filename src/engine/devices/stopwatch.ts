import type { RE2JS } from 're2js';
import type { CompiledDriver, OwnMessage } from '../../core/driver';

/** A question that changes nothing, and how its answer is known where answers are not counted. */
interface HarmlessQuestion {
  readonly own: OwnMessage;
  readonly until: RE2JS | undefined;
}

/** What can be asked of a device to see how long it takes; `undefined` when nothing can. */
export function harmlessQuestion({
  document,
  asked,
  keepAlive,
  sync,
  syncUntil,
}: CompiledDriver): HarmlessQuestion | undefined {
  if (document.link.direction === 'out') return undefined;
  if (document.answers === 'none') {
    const [own] = sync;
    return own && syncUntil ? { own, until: syncUntil } : undefined;
  }
  if (keepAlive) return { own: keepAlive, until: undefined };
  for (const [ask, [own]] of asked) {
    if (own && !document.questions[ask]?.paging) return { own, until: undefined };
  }
  return undefined;
}

interface Running {
  readonly question: HarmlessQuestion;
  readonly done: (ms: number | undefined) => void;
  readonly withinMs: number;
  sentAt: number;
  ref: number | undefined;
  timer: NodeJS.Timeout;
}

/** Times one question at a time, from its bytes leaving to its answer. */
export class Stopwatch {
  private running: Running | undefined;

  /** @param done told the time in milliseconds, or `undefined` when no answer came in time or the connection is gone */
  start(question: HarmlessQuestion, withinMs: number, done: Running['done']): void {
    this.stop();
    // It may have to wait for its turn; its own time begins when it leaves.
    const timer = setTimeout(() => this.end(undefined), withinMs * 2);
    this.running = { question, done, withinMs, sentAt: 0, ref: undefined, timer };
  }

  sent(own: OwnMessage, ref: number, now: number): void {
    if (this.running?.question.own !== own || this.running.sentAt > 0) return;
    this.running.sentAt = now;
    this.running.ref = ref;
    clearTimeout(this.running.timer);
    this.running.timer = setTimeout(() => this.end(undefined), this.running.withinMs);
  }

  answered(ref: number): void {
    if (this.running?.ref === ref && !this.running.question.until) this.end(performance.now() - this.running.sentAt);
  }

  heard(text: string): void {
    const { running } = this;
    if (!running?.question.until || running.sentAt === 0 || !running.question.until.matcher(text).find()) return;
    this.end(performance.now() - running.sentAt);
  }

  stop(): void {
    this.end(undefined);
  }

  private end(ms: number | undefined): void {
    const { running } = this;
    if (!running) return;
    this.running = undefined;
    clearTimeout(running.timer);
    running.done(ms);
  }
}
