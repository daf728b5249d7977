'use client';

import { Progress as Radix } from 'radix-ui';

interface Props {
  readonly label: string;
  /** From 0 to 1; undefined while it is not known. */
  readonly part: number | undefined;
  readonly className?: string;
}

/** How far long work has come. */
export const Progress = ({ label, part, className = '' }: Props) => (
  <Radix.Root
    aria-label={label}
    value={part === undefined ? null : Math.round(part * 100)}
    className={`block h-2 w-[min(420px,60%)] overflow-hidden bg-rule ${className}`}
  >
    <Radix.Indicator
      className="block h-full origin-left bg-accent transition-transform data-[state=indeterminate]:animate-pulse"
      style={{ transform: `scaleX(${part ?? 1})` }}
    />
  </Radix.Root>
);
