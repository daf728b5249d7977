'use client';

import { useState } from 'react';
import type { CheckAnswer } from '../../core/live';
import { Button, TextField } from '../kit';
import { answererName } from './use-line-check';

/** How an answer is entered: resolves with true when it was. */
export interface Answering {
  readonly onAnswer: (answer: CheckAnswer) => Promise<boolean>;
  readonly isAsking: boolean;
}

interface Props extends Answering {
  readonly item: string;
  readonly asks: string;
  /** Large targets, for a phone in a hand. */
  readonly isLarge?: boolean;
}

const answers = [
  { answer: 'yes', title: 'Yes' },
  { answer: 'no', title: 'No' },
  { answer: 'cannot see', title: 'Cannot see it' },
] as const;

/** A question to somebody who stands where it can be seen, with who answers and a note. */
export function PersonAnswer({ item, asks, onAnswer, isAsking, isLarge = false }: Props) {
  const kept = answererName.use() ?? '';
  const [note, setNote] = useState('');
  const [isMissing, setMissing] = useState(false);
  const say = async (answer: (typeof answers)[number]['answer']) => {
    const who = (answererName.get() ?? '').trim();
    if (who === '') return setMissing(true);
    if (await onAnswer({ item, answer, who, note })) setNote('');
  };
  return (
    <div className="grid gap-2.5">
      <p className={isLarge ? 'text-[24px] leading-8 font-semibold' : 'font-semibold'}>{asks}</p>
      <div className={isLarge ? 'grid gap-2.5' : 'flex flex-wrap gap-2.5'}>
        {answers.map(({ answer, title }) => (
          <Button
            key={answer}
            kind={isLarge && answer === 'yes' ? 'strong' : 'plain'}
            className={isLarge ? 'min-h-14 text-[18px]' : undefined}
            disabled={isAsking}
            onClick={() => void say(answer)}
          >
            {title}
          </Button>
        ))}
      </div>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(150px,1fr))] gap-2.5">
        <TextField
          label="Your name"
          value={kept}
          onCommit={(name) => {
            setMissing(false);
            answererName.set(name);
          }}
          error={isMissing ? 'Type your name first.' : undefined}
        />
        <TextField label="Note" value={note} onCommit={setNote} />
      </div>
    </div>
  );
}
