'use client';

import { ToggleGroup } from 'radix-ui';

interface Props<Value extends string> {
  readonly label: string;
  readonly options: readonly { readonly value: Value; readonly title: string }[];
  readonly value: Value;
  readonly onChoose: (value: Value) => void;
  readonly disabled?: boolean;
  readonly className?: string;
}

/** One of a few that are all in sight; arrow keys go from one to the next. */
export const Segmented = <Value extends string>({
  label,
  options,
  value,
  onChoose,
  disabled = false,
  className = '',
}: Props<Value>) => (
  <ToggleGroup.Root
    type="single"
    aria-label={label}
    disabled={disabled}
    value={value}
    // Empty when the chosen one is clicked again: one is always chosen.
    onValueChange={(to) => to !== '' && onChoose(to as Value)}
    className={`inline-flex shrink-0 ${className}`}
  >
    {options.map((option) => (
      <ToggleGroup.Item
        key={option.value}
        value={option.value}
        className="min-h-9 border border-rule-strong px-3.5 not-first:border-l-0 hover:bg-tape disabled:text-ink-soft data-[state=on]:bg-accent data-[state=on]:font-semibold data-[state=on]:text-accent-ink"
      >
        {option.title}
      </ToggleGroup.Item>
    ))}
  </ToggleGroup.Root>
);
