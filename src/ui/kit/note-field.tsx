import { Field } from './field';

interface Props {
  readonly value: string;
  /** Told once when the typing is over and the text has changed. */
  readonly onCommit: (note: string) => void;
}

/** A note of some lines, kept with what it is about. */
export const NoteField = ({ value, onCommit }: Props) => (
  <Field label="Note">
    {(ids) => (
      <textarea
        {...ids}
        key={value}
        defaultValue={value}
        maxLength={2000}
        rows={2}
        onBlur={({ target }) => target.value !== value && onCommit(target.value)}
      />
    )}
  </Field>
);
