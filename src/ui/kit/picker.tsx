'use client';

import { Command } from 'cmdk';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useId, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { WordSearch, type PickEntry, type PickMatch } from '../../core/pick';
import { Labelled, listFieldClass, type LabelAt } from './labelled';
import { PopoverPanel } from './popover-panel';
import { rememberUsed, usedLast } from './used-last';

/** The most rows that are drawn. Typing more narrows the list. */
const mostRows = 60;
const mostUsed = 4;

interface Props<Entry extends PickEntry> {
  /** The name of the field, above it. */
  readonly label: string;
  /** What is said beside the label. */
  readonly remark?: ReactNode;
  readonly labelAt?: LabelAt;
  readonly className?: string;
  /** What there is to pick. It is asked for when the list opens: a closed field costs nothing. */
  readonly entries: () => readonly Entry[];
  /** The id of what is picked now, if anything is. */
  readonly value: string | undefined;
  /** The content of the field. */
  readonly shown: ReactNode;
  /** The browser remembers the entries used last under this name, and lists them first. */
  readonly memory: string;
  readonly onPick: (entry: Entry, values: PickMatch<Entry>['values']) => void;
  /** Picks nothing; where it is left out, something has to be picked. */
  readonly onNone?: { readonly title: string; readonly pick: () => void };
  /** The content of a row, between its tag and its present value. */
  readonly row?: (match: PickMatch<Entry>) => ReactNode;
  /** The end of a row. */
  readonly aside?: (entry: Entry) => ReactNode;
  readonly placeholder?: string;
  readonly disabled?: boolean;
  /** The stored value no longer exists. */
  readonly invalid?: boolean;
}

/** Picks one of many by words in any order. Typing on the closed field opens the list; arrows, Enter and Escape work as in any list. */
export function Picker<Entry extends PickEntry>(props: Props<Entry>) {
  const { label, remark, labelAt = 'above', className, shown, disabled, invalid } = props;
  const id = useId();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const change = (to: boolean) => {
    setOpen(to);
    if (to) setTyped('');
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') {
      event.preventDefault();
      return change(true);
    }
    // A letter is the first of what is looked for; the space bar presses the button.
    if (event.key.length !== 1 || event.key === ' ' || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    // The next letter may come before the field in the list has the focus.
    setTyped((before) => (open ? before + event.key : event.key));
    setOpen(true);
  };
  const onOpenAutoFocus = (event: Event) => {
    const field = (event.currentTarget as HTMLElement | null)?.querySelector('input');
    if (!field) return;
    // Not with its text chosen: what was typed to open the list is the beginning of the word.
    event.preventDefault();
    field.focus();
    field.setSelectionRange(field.value.length, field.value.length);
  };
  return (
    <Labelled id={id} label={label} remark={remark} at={labelAt} className={className}>
      <Popover.Root open={open} onOpenChange={change}>
        <Popover.Trigger asChild>
          <button
            type="button"
            role="combobox"
            aria-expanded={open}
            aria-haspopup="dialog"
            aria-labelledby={id}
            aria-invalid={invalid}
            disabled={disabled}
            onKeyDown={onKeyDown}
            className={listFieldClass}
          >
            <span className="min-w-0 break-words">{shown}</span>
            <ChevronDown aria-hidden className="size-4 shrink-0 text-ink-soft" />
          </button>
        </Popover.Trigger>
        <PopoverPanel label={label} onOpenAutoFocus={onOpenAutoFocus}>
          <Choices {...props} typed={typed} onTyped={setTyped} onClose={() => setOpen(false)} />
        </PopoverPanel>
      </Popover.Root>
    </Labelled>
  );
}

type ChoicesProps<Entry extends PickEntry> = Props<Entry> & {
  readonly typed: string;
  readonly onTyped: (text: string) => void;
  readonly onClose: () => void;
};

/** The open list. It is made when the picker opens, so that a closed one costs nothing. */
function Choices<Entry extends PickEntry>({
  label,
  entries,
  value,
  memory,
  onPick,
  onNone,
  row,
  aside,
  placeholder = 'Search by any words',
  typed,
  onTyped,
  onClose,
}: ChoicesProps<Entry>) {
  // Made when the list opens: readings that change meanwhile would have it made anew four times a second.
  const [all] = useState(entries);
  const [search] = useState(() => new WordSearch(all));
  const [used] = useState(() => usedLast(memory));
  const found = useMemo(() => search.find(typed, used), [search, typed, used]);
  const list = useRef<HTMLDivElement>(null);
  const last =
    typed === '' ? used.slice(0, mostUsed).flatMap((id) => found.find(({ entry }) => entry.id === id) ?? []) : [];
  const rows = found.slice(0, mostRows);
  const pick = (match: PickMatch<Entry>) => {
    rememberUsed(memory, match.entry.id);
    onClose();
    onPick(match.entry, match.values);
  };
  const item = (match: PickMatch<Entry>, prefix = '') => (
    <Command.Item
      key={prefix + match.entry.id}
      value={prefix + match.entry.id}
      onSelect={() => pick(match)}
      aria-current={match.entry.id === value || undefined}
      className="grid cursor-default grid-cols-[52px_1fr_auto] items-baseline gap-x-2 border-l-3 border-transparent px-3 py-1.5 data-[selected=true]:border-accent data-[selected=true]:bg-raised"
    >
      <span className="font-mono text-[0.93em] font-semibold">{match.entry.tag}</span>
      <span className="min-w-0">{row ? row(match) : match.entry.title}</span>
      <span className="max-w-40 truncate text-[13px] text-ink-soft">{aside?.(match.entry)}</span>
    </Command.Item>
  );
  const groups = groupsOf(typed === '' ? rows : []);
  return (
    <Command label={`Search: ${label}`} shouldFilter={false} className="flex max-h-[min(480px,70vh)] flex-col">
      <div className="flex items-baseline gap-3 border-b-2 border-accent px-3">
        <Command.Input
          value={typed}
          placeholder={placeholder}
          onValueChange={(text) => {
            onTyped(text);
            list.current?.scrollTo(0, 0);
          }}
          className="min-h-11 min-w-0 flex-1 bg-transparent text-ink outline-none! placeholder:text-ink-soft"
        />
        <span className="text-[13px] whitespace-nowrap text-ink-soft" aria-live="polite">
          {found.length} of {all.length}
        </span>
      </div>
      <Command.List ref={list} className="min-h-0 overflow-y-auto py-1">
        <Command.Empty className="px-3 py-2 text-ink-soft">
          Nothing matches “{typed}”. Try fewer words, or only the beginning of one.
        </Command.Empty>
        {last.length > 0 && (
          <Command.Group heading="Used last" className={groupClass}>
            {last.map((match) => item(match, 'last '))}
          </Command.Group>
        )}
        {onNone && typed === '' && (
          <Command.Item
            value="none"
            onSelect={() => {
              onClose();
              onNone.pick();
            }}
            className="border-l-3 border-transparent px-3 py-1.5 data-[selected=true]:border-accent data-[selected=true]:bg-raised"
          >
            {onNone.title}
          </Command.Item>
        )}
        {typed === ''
          ? groups.map(([heading, own]) => (
              <Command.Group key={heading} heading={heading} className={groupClass}>
                {own.map((match) => item(match))}
              </Command.Group>
            ))
          : rows.map((match) => item(match))}
        {found.length > mostRows && (
          <p className="px-3 py-1.5 text-[13px] text-ink-soft">
            {found.length - mostRows} more. Type another word to find them.
          </p>
        )}
      </Command.List>
    </Command>
  );
}

const groupClass =
  'border-rule border-b last:border-b-0 [&_[cmdk-group-heading]]:text-ink-soft [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-[13px]';

/** Rows under the headings of their groups, in their order. */
function groupsOf<Entry extends PickEntry>(rows: readonly PickMatch<Entry>[]): [string, PickMatch<Entry>[]][] {
  const groups = new Map<string, PickMatch<Entry>[]>();
  for (const match of rows) {
    const { tag, group = '' } = match.entry;
    const heading = [tag, group].filter(Boolean).join(' ');
    const own = groups.get(heading);
    if (own) own.push(match);
    else groups.set(heading, [match]);
  }
  return [...groups];
}
