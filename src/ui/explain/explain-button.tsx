'use client';

import { Dialog } from 'radix-ui';

import { Button } from '../kit';
import { PressAccount } from './press-account';

/** Opens the account of one press. */
export const ExplainButton = ({ press, title }: { readonly press: string; readonly title: string }) => (
  <Dialog.Root>
    <Dialog.Trigger asChild>
      <Button>Explain</Button>
    </Dialog.Trigger>
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 bg-[rgb(0_0_0_/_55%)]" />
      <Dialog.Content
        className="fixed top-[20vh] left-1/2 z-41 grid max-h-[80vh] w-[min(620px,calc(100vw-16px))] -translate-x-1/2 gap-3.5 overflow-y-auto border border-rule-strong bg-ground px-6 py-5 [&_h2]:text-[20px] [&_h2]:font-[650]"
        aria-describedby={undefined}
      >
        <Dialog.Title>{title}</Dialog.Title>
        <PressAccount press={press} />
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Dialog.Close asChild>
            <Button>Close</Button>
          </Dialog.Close>
        </div>
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
);
