'use client';

import { useState } from 'react';
import { Field } from './field';

interface Props {
  readonly label: string;
  readonly value: string | undefined;
  readonly hasPassword: boolean;
  readonly wrong?: string | undefined;
  readonly onChange: (password: string) => void;
  readonly onBlur?: () => void;
}

/** A password. Browsers drop a pasted line break without a word, so the field says it. */
export function PasswordField({ label, value, hasPassword, wrong, onChange, onBlur }: Props) {
  const [cut, setCut] = useState(false);
  const note = cut ? 'A line break was pasted with it and removed: a password cannot contain one.' : undefined;
  return (
    <Field label={label} error={wrong ?? note}>
      {(ids) => (
        <input
          {...ids}
          type="password"
          value={value ?? ''}
          maxLength={200}
          autoComplete="new-password"
          placeholder={hasPassword ? 'kept; type to change it' : ''}
          onPaste={(e) => setCut(/[\r\n]/.test(e.clipboardData.getData('text')))}
          onChange={(e) => onChange(e.target.value)}
          onBlur={onBlur}
        />
      )}
    </Field>
  );
}
