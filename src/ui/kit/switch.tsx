'use client';

import { Switch as Radix } from 'radix-ui';
import { useId } from 'react';
import type { ToggleProps } from './checkbox';

/** On or off, in force at once. */
export function Switch({ label, checked, onChange, disabled = false, title, className = '' }: ToggleProps) {
  const id = useId();
  return (
    <span className={`inline-flex items-center gap-2 ${className}`} title={title}>
      <Radix.Root
        id={id}
        checked={checked}
        disabled={disabled}
        onCheckedChange={onChange}
        className="h-5 w-9 shrink-0 border border-rule-strong bg-tape disabled:opacity-50 data-[state=checked]:border-accent data-[state=checked]:bg-accent"
      >
        <Radix.Thumb className="block size-3.5 translate-x-0.5 bg-ink-soft transition-transform data-[state=checked]:translate-x-4.5 data-[state=checked]:bg-accent-ink" />
      </Radix.Root>
      <label htmlFor={id} className="text-ink-soft">
        {label}
      </label>
    </span>
  );
}
