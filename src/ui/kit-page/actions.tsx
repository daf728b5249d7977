'use client';

import { Copy, Ellipsis } from 'lucide-react';
import { Dialog, Popover } from 'radix-ui';
import { Button, Menu, PopoverPanel, tellDone, tellRefused } from '../kit';

import { Specimen, Specimens } from './specimen';

/** What is pressed, and what opens then. */
export const Actions = () => (
  <Specimens title="Actions">
    <Specimen title="Button: plain, strong, ghost">
      <Button>Test</Button>
      <Button kind="strong">Add device</Button>
      <Button kind="ghost">Cancel</Button>
    </Specimen>
    <Specimen title="Button: disabled">
      <Button disabled>Test</Button>
      <Button kind="strong" disabled>
        Add device
      </Button>
    </Specimen>
    <Specimen title="Button with an icon">
      <Button kind="ghost" aria-label="Copy address">
        <Copy aria-hidden size={18} />
      </Button>
    </Specimen>
    <Specimen title="Menu">
      <Menu
        acts={[
          { title: 'Duplicate', run: () => tellDone('Duplicated.', 'kit') },
          { title: 'Remove', run: () => undefined, disabled: true },
        ]}
      >
        <Button aria-label="More">
          <Ellipsis aria-hidden size={18} />
        </Button>
      </Menu>
    </Specimen>
    <Specimen title="Popover">
      <Popover.Root>
        <Popover.Trigger asChild>
          <Button>Columns</Button>
        </Popover.Trigger>
        <PopoverPanel label="Columns" className="p-4">
          What is in it can be used while the rest stays in sight.
        </PopoverPanel>
      </Popover.Root>
    </Specimen>
    <Specimen title="Dialog">
      <Dialog.Root>
        <Dialog.Trigger asChild>
          <Button>Remove device</Button>
        </Dialog.Trigger>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 bg-[rgb(0_0_0_/_55%)]" />
          <Dialog.Content
            className="fixed top-[20vh] left-1/2 z-41 grid w-[min(520px,92vw)] -translate-x-1/2 gap-3.5 border border-rule-strong bg-ground px-6 py-5 [&_h2]:text-[20px] [&_h2]:font-[650]"
            aria-describedby={undefined}
          >
            <Dialog.Title>Remove Finish camera?</Dialog.Title>
            <p>Four controls use it. They stay, and say that their device is gone.</p>
            <div className="col-span-full flex flex-wrap gap-2.5">
              <Dialog.Close asChild>
                <Button kind="strong">Remove device</Button>
              </Dialog.Close>
              <Dialog.Close asChild>
                <Button>Cancel</Button>
              </Dialog.Close>
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </Specimen>
    <Specimen title="Notices">
      <Button onClick={() => tellDone('Saved.', 'kit done')}>Something was done</Button>
      <Button onClick={() => tellRefused('Not saved: the tag SW1 is taken. Choose another.', 'kit refused')}>
        Something was refused
      </Button>
    </Specimen>
  </Specimens>
);
