'use client';

import { useState } from 'react';
import type { Incident } from '../../core/health';
import { Button, Dialog, tellMended, tellRefused, TextField } from '../kit';
import { answererName } from '../proofs';

const subject = 'incident-seen';

/** Acknowledges an incident with a name, and a note if there is something to say. */
export function SeenDialog({ incident: { id, text } }: { readonly incident: Incident }) {
  const name = answererName.use() ?? '';
  const [isOpen, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const [isMissing, setMissing] = useState(false);
  const finish = async () => {
    const who = (answererName.get() ?? '').trim();
    if (who === '') return setMissing(true);
    if (await see({ incident: id, who, note })) setOpen(false);
  };
  return (
    <Dialog
      title="Acknowledge the incident"
      isForm
      open={isOpen}
      onOpenChange={setOpen}
      trigger={<Button aria-label={`Acknowledge: ${text}`}>Acknowledge</Button>}
      description={`${text} It stays on this page until it is over, and the other screens are no longer told.`}
      acts={
        <Button kind="strong" onClick={() => void finish()}>
          Acknowledge
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

/** Resolves with true when it was entered; a refusal becomes a notice. */
async function see(body: { readonly incident: string; readonly who: string; readonly note: string }): Promise<boolean> {
  const answer = await fetch('/api/incidents/seen', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => undefined);
  if (answer?.ok) {
    tellMended(subject);
    return true;
  }
  const said = (await answer?.json().catch(() => undefined)) as { error?: { message?: string } } | undefined;
  tellRefused(said?.error?.message ?? 'The desk is cut off from the engine. Try again in a moment.', subject);
  return false;
}
