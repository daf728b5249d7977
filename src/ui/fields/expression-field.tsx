'use client';

import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { useMemo, useState } from 'react';
import { completeLabel } from '../../core/face';
import type { CelError } from '../../core/cel';
import { formatCel, readCel } from '../../core/lamp';
import type { Scalar } from '../../core/result';
import type { Condition } from '../../core/show';
import { CodeField, faultMark, Theirs, useTyped } from '../kit';
import { useRigFacts } from './rig-facts';
import { useLabelDevices } from './use-label-devices';

type Expression = Extract<Condition, { cel: string }>;

interface Props {
  readonly label: string;
  readonly expression: Expression;
  /** What can be named besides readings: the values of the control, the parameters of the macro. */
  readonly values: Readonly<Record<string, Scalar>>;
  readonly example: string;
  readonly onChange: (to: Expression) => void;
}

/** An expression, for those who type. What cannot be read is marked at its place and not stored. */
export function ExpressionField({ label, expression, values, example, onChange }: Props) {
  const { idOf, tagOf } = useRigFacts();
  const devices = useLabelDevices();
  const { typed, dirty, theirs, set, done } = useTyped(formatCel(expression, tagOf));
  const [wrong, setWrong] = useState<CelError>();
  const drawn = useMemo(() => (wrong ? [faultMark(wrong.offset, Infinity)] : []), [wrong]);
  const commit = () => {
    if (!dirty) return;
    const read = readCel(typed, idOf, values);
    setWrong(read.ok ? undefined : read.error);
    if (!read.ok) return;
    onChange(read.value);
    done();
  };
  /** The readings of a device, after its tag and a point, as in a label; here without braces. */
  const complete = ({ state, pos, explicit }: CompletionContext): CompletionResult | null => {
    const before = /[A-Za-z_][\w.[\]]*$/.exec(state.doc.sliceString(0, pos))?.[0] ?? '';
    if (before === '' && !explicit) return null;
    const offered = completeLabel(`{${before}`, before.length + 1, devices, {});
    return {
      from: pos - before.length,
      filter: false,
      options: offered.map(({ word, title, now, text }) => ({
        label: word,
        detail: [title, now].filter(Boolean).join(' · '),
        apply: text.slice(1).replace(/\}$/, ''),
      })),
    };
  };
  return (
    <div className="grid gap-1">
      <span aria-hidden className="text-[14px] text-ink-soft">
        {label}
      </span>
      <div className="font-mono text-[14px]">
        <CodeField
          label={label}
          value={typed}
          isLine
          maxLength={1000}
          invalid={wrong !== undefined}
          complete={complete}
          drawn={drawn}
          onChange={(text) => {
            setWrong(undefined);
            set(text);
          }}
          onCommit={commit}
          onRevert={() => {
            setWrong(undefined);
            if (dirty) done();
            return dirty;
          }}
          onBlur={() => theirs === undefined && commit()}
        />
      </div>
      <Theirs text={theirs} />
      <p className="text-[13px] text-ink-soft">For example: {example}</p>
      {wrong && (
        <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink" role="alert">
          Not stored: {wrong.message}
        </p>
      )}
    </div>
  );
}
