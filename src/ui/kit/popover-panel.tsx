'use client';

import { Popover } from 'radix-ui';
import type { ComponentProps, ReactNode } from 'react';

interface Props extends Pick<ComponentProps<typeof Popover.Content>, 'onOpenAutoFocus' | 'className'> {
  /** The accessible name of the panel. */
  readonly label: string;
  readonly children: ReactNode;
}

/** The panel of an open popover, below its trigger and always inside the window. */
export const PopoverPanel = ({ label, className = '', onOpenAutoFocus, children }: Props) => (
  <Popover.Portal>
    <Popover.Content
      align="start"
      sideOffset={4}
      collisionPadding={8}
      aria-label={label}
      onOpenAutoFocus={onOpenAutoFocus}
      className={`z-50 w-[min(540px,calc(100vw-16px))] border border-rule-strong bg-ground text-ink ${className}`}
    >
      {children}
    </Popover.Content>
  </Popover.Portal>
);
