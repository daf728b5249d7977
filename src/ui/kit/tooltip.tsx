'use client';

import { Tooltip as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

/** A few words about a thing while it is pointed at or has the focus. It says nothing that cannot be found otherwise: touch has no pointer. */
export const Tooltip = ({ text, children }: { readonly text: ReactNode; readonly children: ReactNode }) => (
  <Radix.Provider delayDuration={400}>
    <Radix.Root>
      <Radix.Trigger asChild>{children}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-w-80 border border-rule-strong bg-raised px-2 py-1 text-[13px] text-ink"
        >
          {text}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  </Radix.Provider>
);
