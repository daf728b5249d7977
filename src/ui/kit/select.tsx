'use client';

import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import { Fragment, useId, type ReactNode } from 'react';
import { Labelled, listFieldClass, type LabelAt } from './labelled';
import { Picker } from './picker';

/** The most options that are offered without typing. */
const mostUntyped = 12;

export interface SelectOption<Value extends string = string> {
  readonly value: Value;
  readonly title: string;
  /** Options of one group are listed together under its name. */
  readonly group?: string;
  readonly disabled?: boolean;
}

/** Options from a table of words. */
export const optionsFrom = <Value extends string>(titles: Readonly<Record<Value, string>>): SelectOption<Value>[] =>
  (Object.entries(titles) as [Value, string][]).map(([value, title]) => ({ value, title }));

interface Props<Value extends string> {
  readonly label: string;
  /** What is said beside the label. */
  readonly remark?: ReactNode;
  readonly labelAt?: LabelAt;
  readonly options: readonly SelectOption<Value>[];
  /** What is chosen now. One that is not among the options shows the placeholder. */
  readonly value: Value | undefined;
  readonly onChoose: (value: Value) => void;
  /** Shown in the field while nothing is chosen. */
  readonly placeholder?: string;
  readonly disabled?: boolean;
  readonly autoFocus?: boolean;
  readonly className?: string;
  readonly title?: string;
}

/** One of a few, from a list. With more than twelve options it is searched by typing instead. */
export function Select<Value extends string>(props: Props<Value>) {
  const { options, value, onChoose } = props;
  const chosen = options.findIndex((option) => option.value === value);
  return options.length > mostUntyped ? (
    <Searched {...props} chosen={options[chosen]} />
  ) : (
    <Listed
      {...props}
      chosen={chosen}
      onIndex={(n) => {
        const option = options[n];
        if (option) onChoose(option.value);
      }}
    />
  );
}

function Listed<Value extends string>({
  label,
  remark,
  labelAt = 'above',
  options,
  chosen,
  onIndex,
  placeholder = 'Choose',
  disabled,
  autoFocus,
  className,
  title,
}: Props<Value> & { readonly chosen: number; readonly onIndex: (n: number) => void }) {
  const id = useId();
  return (
    <Labelled id={id} label={label} remark={remark} at={labelAt} className={className}>
      {/* The primitive knows no empty value, so that an option is known by its place. */}
      <Radix.Root
        value={chosen < 0 ? '' : String(chosen)}
        onValueChange={(n) => n !== '' && onIndex(Number(n))}
        {...(disabled === undefined ? {} : { disabled })}
      >
        <Radix.Trigger aria-labelledby={id} autoFocus={autoFocus} title={title} className={listFieldClass}>
          <span className="min-w-0 truncate">
            <Radix.Value placeholder={<span className="text-ink-soft">{placeholder}</span>} />
          </span>
          <Radix.Icon asChild>
            <ChevronDown aria-hidden className="size-4 shrink-0 text-ink-soft" />
          </Radix.Icon>
        </Radix.Trigger>
        <Radix.Portal>
          <Radix.Content
            position="popper"
            sideOffset={4}
            collisionPadding={8}
            className="z-50 max-h-(--radix-select-content-available-height) max-w-[calc(100vw-16px)] min-w-(--radix-select-trigger-width) overflow-y-auto border border-rule-strong bg-ground text-ink"
          >
            <Radix.Viewport>
              {groupsOf(options).map(([group, own]) =>
                group === '' ? (
                  <Fragment key="">{own}</Fragment>
                ) : (
                  <Radix.Group key={group} className="border-t border-rule">
                    <Radix.Label className="px-3 pt-2 pb-1 text-[13px] text-ink-soft">{group}</Radix.Label>
                    {own}
                  </Radix.Group>
                ),
              )}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </Labelled>
  );
}

const Row = ({ n, option: { title, disabled } }: { readonly n: number; readonly option: SelectOption }) => (
  <Radix.Item
    value={String(n)}
    {...(disabled === undefined ? {} : { disabled })}
    className="flex min-h-9 cursor-default items-center gap-3 border-l-3 border-transparent px-3 py-1 outline-none! data-disabled:text-ink-soft data-highlighted:border-accent data-highlighted:bg-raised"
  >
    <Radix.ItemText>{title}</Radix.ItemText>
    <Radix.ItemIndicator className="ml-auto">
      <Check aria-hidden className="size-4" />
    </Radix.ItemIndicator>
  </Radix.Item>
);

/** The rows by their group, in the order in which the groups come first. */
function groupsOf(options: readonly SelectOption[]): [string, ReactNode[]][] {
  const groups = new Map<string, ReactNode[]>();
  options.forEach((option, n) => {
    const { group = '' } = option;
    const own = groups.get(group) ?? [];
    own.push(<Row key={n} n={n} option={option} />);
    groups.set(group, own);
  });
  return [...groups];
}

function Searched<Value extends string>({
  label,
  remark,
  labelAt,
  options,
  value,
  chosen,
  onChoose,
  placeholder = 'Choose',
  disabled,
  className,
}: Props<Value> & { readonly chosen: SelectOption<Value> | undefined }) {
  return (
    <Picker
      label={label}
      remark={remark}
      labelAt={labelAt}
      className={className}
      memory={`choice ${label}`}
      entries={() => options.map((option) => ({ ...option, id: `choice ${option.value}` }))}
      value={value === undefined ? undefined : `choice ${value}`}
      shown={chosen?.title ?? <span className="text-ink-soft">{placeholder}</span>}
      disabled={disabled}
      onPick={(entry) => onChoose(entry.value)}
    />
  );
}
