'use client';

import { Button } from '../kit';
import { NameDialog, useLineCheck } from '../proofs';

/** Signs the report as it is now, with a name and a note. What is signed is kept and never changed. */
export function SignDialog({ onSigned }: { readonly onSigned: () => void }) {
  const { sign, isAsking } = useLineCheck();
  return (
    <NameDialog
      title="Sign the report"
      description="The report is kept with the show as it is now, and is not changed afterwards."
      trigger={<Button>Sign off …</Button>}
      act="Sign off"
      disabled={isAsking}
      onDone={async (who, note) => {
        const isSigned = await sign(who, note);
        if (isSigned) onSigned();
        return isSigned;
      }}
    />
  );
}
