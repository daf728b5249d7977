import type { ReactNode } from 'react';

interface Props {
  /** What is missing, in one sentence. */
  readonly title: string;
  /** What to do first. */
  readonly children?: ReactNode;
  readonly acts?: ReactNode;
}

/** What a screen shows while there is nothing on it: what to do first. */
export const EmptyState = ({ title, children, acts }: Props) => (
  <div className="grid max-w-[70ch] justify-items-start gap-2.5 py-4">
    <p className="font-semibold">{title}</p>
    {children && <div className="text-ink-soft">{children}</div>}
    {acts && <div className="flex flex-wrap gap-2.5">{acts}</div>}
  </div>
);
