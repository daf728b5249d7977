'use client';

import { useState } from 'react';
import { Button, TextField } from '../kit';
import { answererName, type LineCheckDesk } from '../proofs';

interface Props {
  readonly item: string;
  readonly asks: string;
  readonly check: LineCheckDesk;
  /** Large targets, for a phone in a hand. */
  readonly isLarge?: boolean;
  readonly onAnswered?: () => void;
}

const answers = [
  { answer: 'yes', title: 'Yes' },
  { answer: 'no', title: 'No' },
  { answer: 'cannot see', title: 'Cannot see it' },
] as const;

/** A question to somebody who stands where it can be seen, with who answers and a note. */
export function PersonAnswer({ item, asks, check, isLarge = false, onAnswered }: Props) {
  const kept = answererName.use() ?? '';
  const [note, setNote] = useState('');
  const [isMissing, setMissing] = useState(false);
  const say = async (answer: (typeof answers)[number]['answer']) => {
    const who = (answererName.get() ?? '').trim();
    if (who === '') return setMissing(true);
    if (!(await check.answer({ item, answer, who, note }))) return;
    setNote('');
    onAnswered?.();
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
            disabled={check.isAsking}
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
