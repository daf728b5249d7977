'use client';

import { asRunKinds, type AsRunFilter } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { useScreens, useStatus } from '../live';
import { format } from 'date-fns';
import { Checkbox, DateTimeField, optionsFrom, Select } from '../kit';

interface Props {
  readonly filter: AsRunFilter;
  readonly onChange: (to: AsRunFilter) => void;
  readonly byTime: boolean;
}

const clockOf = (at: number | undefined) => (at === undefined ? undefined : format(at, "yyyy-MM-dd'T'HH:mm:ss"));
const sides = [
  ['from', 'From', 'the beginning'],
  ['to', 'To', 'now'],
] as const;
const outcomes = ['confirmed', 'sent', 'late', 'refused', 'lost', 'skipped'];

/** The filter of the record: text, kind, device, screen, control, outcome and time. */
export function AsRunFilters({ filter, onChange, byTime }: Props) {
  const status = useStatus();
  const screens = useScreens();
  const tags = Object.values(status?.devices ?? {})
    .map(({ tag }) => tag)
    .sort(inNumberOrder);
  const set = (part: Partial<AsRunFilter>) => onChange({ ...filter, ...part });
  const time = (side: 'from' | 'to', text: string | undefined) =>
    set({ [side]: text === undefined ? undefined : new Date(text).getTime() });
  return (
    <div
      className="flex flex-wrap items-end gap-x-3.5 gap-y-1.5 pb-2.5 [&_input:not([type=checkbox])]:w-35 [&_label:not(:has([type=checkbox]))]:grid [&_label:not(:has([type=checkbox]))]:gap-1 [&_label:not(:has([type=checkbox]))]:text-[14px] [&_label:not(:has([type=checkbox]))]:text-ink-soft"
      role="search"
      aria-label="Filter the record"
    >
      <label>
        Filter
        <input
          value={filter.text ?? ''}
          maxLength={120}
          placeholder="any word"
          onChange={(event) => set({ text: event.target.value || undefined })}
        />
      </label>
      <Select label="Show" value={filter.kind} options={optionsFrom(asRunKinds)} onChoose={(kind) => set({ kind })} />
      <Select
        label="Device"
        value={filter.device ?? ''}
        options={[{ value: '', title: 'any' }, ...tags.map((tag) => ({ value: tag, title: tag }))]}
        onChoose={(device) => set({ device: device || undefined })}
      />
      <label>
        By
        <input
          value={filter.who ?? ''}
          maxLength={60}
          list="as-run-screens"
          placeholder="panel or desk"
          onChange={(event) => set({ who: event.target.value || undefined })}
        />
        <datalist id="as-run-screens">
          {Object.keys(screens ?? {}).map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      </label>
      <label>
        Control
        <input
          value={filter.control ?? ''}
          maxLength={120}
          placeholder="its label"
          onChange={(event) => set({ control: event.target.value || undefined })}
        />
      </label>
      <Select
        label="Outcome"
        value={filter.outcome ?? ''}
        options={[{ value: '', title: 'any' }, ...outcomes.map((outcome) => ({ value: outcome, title: outcome }))]}
        onChoose={(outcome) => set({ outcome: outcome || undefined })}
      />
      {byTime &&
        sides.map(([side, label, placeholder]) => (
          <DateTimeField
            key={side}
            label={label}
            withSeconds
            placeholder={placeholder}
            className="w-56"
            value={clockOf(filter[side])}
            onChange={(text) => time(side, text)}
          />
        ))}
      <Checkbox
        label="Trouble only"
        checked={filter.trouble ?? false}
        onChange={(checked) => set({ trouble: checked || undefined })}
        className="min-h-9"
      />
    </div>
  );
}
