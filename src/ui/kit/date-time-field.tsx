'use client';

import { format, isValid, parse } from 'date-fns';
import { CalendarClock, ChevronLeft, ChevronRight } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { DayPicker } from 'react-day-picker';
import { Button } from './button';
import { CommitInput } from './commit-input';
import { Field, type FieldProps } from './field';
import { listFieldClass } from './labelled';
import { PopoverPanel } from './popover-panel';

type Props = FieldProps & {
  /** A moment of this computer's clock as `2026-05-17T10:00` or `2026-05-17T10:00:00`; undefined while there is none. */
  readonly value: string | undefined;
  readonly onChange: (value: string | undefined) => void;
  /** Whether seconds count. */
  readonly withSeconds?: boolean;
  readonly placeholder?: string;
};

const dayFormat = 'yyyy-MM-dd';

/** A date with a time: the day from a calendar in the reader's locale, the time typed. */
export function DateTimeField({ value, onChange, withSeconds = false, placeholder = 'not set', ...field }: Props) {
  const timeFormat = withSeconds ? 'HH:mm:ss' : 'HH:mm';
  const stored = `${dayFormat}'T'${timeFormat}`;
  const now = value === undefined ? undefined : new Date(value);
  const at = now && isValid(now) ? now : undefined;
  const [isOpen, setIsOpen] = useState(false);
  const pickDay = (day: Date) =>
    onChange(`${format(day, dayFormat)}T${format(at ?? new Date(0, 0, 1, 10), timeFormat)}`);
  const pickTime = (text: string) => {
    const time = parse(text.length === 5 ? `${text}:00` : text, 'HH:mm:ss', at ?? new Date());
    if (isValid(time)) onChange(format(time, stored));
  };
  return (
    <Field {...field}>
      {(ids) => (
        <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
          <Popover.Trigger className={listFieldClass} {...ids} type="button">
            <span className={at ? '' : 'text-ink-soft'}>
              {at
                ? at.toLocaleString(undefined, { dateStyle: 'medium', timeStyle: withSeconds ? 'medium' : 'short' })
                : placeholder}
            </span>
            <CalendarClock aria-hidden className="size-4 shrink-0 text-ink-soft" />
          </Popover.Trigger>
          <PopoverPanel label={field.label} className="grid w-fit gap-3 p-3">
            <DayPicker
              mode="single"
              required={false}
              weekStartsOn={firstWeekday()}
              selected={at}
              defaultMonth={at ?? new Date()}
              onSelect={(day) => day && pickDay(day)}
              showOutsideDays
              formatters={{
                formatCaption: (month) => month.toLocaleDateString(undefined, { month: 'long', year: 'numeric' }),
                formatWeekdayName: (day) => day.toLocaleDateString(undefined, { weekday: 'short' }),
              }}
              components={{
                Chevron: ({ orientation }) =>
                  orientation === 'left' ? (
                    <ChevronLeft size={18} aria-hidden />
                  ) : (
                    <ChevronRight size={18} aria-hidden />
                  ),
              }}
              classNames={calendarClass}
            />
            <label className="flex items-center gap-2 text-ink-soft">
              Time
              <CommitInput
                type="time"
                step={withSeconds ? 1 : 60}
                value={at ? format(at, timeFormat) : ''}
                onCommit={pickTime}
              />
            </label>
            <span className="flex gap-2">
              <Button onClick={() => onChange(format(new Date(), stored))}>Now</Button>
              <Button onClick={() => onChange(undefined)} disabled={value === undefined}>
                Clear
              </Button>
            </span>
          </PopoverPanel>
        </Popover.Root>
      )}
    </Field>
  );
}

const calendarClass = {
  root: 'relative',
  month_caption: 'flex min-h-9 items-center font-semibold',
  nav: 'absolute top-0 right-0 flex',
  button_previous: 'grid size-9 place-items-center hover:bg-tape',
  button_next: 'grid size-9 place-items-center hover:bg-tape',
  weekday: 'w-9 py-1 text-[13px] font-normal text-ink-soft',
  day: 'p-0 text-center',
  day_button: 'size-9 hover:bg-tape',
  outside: 'text-ink-soft',
  today: 'font-bold underline underline-offset-4',
  selected: 'bg-accent text-accent-ink [&_button:hover]:text-ink',
};

/** The day a week begins with where the reader is: 0 for Sunday. */
function firstWeekday(): 0 | 1 | 2 | 3 | 4 | 5 | 6 {
  const locale: Intl.Locale & { getWeekInfo?: () => { firstDay: number } } = new Intl.Locale(navigator.language);
  return ((locale.getWeekInfo?.().firstDay ?? 1) % 7) as 0 | 1 | 2 | 3 | 4 | 5 | 6;
}
