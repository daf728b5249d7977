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
        className="z-50 min-w-48 border border-rule-strong bg-ground py-1 text-ink"
      >
        {acts.map(({ title, run, disabled = false }) => (
          <DropdownMenu.Item
            key={title}
            disabled={disabled}
            onSelect={run}
            className="flex min-h-9 cursor-default items-center border-l-3 border-transparent px-3 py-1 outline-none! data-disabled:text-ink-soft data-highlighted:border-accent data-highlighted:bg-raised"
          >
            {title}
          </DropdownMenu.Item>
        ))}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
);
