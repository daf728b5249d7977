'use client';

import { Copy, Ellipsis } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Button, Confirm, Dialog, IconButton, Menu, PopoverPanel, tellDone, tellRefused } from '../kit';

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
    <Specimen title="Button: pressed, busy, sends to real devices">
      <Button aria-pressed>Series</Button>
      <Button aria-busy>Saving …</Button>
      <Button kind="live">Send live</Button>
    </Specimen>
    <Specimen title="Icon button, with a tooltip">
      <IconButton label="Copy address">
        <Copy aria-hidden size={18} />
      </IconButton>
      <IconButton label="Copy address" disabled>
        <Copy aria-hidden size={18} />
      </IconButton>
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
    <Specimen title="Dialog, confirm">
      <Dialog title="Errors in the program" trigger={<Button>Program errors</Button>} description="Nothing failed.">
        <p>The last ten would be listed here.</p>
      </Dialog>
      <Confirm
        title="Remove Finish camera?"
        act="Remove device"
        trigger={<Button>Remove device</Button>}
        onAct={() => tellDone('Removed.', 'kit')}
      >
        Four controls use it. They stay, and say that their device is gone.
      </Confirm>
    </Specimen>
    <Specimen title="Notices">
      <Button onClick={() => tellDone('Saved.', 'kit done')}>Something was done</Button>
      <Button onClick={() => tellRefused('Not saved: the tag SW1 is taken. Choose another.', 'kit refused')}>
        Something was refused
      </Button>
    </Specimen>
  </Specimens>
);
