import { useId, type FormEvent, type ReactNode } from 'react';
import type { DriverAdditions, DriverDocument } from '../../../core/driver';
import type { Problem } from '../../../core/result';
import { Button, Dialog, Field } from '../../kit';
import { ProblemList } from './problem-list';

/** What a dialog for a command or a reading is about. */
export interface OwnDialogProps<Own> {
  /** The driver's document for the device, without what the show adds. */
  readonly document: DriverDocument;
  readonly additions: DriverAdditions | undefined;
  /** The role of the device. */
  readonly role: string;
  /** What is edited; left out for something new. */
  readonly id: string | undefined;
  readonly initial: Own;
  readonly onSave: (next: DriverAdditions) => Promise<boolean>;
  readonly onClose: () => void;
}

interface Props {
  readonly what: 'command' | 'reading';
  readonly isNew: boolean;
  readonly name: string;
  readonly wrongName: string | undefined;
  /** What is wrong beside what the fields say themselves. */
  readonly problems: readonly Problem[];
  readonly isSubmitting: boolean;
  readonly onName: (name: string) => void;
  readonly onSubmit: (event: FormEvent) => Promise<void>;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

/** The dialog of a command or a reading that a show adds: its name, its fields, and what is wrong. */
export function OwnDialog(props: Props) {
  const { what, isNew, name, wrongName, problems, isSubmitting, onName, onSubmit, onClose, children } = props;
  const form = useId();
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      size="wide"
      isForm
      title={`${isNew ? 'Add' : 'Edit'} ${what}`}
      acts={
        <Button kind="strong" type="submit" form={form} disabled={isSubmitting}>
          {`${isNew ? 'Add' : 'Save'} ${what}`}
        </Button>
      }
    >
      <form
        id={form}
        className="grid gap-2.5"
        aria-label={isNew ? `New ${what}` : what.charAt(0).toUpperCase() + what.slice(1)}
        noValidate
        onSubmit={(event) => void onSubmit(event)}
      >
        <Field label="Name" error={wrongName}>
          {(ids) => <input {...ids} value={name} maxLength={80} onChange={({ target }) => onName(target.value)} />}
        </Field>
        {children}
        <ProblemList problems={problems} />
      </form>
    </Dialog>
  );
}
