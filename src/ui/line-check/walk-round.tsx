'use client';

import { useState } from 'react';
import type { CheckItemView } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { Button, EmptyState, Progress } from '../kit';
import type { LineCheckDesk } from '../proofs';
import { PersonAnswer } from './person-answer';

interface Props {
  readonly items: readonly CheckItemView[];
  readonly names: ReadonlyMap<string, string>;
  readonly check: LineCheckDesk;
  readonly onClose: () => void;
}

/**
 * One question at a time, for a person who walks round the devices with a phone. Answers of others show at once, so that two people can share the
 * questions.
 */
export function WalkRound({ items, names, check, onClose }: Props) {
  const [passed, setPassed] = useState<ReadonlySet<string>>(new Set());
  const questions = items
    .flatMap((item) => {
      const proof = item.proofs.find(({ by }) => by === 'person');
      return proof?.by === 'person' ? [{ item, asks: proof.asks }] : [];
    })
    .sort((a, b) => inNumberOrder(placeOf(a.item, names), placeOf(b.item, names)));
  const isAnswered = ({ results }: CheckItemView) =>
    results.some(({ by, isOld, state }) => by === 'person' && !isOld && state !== 'unproved');
  const open = questions.filter(({ item }) => item.standing !== 'passed' && !isAnswered(item));
  const now = open.find(({ item }) => !passed.has(item.id)) ?? open[0];
  const done = questions.length - open.length;
  return (
    <section className="mx-auto flex min-h-full max-w-160 flex-col gap-5 px-4 py-4" aria-labelledby="walk-round-title">
      <header className="flex flex-wrap items-center gap-3.5">
        <h1 id="walk-round-title">Walk-round</h1>
        <span role="status" className="text-ink-soft">
          {done} of {questions.length} done
        </span>
        <Button className="ml-auto" onClick={onClose}>
          Back to the line check
        </Button>
      </header>
      <Progress label="Walk-round" part={questions.length === 0 ? 1 : done / questions.length} className="w-full" />
      {now ? (
        <article key={now.item.id} className="grid gap-4" aria-label={now.item.title}>
          <p className="text-ink-soft">
            {placeOf(now.item, names)} · {now.item.title}
          </p>
          <PersonAnswer item={now.item.id} asks={now.asks} check={check} isLarge />
          <Button
            kind="ghost"
            className="min-h-11 justify-self-start"
            disabled={open.length < 2}
            onClick={() => setPassed(nextPassed(passed, now.item.id, open.length))}
          >
            Later
          </Button>
        </article>
      ) : (
        <EmptyState
          title="Every question is answered."
          acts={<Button onClick={onClose}>Back to the line check</Button>}
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

const placeOf = ({ devices, panels }: CheckItemView, names: ReadonlyMap<string, string>): string =>
  names.get(devices[0] ?? panels[0] ?? '') ?? '';
