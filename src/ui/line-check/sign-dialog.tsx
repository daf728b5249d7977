'use client';

import { useState } from 'react';
import { Button, Dialog, TextField } from '../kit';
import { answererName, useLineCheck } from '../proofs';

/** Signs the report as it is now, with a name and a note. What is signed is kept and never changed. */
export function SignDialog({ onSigned }: { readonly onSigned: () => void }) {
  const { sign, isAsking } = useLineCheck();
  const [isOpen, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const [isMissing, setMissing] = useState(false);
  const name = answererName.use() ?? '';
  const finish = async () => {
    const who = (answererName.get() ?? '').trim();
    if (who === '') return setMissing(true);
    if (!(await sign(who, note))) return;
    setOpen(false);
    onSigned();
  };
  return (
    <Dialog
      title="Sign the report"
      isForm
      open={isOpen}
      onOpenChange={setOpen}
      trigger={<Button>Sign off …</Button>}
      description="The report is kept with the show as it is now, and is not changed afterwards."
      acts={
        <Button kind="strong" disabled={isAsking} onClick={() => void finish()}>
          Sign off
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
