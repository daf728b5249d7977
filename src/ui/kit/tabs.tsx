'use client';

import { Tabs as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props<Id extends string> {
  readonly label: string;
  readonly tabs: readonly { readonly id: Id; readonly title: string }[];
  readonly value: Id;
  readonly onChange: (id: Id) => void;
  /** What the chosen tab holds. */
  readonly children: ReactNode;
}

/** Several views of one thing, one at a time. */
export const Tabs = <Id extends string>({ label, tabs, value, onChange, children }: Props<Id>) => (
  <Radix.Root value={value} onValueChange={(id) => onChange(id as Id)} className="flex min-h-0 flex-1 flex-col">
    <Radix.List aria-label={label} className="flex flex-wrap gap-x-2.5 border-b border-rule px-4">
      {tabs.map(({ id, title }) => (
        <Radix.Trigger
          key={id}
          value={id}
          className="min-h-9 border-b-3 border-transparent text-[13px] text-ink-soft hover:text-ink data-[state=active]:border-accent data-[state=active]:font-semibold data-[state=active]:text-ink"
        >
          {title}
        </Radix.Trigger>
      ))}
    </Radix.List>
    <Radix.Content value={value} className="min-h-0 flex-1 overflow-auto px-4 py-3 -outline-offset-3!">
      {children}
    </Radix.Content>
  </Radix.Root>
);
