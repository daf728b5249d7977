'use client';

import { Dialog } from 'radix-ui';
import { Button } from '../parts';
import { PressAccount } from './press-account';

/** Opens the account of one press. */
export const ExplainButton = ({ press, title }: { readonly press: string; readonly title: string }) => (
  <Dialog.Root>
    <Dialog.Trigger asChild>
      <Button>Explain</Button>
    </Dialog.Trigger>
    <Dialog.Portal>
      <Dialog.Overlay className="overlay" />
      <Dialog.Content
        className="ask-dialog max-h-[80vh] w-[min(620px,calc(100vw-16px))] overflow-y-auto"
        aria-describedby={undefined}
      >
        <Dialog.Title>{title}</Dialog.Title>
        <PressAccount press={press} />
        <div className="form-acts">
          <Dialog.Close asChild>
            <Button>Close</Button>
          </Dialog.Close>
        </div>
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
);
