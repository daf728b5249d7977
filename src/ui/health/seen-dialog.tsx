'use client';

import type { Incident } from '../../core/health';
import { askEngine, Button } from '../kit';
import { NameDialog } from '../proofs';

/** Acknowledges an incident with a name, and a note if there is something to say. */
export const SeenDialog = ({ incident: { id, text } }: { readonly incident: Incident }) => (
  <NameDialog
    title="Acknowledge the incident"
    description={`${text} It stays on this page until it is over, and the other screens are no longer told.`}
    trigger={<Button aria-label={`Acknowledge: ${text}`}>Acknowledge</Button>}
    act="Acknowledge"
    onDone={(who, note) => askEngine('/api/incidents/seen', { incident: id, who, note }, 'incident-seen')}
  />
);
