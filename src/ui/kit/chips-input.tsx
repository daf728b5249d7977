'use client';

import { X } from 'lucide-react';
import { useState, type KeyboardEvent } from 'react';
import { Field, type FieldProps } from './field';

type Props = FieldProps & {
  readonly values: readonly string[];
  readonly onChange: (values: readonly string[]) => void;
  readonly placeholder?: string;
  /** The most values. */
  readonly most?: number;
  readonly disabled?: boolean;
};

/**
 * Several short values. Enter, a comma or leaving the field adds what is typed, several at once where commas are between; Backspace in the
 * empty field removes the last one. No value is there twice.
 */
export function ChipsInput({ values, onChange, placeholder, most = 60, disabled = false, ...field }: Props) {
  const [typed, setTyped] = useState('');
  const add = (text: string) => {
    const words = text
      .split(',')
      .map((word) => word.trim())
      .filter((word) => word !== '');
    setTyped('');
    const next = [...new Set([...values, ...words])].slice(0, most);
    if (next.length !== values.length) onChange(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    // Enter that ends a composition of an input method adds nothing yet.
    if (event.nativeEvent.isComposing) return;
    if ((event.key === 'Enter' && typed.trim() !== '') || event.key === ',') {
      event.preventDefault();
      add(typed);
    } else if (event.key === 'Backspace' && typed === '' && values.length > 0) onChange(values.slice(0, -1));
    else if (event.key === 'Escape' && typed !== '') {
      event.stopPropagation();
      setTyped('');
    }
  };
  return (
    <Field {...field}>
      {(ids) => (
        <span className="flex min-h-9 flex-wrap items-center gap-1 border border-rule-strong bg-tape p-1 focus-within:border-accent">
          {values.map((value) => (
            <span key={value} className="inline-flex items-center border border-rule-strong bg-raised pl-2">
              {value}
              <button
                type="button"
                aria-label={`Remove ${value}`}
                disabled={disabled}
                className="grid size-6 place-items-center hover:bg-tape"
                onClick={() => onChange(values.filter((each) => each !== value))}
              >
                <X aria-hidden size={13} />
              </button>
            </span>
          ))}
          <input
            {...ids}
            value={typed}
            disabled={disabled || values.length >= most}
            placeholder={values.length === 0 ? placeholder : undefined}
            className="min-h-7 min-w-16 flex-1 border-0 bg-transparent"
            onChange={(event) => setTyped(event.target.value)}
            onPaste={(event) => {
              const text = event.clipboardData.getData('text');
              if (!text.includes(',')) return;
              event.preventDefault();
              add(typed + text);
            }}
            onKeyDown={onKeyDown}
            onBlur={() => typed.trim() !== '' && add(typed)}
          />
        </span>
      )}
    </Field>
  );
}
