'use client';

import { useState, type ReactNode } from 'react';
import type { WalkQuestion } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { Button, EmptyState, Progress } from '../kit';
import { PersonAnswer, type Answering } from './person-answer';

interface Props extends Answering {
  readonly questions: Readonly<Record<string, WalkQuestion>>;
  /** In the head, and where every question is answered. */
  readonly leave?: ReactNode;
}

/**
 * One question at a time, for a person who walks round the devices with a phone. Answers of others show at once, so that two people can share the
 * questions.
 */
export function WalkQuestions({ questions, leave, onAnswer, isAsking }: Props) {
  const [passed, setPassed] = useState<ReadonlySet<string>>(new Set());
  const all = Object.entries(questions)
    .map(([id, question]) => ({ id, ...question }))
    .sort((a, b) => inNumberOrder(a.place, b.place));
  const open = all.filter(({ isDone }) => !isDone);
  const now = open.find(({ id }) => !passed.has(id)) ?? open[0];
  const done = all.length - open.length;
  return (
    <section
      className="mx-auto flex min-h-full w-full max-w-160 flex-col gap-5 px-4 py-4"
      aria-labelledby="walk-round-title"
    >
      <header className="flex flex-wrap items-center gap-3.5">
        <h1 id="walk-round-title">Walk-round</h1>
        <span role="status" className="text-ink-soft">
          {done} of {all.length} done
        </span>
        {leave && <span className="ml-auto">{leave}</span>}
      </header>
      <Progress label="Walk-round" part={all.length === 0 ? 1 : done / all.length} className="w-full" />
      {now ? (
        <article key={now.id} className="grid gap-4" aria-label={now.title}>
          <p className="text-ink-soft">
            {now.place} · {now.title}
          </p>
          <PersonAnswer item={now.id} asks={now.asks} onAnswer={onAnswer} isAsking={isAsking} isLarge />
          <Button
            kind="ghost"
            className="min-h-11 justify-self-start"
            disabled={open.length < 2}
            onClick={() => setPassed(nextPassed(passed, now.id, open.length))}
          >
            Later
          </Button>
        </article>
      ) : (
        <EmptyState
          title={all.length === 0 ? 'There is no question now.' : 'Every question is answered.'}
          {...(leave ? { acts: leave } : {})}
        />
      )}
    </section>
  );
}

/** What was put off; when everything was, it begins anew. */
function nextPassed(passed: ReadonlySet<string>, item: string, open: number): ReadonlySet<string> {
  const next = new Set(passed).add(item);
  return next.size >= open ? new Set() : next;
}
