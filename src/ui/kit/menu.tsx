'use client';

import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

interface MenuAct {
  readonly title: string;
  readonly run: () => void;
  readonly disabled?: boolean;
}

interface Props {
  /** The button that opens it. */
  readonly children: ReactNode;
  readonly acts: readonly MenuAct[];
}

/** A button that opens a list of what can be done. */
export const Menu = ({ children, acts }: Props) => (
  <DropdownMenu.Root modal={false}>
    <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
    <DropdownMenu.Portal>
      <DropdownMenu.Content
        align="end"
        sideOffset={4}
        collisionPadding={8}
        className="border-rule-strong bg-ground text-ink z-50 min-w-48 border py-1"
      >
        {acts.map(({ title, run, disabled = false }) => (
          <DropdownMenu.Item
            key={title}
            disabled={disabled}
            onSelect={run}
            className="data-highlighted:border-accent data-highlighted:bg-raised data-disabled:text-ink-soft flex min-h-9 cursor-default items-center border-l-3 border-transparent px-3 py-1 outline-none!"
          >
            {title}
          </DropdownMenu.Item>
        ))}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
);
