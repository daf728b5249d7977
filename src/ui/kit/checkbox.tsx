import type { ReactNode } from 'react';

/** What a checkbox and a switch have in common. */
export interface ToggleProps {
  readonly label: ReactNode;
  readonly checked: boolean;
  readonly onChange: (checked: boolean) => void;
  readonly disabled?: boolean;
  readonly title?: string;
  readonly className?: string;
}

/** One of several things that can be chosen together, or a part of a form. */
export const Checkbox = ({ label, checked, onChange, disabled = false, title, className = '' }: ToggleProps) => (
  <label className={`inline-flex flex-row! items-center gap-2! text-ink-soft ${className}`} title={title}>
    <input type="checkbox" checked={checked} disabled={disabled} onChange={(event) => onChange(event.target.checked)} />
    {label}
  </label>
);
