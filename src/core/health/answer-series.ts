/** Answers of one device within a span of time. */
export interface AnswerSpan {
  /** When the span began, in milliseconds since 1970. */
  readonly at: number;
  readonly answers: number;
  /** Questions and commands that were not answered in time. */
  readonly missed: number;
  /** Half of the answers came within this many milliseconds; left out where nothing was answered. */
  readonly half?: number;
  /** The longest answer, in milliseconds. */
  readonly longest?: number;
}

/** Several spans taken together. */
export type AnswerSum = Omit<AnswerSpan, 'at'>;

export const shortSpanMs = 10_000;
const longSpanMs = 120_000;
/** Ten minutes in short spans, twelve hours in long ones. */
const shortSpans = 60;
const longSpans = 360;
/** So many answers of one span are remembered one by one; of more, every second one, and so on. */
const mostSamples = 64;
/** So many answers say how a device usually answers. */
const firstAnswers = 30;

/**
 * How quickly one device answers: short spans of the last ten minutes, long spans of the last twelve hours. Memory is bounded, and an
 * answer costs next to nothing. Times are in milliseconds since 1970 and must not run backwards by more than a span.
 */
export class AnswerSeries {
  private samples: number[] = [];
  private every = 1;
  private answers = 0;
  private missed = 0;
  private longest = 0;
  private spanAt: number;
  private short: readonly AnswerSpan[] = [];
  private long: readonly AnswerSpan[] = [];
  private first: number[] | undefined = [];
  private usualMs: number | undefined;

  constructor(now: number) {
    this.spanAt = startOf(now, shortSpanMs);
  }

  /** Half of the first answers came within this many milliseconds; `undefined` before there were enough of them. */
  get usual(): number | undefined {
    return this.usualMs;
  }

  /** A question or command was answered after `ms` milliseconds. */
  answered(ms: number, now: number): void {
    this.advance(now);
    if (this.answers % this.every === 0) this.samples.push(ms);
    if (this.samples.length > mostSamples) {
      this.samples = this.samples.filter((_, n) => n % 2 === 0);
      this.every *= 2;
    }
    this.answers += 1;
    this.longest = Math.max(this.longest, ms);
    if (!this.first) return;
    this.first.push(ms);
    if (this.first.length < firstAnswers) return;
    this.usualMs = medianOf(this.first);
    this.first = undefined;
  }

  /** This many questions or commands were not answered in time. */
  wasMissed(count: number, now: number): void {
    this.advance(now);
    this.missed += count;
  }

  /** The last ten minutes, oldest first, the span under way included. */
  minutes(now: number): readonly AnswerSpan[] {
    this.advance(now);
    return [...this.short, this.spanNow()];
  }

  /** The last twelve hours, oldest first, without the span under way. */
  hours(now: number): readonly AnswerSpan[] {
    this.advance(now);
    return this.long;
  }

  /** What was answered and missed within the last `overMs` milliseconds, to the span. */
  lately(now: number, overMs: number): AnswerSum {
    return sumOf(this.minutes(now).filter(({ at }) => at + shortSpanMs > now - overMs));
  }

  private spanNow(): AnswerSpan {
    const base = { at: this.spanAt, answers: this.answers, missed: this.missed };
    return this.answers === 0 ? base : { ...base, half: medianOf(this.samples), longest: this.longest };
  }

  /** Ends the spans that are over. A gap, after the computer slept, leaves no spans. */
  private advance(now: number): void {
    const at = startOf(now, shortSpanMs);
    if (at === this.spanAt) return;
    const ended = this.spanNow();
    const kept = [...this.short, ended].filter((span) => span.at > at - shortSpans * shortSpanMs);
    this.short = kept.slice(-shortSpans);
    const longAt = startOf(ended.at, longSpanMs);
    if (startOf(at, longSpanMs) !== longAt) this.endLong(longAt, [...this.short]);
    this.spanAt = at;
    this.samples = [];
    this.every = 1;
    this.answers = 0;
    this.missed = 0;
    this.longest = 0;
  }

  private endLong(at: number, short: readonly AnswerSpan[]): void {
    const within = short.filter((span) => span.at >= at && span.at < at + longSpanMs);
    const kept = this.long.filter((span) => span.at > at - longSpans * longSpanMs);
    this.long = [...kept, { at, ...sumOf(within) }].slice(-longSpans);
  }
}

/** The spans as one: of their halves, the one that half of all answers lie within. */
export function sumOf(spans: readonly AnswerSpan[]): AnswerSum {
  let answers = 0;
  let missed = 0;
  let longest = 0;
  const halves: { readonly half: number; readonly answers: number }[] = [];
  for (const span of spans) {
    answers += span.answers;
    missed += span.missed;
    longest = Math.max(longest, span.longest ?? 0);
    if (span.half !== undefined) halves.push({ half: span.half, answers: span.answers });
  }
  if (answers === 0) return { answers, missed };
  halves.sort((a, b) => a.half - b.half);
  let seen = 0;
  for (const { half, answers: count } of halves) {
    seen += count;
    if (seen * 2 >= answers) return { answers, missed, half, longest };
  }
  return { answers, missed };
}

const startOf = (now: number, spanMs: number): number => Math.floor(now / spanMs) * spanMs;

/** The lower middle, so that half of them are not above it. */
function medianOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.ceil(sorted.length / 2) - 1] ?? 0;
}
