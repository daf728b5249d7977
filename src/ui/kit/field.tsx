import { useId, type ReactNode } from 'react';
import { Labelled, type LabelAt } from './labelled';

/** What ties an input to its label, its help and its error. */
interface FieldIds {
  readonly id: string;
  readonly 'aria-labelledby': string;
  readonly 'aria-describedby': string | undefined;
  readonly 'aria-invalid': true | undefined;
}

export interface FieldProps {
  readonly label: string;
  readonly labelAt?: LabelAt | undefined;
  /** What is said beside the label and is not part of the field's name. */
  readonly remark?: ReactNode;
  readonly help?: ReactNode;
  /** What is wrong with what was typed, and what to try. */
  readonly error?: string | undefined;
  readonly className?: string | undefined;
}

/** A field with its label, its help and its error, which a screen reader reads with it. */
export function Field({
  label,
  labelAt = 'above',
  remark,
  help,
  error,
  className,
  children,
}: FieldProps & { readonly children: (ids: FieldIds) => ReactNode }) {
  const id = useId();
  const says = [help && `${id}-help`, error !== undefined && `${id}-error`].filter(Boolean).join(' ');
  return (
    <Labelled id={id} inputId={`${id}-input`} label={label} remark={remark} at={labelAt} className={className}>
      {children({
        id: `${id}-input`,
        'aria-labelledby': id,
        'aria-describedby': says || undefined,
        'aria-invalid': error === undefined ? undefined : true,
      })}
      {help && (
        <span id={`${id}-help`} className="text-[13px] text-ink-soft">
          {help}
        </span>
      )}
      {error !== undefined && (
        <span id={`${id}-error`} role="alert" className="text-[13px] font-semibold text-ink">
          {error}
        </span>
      )}
    </Labelled>
  );
}
