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
  <Field {...fieldOf({ label, labelAt, remark, help, error, className })}>
    {(ids) => (
      <CommitInput {...input} {...ids} className={isMono ? 'font-mono' : ''} value={value} onCommit={onCommit} />
    )}
  </Field>
);

/** Only what was given: with exact optional properties, an absent one is not the same as one that is undefined. */
export const fieldOf = (props: { readonly [K in keyof FieldProps]: FieldProps[K] | undefined }): FieldProps =>
  Object.fromEntries(Object.entries(props).filter(([, value]) => value !== undefined)) as unknown as FieldProps;
