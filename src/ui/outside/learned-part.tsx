'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import {
  inletsOf,
  learnEdit,
  mostTriggers,
  takenBy,
  triggersOf,
  unlearnEdit,
  type LearnedTrigger,
  type Learner,
} from '../../core/inlet';
import type { ShowRecord } from '../../core/show';
import { useDesk } from '../desk';
import { Button, IconButton } from '../kit';
import { useLearning } from './use-learning';

interface Props {
  readonly records: readonly ShowRecord[];
  readonly learner: Learner;
}

/** Texts that do this although they mean nothing by themselves: whatever another program sends next is learned. */
export function LearnedPart({ records, learner }: Props) {
  const desk = useDesk();
  const inlets = inletsOf(records);
  const learned = triggersOf(records, learner.id);
  /** What was heard, but does something else already. */
  const [asked, setAsked] = useState<LearnedTrigger>();
  const isOn = inlets.some(({ data }) => data.on);
  const learn = (trigger: LearnedTrigger) => {
    setAsked(undefined);
    void desk.edit(learnEdit(learner, trigger));
  };
  const learning = useLearning(inlets.length, (n, text) => {
    const inlet = inlets[n];
    if (!inlet) return;
    if (takenBy(records, { inlet, text }, learner.id) === undefined) learn({ inlet, text });
    else setAsked({ inlet, text });
  });
  const isFull = learned.length >= mostTriggers;
  const taken = asked && takenBy(records, asked, learner.id);
  return (
    <>
      {learned.length > 0 && (
        <ul aria-label="Learned" className="grid gap-1">
          {learned.map((trigger) => (
            <li key={`${trigger.inlet.id} ${trigger.text}`} className="flex items-center gap-1.5">
              <span className="grid min-w-0 flex-1">
                <span className="truncate text-[13px] text-ink-soft">Learned from {trigger.inlet.data.name}</span>
                <code className="font-mono text-[13px] break-all">{trigger.text}</code>
              </span>
              <IconButton label={`Forget ${trigger.text}`} onClick={() => void desk.edit(unlearnEdit(trigger))}>
                <X size={16} aria-hidden />
              </IconButton>
            </li>
          ))}
        </ul>
      )}
      {asked && taken !== undefined && (
        <div role="alert" className="grid gap-1.5 border-l-4 border-warning pl-2.5 text-[14px]">
          <p>
            <code className="font-mono break-all">{asked.text}</code> is used by {taken} already.
          </p>
          <span className="flex flex-wrap gap-2">
            <Button onClick={() => learn(asked)}>Learn it here</Button>
            <Button onClick={() => setAsked(undefined)}>Cancel</Button>
          </span>
        </div>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={!learning.isOn && (!isOn || isFull)} onClick={learning.isOn ? learning.stop : learning.begin}>
          {learning.isOn ? 'Stop learning' : 'Learn'}
        </Button>
        <span role="status" className="text-[14px] text-ink-soft">
          {learning.isOn
            ? 'Send the message now. The next one received is learned.'
            : isFull
              ? `At most ${mostTriggers} can be learned. Forget one first.`
              : isOn
                ? 'Learns whatever the other program sends next.'
                : 'Switch an inlet on to learn from it.'}
        </span>
      </div>
    </>
  );
}
