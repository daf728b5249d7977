import type { InputHTMLAttributes } from 'react';
import { CommitInput } from './commit-input';
import { Field, type FieldProps } from './field';

type Props = FieldProps &
  Pick<
    InputHTMLAttributes<HTMLInputElement>,
    'disabled' | 'maxLength' | 'placeholder' | 'type' | 'autoComplete' | 'spellCheck' | 'autoFocus'
  > & {
    readonly value: string;
    /** Told once when the typing is over. */
    readonly onCommit: (text: string) => void;
    /** Bytes, addresses and paths are set in the monospace. */
    readonly isMono?: boolean;
  };

/** A line of text that is stored when it is left. */
export const TextField = ({
  label,
  labelAt,
  remark,
  help,
  error,
  className,
  isMono = false,
  value,
  onCommit,
  ...input
}: Props) => (
  <Field label={label} labelAt={labelAt} remark={remark} help={help} error={error} className={className}>
    {(ids) => (
      <CommitInput {...input} {...ids} className={isMono ? 'font-mono' : ''} value={value} onCommit={onCommit} />
    )}
  </Field>
);
