'use client';

import { useState } from 'react';
import { formatCel, readCel, type CelError } from '../../core/lamp';
import type { Scalar } from '../../core/result';
import type { Condition } from '../../core/show';
import { CommitInput } from '../kit';
import { useRigFacts } from '../fields';

interface Props {
  readonly condition: Extract<Condition, { cel: string }>;
  readonly values: Readonly<Record<string, Scalar>>;
  readonly onChange: (to: Condition) => void;
}

/** A condition as an expression, for those who type. What cannot be read is marked at the place and not stored. */
export function CelField({ condition, values, onChange }: Props) {
  const { idOf, tagOf } = useRigFacts();
  const [wrong, setWrong] = useState<{ readonly typed: string; readonly error: CelError }>();
  const commit = (typed: string) => {
    const read = readCel(typed, idOf, values);
    if (read.ok) onChange(read.value);
    setWrong(read.ok ? undefined : { typed, error: read.error });
  };
  return (
    <div>
      <label>
        expression
        <CommitInput
          className="font-mono text-[0.93em]"
          value={wrong?.typed ?? formatCel(condition, tagOf)}
          maxLength={1000}
          spellCheck={false}
          autoComplete="off"
          aria-invalid={wrong !== undefined}
          onCommit={commit}
        />
      </label>
      <p className="col-span-full text-[13px] text-ink-soft">
        For example: SW1.program == 3 &amp;&amp; !(E1.stream == &quot;live&quot;)
      </p>
      {wrong && (
        <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink" role="alert">
          Not stored: {wrong.error.message}
          <span className="block font-mono text-[0.93em] wrap-anywhere [&_mark]:text-inherit [&_mark]:underline [&_mark]:decoration-wavy [&_mark]:[background:none]">
            {wrong.typed.slice(0, wrong.error.offset)}
            <mark>{wrong.typed.slice(wrong.error.offset) || '…'}</mark>
          </span>
        </p>
      )}
    </div>
  );
}
