'use client';

import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import type { DriverDocument } from '../../../core/driver';
import { CodeField } from '../../kit';

interface Props {
  readonly value: string;
  /** The readings that it may name, by key. */
  readonly readings: DriverDocument['readings'];
  /** What else it may name. */
  readonly others?: readonly string[];
  readonly error: string | undefined;
  readonly onChange: (value: string) => void;
}

const noMarks: readonly never[] = [];

/** An expression over the readings of the device, which are offered by their titles while it is typed. */
export function ExpressionField({ value, readings, others = [], error, onChange }: Props) {
  const words = [
    ...others.map((label) => ({ label, detail: 'value of this command' })),
    ...Object.entries(readings).map(([key, { title }]) => ({ label: key.replace('[]', '[1]'), detail: title })),
  ];
  const complete = ({ state, pos, explicit }: CompletionContext): CompletionResult | null => {
    const before = /[A-Za-z_][\w.[\]]*$/.exec(state.doc.sliceString(0, pos))?.[0] ?? '';
    if (before === '' && !explicit) return null;
    const sought = before.toLowerCase();
    const fits = ({ label, detail }: (typeof words)[number]) => `${label} ${detail}`.toLowerCase().includes(sought);
    return { from: pos - before.length, filter: false, options: words.filter(fits).slice(0, 60) };
  };
  const [first] = words;
  return (
    <div className="grid gap-1">
      <span aria-hidden className="text-[14px] text-ink-soft">
        Expression
      </span>
      <div className="font-mono text-[14px]">
        <CodeField
          label="Expression"
          value={value}
          isLine
          maxLength={400}
          invalid={error !== undefined}
          complete={complete}
          drawn={noMarks}
          onChange={onChange}
          onCommit={() => undefined}
          onRevert={() => false}
        />
      </div>
      <p className="text-[13px] text-ink-soft">
        {first
          ? `In CEL, with readings by their keys: type part of a title to find one, such as ${first.label} for ${first.detail}. Write string(…) around a number in a text.`
          : 'This device has no readings yet from which one could be computed.'}
      </p>
      {error !== undefined && (
        <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink" role="alert">
          {error}
        </p>
      )}
    </div>
  );
}
