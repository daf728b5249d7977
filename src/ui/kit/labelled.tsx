import type { ReactNode } from 'react';

/** Where the label of a field is: over it, before it on one line, or read by screen readers only. */
export type LabelAt = 'above' | 'before' | 'hidden';

interface Props {
  /** The id of the label, for `aria-labelledby`. */
  readonly id: string;
  /** The id of the input that a click on the label focuses. */
  readonly inputId?: string;
  readonly label: string;
  /** What is said beside the label and is not part of the field's name. */
  readonly remark?: ReactNode;
  readonly at: LabelAt;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A field with its label. */
export const Labelled = ({ id, inputId, label, remark, at, className = '', children }: Props) => (
  <div
    // What is hidden has its place in here, not at the end of the page, which would scroll as far.
    className={`relative min-w-0 ${at === 'before' ? 'inline-flex max-w-full items-center gap-2' : 'grid gap-1 [&>input]:w-full [&>input]:min-w-0'} ${className}`}
  >
    <span
      className={
        at === 'hidden' ? 'sr-only' : `text-ink-soft ${at === 'before' ? 'shrink-0 whitespace-nowrap' : 'text-[14px]'}`
      }
    >
      {inputId === undefined ? (
        <span id={id}>{label}</span>
      ) : (
        <label id={id} htmlFor={inputId}>
          {label}
        </label>
      )}
      {remark && <span className="font-normal"> {remark}</span>}
    </span>
    {children}
  </div>
);

/** The closed field of whatever opens a list. */
export const listFieldClass =
  'border-rule-strong bg-tape text-ink hover:border-ink-soft aria-invalid:border-fault flex min-h-9 w-full min-w-0 items-center justify-between gap-2 border px-2 py-1 text-left disabled:opacity-50';
