import { readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { scalarSchema } from '../../core/driver';
import type { QuestionsView } from '../../core/live';
import { checkAnswers, questionsOf } from '../../core/page';
import type { Scalar } from '../../core/result';
import type { ControlRecord } from '../../core/show';
import { parseJson } from '../../core/wire';
import type { Log } from '../../log';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

type Answers = Readonly<Record<string, Scalar>>;

interface QuestionSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly log: Log;
  /** The last answers are kept there. */
  readonly dataDir: string;
}

/** A press that waits for its answers. */
interface Asking {
  readonly control: ControlRecord;
  readonly view: QuestionsView;
  readonly timer: NodeJS.Timeout;
  readonly onView: (view: QuestionsView) => void;
  readonly onEnd: (answers: Answers | undefined, reason: string) => void;
}

const keptAnswers = 6;
const keptQuestions = 500;
const writeAfterMs = 500;
const fileSchema = z.record(z.string(), z.array(scalarSchema).max(keptAnswers));

/** What presses ask before they are carried out, and what was answered the last times. */
export class Questions {
  private readonly open = new Map<string, Asking>();
  private readonly last: Map<string, readonly Scalar[]>;
  private readonly path: string;
  private writing: NodeJS.Timeout | undefined;

  constructor(private readonly sources: QuestionSources) {
    this.path = join(sources.dataDir, 'answers.json');
    this.last = new Map(Object.entries(readLast(this.path)));
  }

  /** The control of a press that waits for an answer. */
  controlOf(press: string): ControlRecord | undefined {
    return this.open.get(press)?.control;
  }

  /** Asks; `onView` is told what, `onEnd` the answers, or none with the reason. */
  ask(press: string, control: ControlRecord, onView: Asking['onView'], onEnd: Asking['onEnd']): void {
    const mostMs = control.data.responses.asks?.mostMs ?? 0;
    const items = this.questionsOf(control).map((question) => ({
      ...question,
      last: this.last.get(nameOf(control, question.value)) ?? [],
    }));
    const view = { until: Date.now() + mostMs, items };
    const timer = setTimeout(
      () => this.end(press, undefined, `Not answered within ${Math.round(mostMs / 1000)} s.`),
      mostMs,
    );
    this.open.set(press, { control, view, timer, onView, onEnd });
    onView(view);
  }

  /** Answers what a press has asked; what will not do is asked again. Without answers it ends. */
  answer(press: string, given: Answers | undefined): void {
    const asking = this.open.get(press);
    if (!asking) return;
    if (!given) return this.end(press, undefined, 'The question was left unanswered.');
    const checked = this.check(asking.control, given);
    if (checked.ok) return this.end(press, checked.value, '');
    const view = { ...asking.view, wrong: checked.error };
    this.open.set(press, { ...asking, view });
    asking.onView(view);
  }

  /** Whether these answers will do for a control. */
  check(control: ControlRecord, given: Answers): ReturnType<typeof checkAnswers> {
    return checkAnswers(this.questionsOf(control), given);
  }

  stop(): void {
    for (const press of [...this.open.keys()])
      this.end(press, undefined, 'The engine was stopped before an answer came.');
    if (this.writing === undefined) return;
    clearTimeout(this.writing);
    void this.write();
  }

  private questionsOf(control: ControlRecord) {
    const { show, readings } = this.sources;
    return questionsOf(control.data, {
      documentOf: show.documentOf,
      readingsOf: (device) => readings.view(device),
      macroOf: (id) => show.macros.get(id),
    });
  }

  private end(press: string, answers: Answers | undefined, reason: string): void {
    const asking = this.open.get(press);
    if (!asking) return;
    clearTimeout(asking.timer);
    this.open.delete(press);
    if (answers) this.remember(asking.control, answers);
    asking.onEnd(answers, reason);
  }

  private remember(control: ControlRecord, answers: Answers): void {
    for (const [value, answer] of Object.entries(answers)) {
      const name = nameOf(control, value);
      const before = (this.last.get(name) ?? []).filter((each) => each !== answer);
      this.last.delete(name);
      this.last.set(name, [answer, ...before].slice(0, keptAnswers));
    }
    for (const name of this.last.keys()) {
      if (this.last.size <= keptQuestions) break;
      this.last.delete(name);
    }
    this.writing ??= setTimeout(() => void this.write(), writeAfterMs);
  }

  /** They are a help, not a record: a disk that is full takes nothing else away. */
  private async write(): Promise<void> {
    this.writing = undefined;
    const text = JSON.stringify(Object.fromEntries(this.last));
    await writeFile(this.path, text, { mode: 0o600 }).catch((cause: unknown) =>
      this.sources.log.warn({ cause }, 'The last answers cannot be written.'),
    );
  }
}

const nameOf = (control: ControlRecord, value: string): string => `${control.id} ${value}`;

function readLast(path: string): z.infer<typeof fileSchema> {
  try {
    const parsed = parseJson(readFileSync(path, 'utf8'));
    return fileSchema.parse(parsed.ok ? parsed.value : {});
  } catch {
    // None yet, or damaged: nothing is suggested.
    return {};
  }
}
