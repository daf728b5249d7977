'use client';

import { useState, type ReactNode } from 'react';
import { Button, Dialog, TextField } from '../kit';
import { answererName } from './use-line-check';

interface Props {
  readonly title: string;
  readonly description: string;
  readonly trigger: ReactNode;
  /** The act, as its button says it. */
  readonly act: string;
  readonly disabled?: boolean;
  /** Resolves with true when it was done: the dialog closes then. */
  readonly onDone: (who: string, note: string) => Promise<boolean>;
}

/** Asks for a name and a note, under which something is entered. */
export function NameDialog({ title, description, trigger, act, disabled = false, onDone }: Props) {
  const name = answererName.use() ?? '';
  const [isOpen, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const [isMissing, setMissing] = useState(false);
  const finish = async () => {
    const who = (answererName.get() ?? '').trim();
    if (who === '') return setMissing(true);
    if (await onDone(who, note)) setOpen(false);
  };
  return (
    <Dialog
      title={title}
      isForm
      open={isOpen}
      onOpenChange={setOpen}
      trigger={trigger}
      description={description}
      acts={
        <Button kind="strong" disabled={disabled} onClick={() => void finish()}>
          {act}
        </Button>
      }
    >
      <TextField
        label="Your name"
        value={name}
        onCommit={(typed) => {
          setMissing(false);
          answererName.set(typed);
        }}
        error={isMissing ? 'Type your name first.' : undefined}
      />
      <TextField label="Note" value={note} onCommit={setNote} />
    </Dialog>
  );
}
