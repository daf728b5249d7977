'use client';

import { Camera } from 'lucide-react';
import { useState } from 'react';
import type { DeskView } from '../../core/show';
import { Button } from '../kit';
import { TakeDialog } from './take-dialog';
import { useSnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  /** Told the name of what was taken. */
  readonly onTaken: (name: string) => void;
}

/** Takes a snapshot beside other work. The readings that it needs are followed only while somebody does. */
export function TakeHere({ show, onTaken }: Props) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button className="col-span-full justify-self-start" onClick={() => setOpen(true)}>
        <Camera aria-hidden className="size-4" />
        Take snapshot …
      </Button>
      {isOpen && <TakeNow show={show} onTaken={onTaken} onClose={() => setOpen(false)} />}
    </>
  );
}

function TakeNow({ show, onTaken, onClose }: Props & { readonly onClose: () => void }) {
  const facts = useSnapshotFacts(show);
  return <TakeDialog show={show} facts={facts} isOpenAtFirst onClose={onClose} onTaken={(_, name) => onTaken(name)} />;
}
