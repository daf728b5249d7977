'use client';

import { useState } from 'react';
import { CommitInput } from './commit-input';
import { Field, type FieldProps } from './field';

type Props = FieldProps & {
  /** The number, or undefined while there is none. */
  readonly value: number | undefined;
  readonly min?: number;
  readonly max?: number;
  /** The smallest difference; 1 unless said otherwise. */
  readonly step?: number;
  /** Shown behind the number: ms, %, dB. */
  readonly unit?: string;
  readonly disabled?: boolean;
  /** Told once when the typing is over, with a number within the range. */
  readonly onCommit: (value: number) => void;
};

/** A number with its unit. What is outside the range is not stored; the field says what it takes. */
export function NumberField({
  value,
  min = -Infinity,
  max = Infinity,
  step = 1,
  unit,
  disabled,
  onCommit,
  error,
  ...field
}: Props) {
  const [last, setLast] = useState<{ readonly text: string; readonly over: number | undefined }>();
  // What was refused stays until something else is stored.
  const refused = last && last.over === value ? last.text : undefined;
  const commit = (text: string) => {
    const number = Number(text);
    if (text.trim() === '' || !Number.isFinite(number) || number < min || number > max)
      return setLast({ text, over: value });
    setLast(undefined);
    onCommit(number);
  };
  return (
    <Field {...field} error={error ?? (refused === undefined ? undefined : rangeText(min, max, unit))}>
      {(ids) => (
        <span
          className="flex items-center gap-2"
          onKeyDown={({ key }) => key === 'Escape' && setLast(undefined)}
          role="presentation"
        >
          <CommitInput
            {...ids}
            // The steppers and the keyboard of a phone; what is typed is checked here.
            type="number"
            min={min}
            max={max}
            step={step}
            disabled={disabled}
            className="min-w-0 flex-1"
            value={refused ?? (value === undefined ? '' : String(value))}
            onCommit={commit}
          />
          {unit && <span className="text-ink-soft">{unit}</span>}
        </span>
      )}
    </Field>
  );
}

/** What a range takes, as a request. */
function rangeText(min: number, max: number, unit = ''): string {
  const of = unit && ` ${unit}`;
  if (min > -Infinity && max < Infinity) return `Enter a number from ${min} to ${max}${of}.`;
  if (min > -Infinity) return `Enter a number of at least ${min}${of}.`;
  return max < Infinity ? `Enter a number of at most ${max}${of}.` : 'Enter a number.';
}
