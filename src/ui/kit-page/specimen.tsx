import type { ReactNode } from 'react';

/** Parts of one kind, under a heading. */
export const Specimens = ({ title, children }: { readonly title: string; readonly children: ReactNode }) => (
  <section aria-label={title} className="grid gap-3">
    <h2 className="border-b border-rule-strong pb-1 text-[17px] font-semibold">{title}</h2>
    <div className="grid items-start gap-x-6 gap-y-4 sm:grid-cols-2 lg:grid-cols-3">{children}</div>
  </section>
);

/** One part in one state, with what it is. */
export const Specimen = ({ title, children }: { readonly title: string; readonly children: ReactNode }) => (
  <div className="grid gap-1.5">
    <h3 className="text-[13px] text-ink-soft">{title}</h3>
    <div className="flex flex-wrap items-start gap-2">{children}</div>
  </div>
);
