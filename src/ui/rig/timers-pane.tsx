'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import { clockText } from '../../core/face';
import { changeDevicesEdit, type DeviceRecord } from '../../core/show';
import {
  mostTimers,
  readLength,
  withoutTimer,
  withTimer,
  withTimerChanged,
  withTimerPlaced,
  type TimerEntry,
} from '../../core/timers';
import { useDesk } from '../desk';
import { Button, CommitInput, EmptyState, IconButton, SortableList, type SortablePart } from '../kit';
import { useReadings } from '../live';

/** The timers that this program keeps for a device: their list, in its order. */
export function TimersPane({ device }: { readonly device: DeviceRecord }) {
  const desk = useDesk();
  const place = useReadings(device.id)?.place?.value;
  const list = device.data.timers ?? [];
  const save = (title: string, timers: readonly TimerEntry[]) =>
    void desk.edit(changeDevicesEdit([device], title, (data) => ({ ...data, timers: [...timers] })));
  const { tag } = device.data;
  return (
    <section aria-label={`Timers of ${tag}`} className="grid gap-3 pt-1 pb-4">
      <p className="text-[14px] text-ink-soft">
        Timers start in this order. Changes take effect immediately, even while a timer is running. The warning starts
        when the warning time is left. A timer is over when its grace time has also passed. Full screen:{' '}
        <a href={`/panel/clock/${tag}`} target="_blank" className="underline">
          /panel/clock/{tag}
        </a>
      </p>
      {list.length === 0 && (
        <EmptyState title="No timers yet.">
          <p>Add one for each speaker, race or break. A “Start next” button starts them in turn.</p>
        </EmptyState>
      )}
      <SortableList
        id={`timers-${device.id}`}
        noun="timer"
        items={list}
        onPlace={(id, to) => save('Order of the timers of', withTimerPlaced(list, id, to))}
        render={(timer, part) => (
          <TimerRow
            key={timer.id}
            timer={timer}
            part={part}
            isOn={list[Number(place) - 1]?.id === timer.id}
            onChange={(change) => save('Timer of', withTimerChanged(list, timer.id, change))}
            onRemove={() => save('Remove a timer from', withoutTimer(list, timer.id))}
          />
        )}
      />
      <p>
        <Button
          disabled={list.length >= mostTimers}
          onClick={() => save('Add a timer to', withTimer(list, `Timer ${list.length + 1}`))}
        >
          Add timer
        </Button>
      </p>
    </section>
  );
}

/** Of a timer that was given none. */
const usualColour = '#8a6f4d';

interface RowProps {
  readonly timer: TimerEntry;
  readonly part: SortablePart;
  /** It has begun and not ended. */
  readonly isOn: boolean;
  readonly onChange: (change: Partial<TimerEntry>) => void;
  readonly onRemove: () => void;
}

function TimerRow({ timer, part: { ref, style, isDragging, handle }, isOn, onChange, onRemove }: RowProps) {
  const [wrong, setWrong] = useState<string>();
  const { name } = timer;
  const length = (label: string, key: 'lengthS' | 'warnS' | 'graceS', least: number) => (
    <label className="grid gap-0.5 text-[13px] text-ink-soft">
      {label}
      <CommitInput
        aria-label={`${label} of ${name}`}
        value={clockText(timer[key])}
        maxLength={12}
        className="w-full font-mono"
        onCommit={(text) => {
          const read = readLength(text, least);
          setWrong(typeof read === 'string' ? `${label}: ${read}` : undefined);
          if (typeof read === 'number') onChange({ [key]: read });
        }}
      />
    </label>
  );
  return (
    <li
      ref={ref}
      style={style}
      aria-label={name}
      className={`grid grid-cols-[24px_minmax(0,1fr)] gap-x-1.5 border-b border-rule py-2 ${isDragging ? 'relative z-10 bg-tape' : ''} ${isOn ? 'border-l-3 border-l-accent' : ''}`}
    >
      {handle}
      <div className="grid min-w-0 grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)_44px_auto] items-center gap-1.5">
        <CommitInput
          aria-label={`Name of ${name}`}
          value={name}
          maxLength={80}
          className="min-w-0 font-semibold"
          onCommit={(text) => text.trim() !== '' && onChange({ name: text.trim() })}
        />
        <CommitInput
          aria-label={`Speaker of ${name}`}
          value={timer.speaker}
          maxLength={80}
          placeholder="Speaker"
          className="min-w-0"
          onCommit={(speaker) => onChange({ speaker: speaker.trim() })}
        />
        <input
          type="color"
          aria-label={`Colour of ${name}`}
          key={timer.colour}
          defaultValue={timer.colour ?? usualColour}
          className="h-9 w-full p-0.5"
          onBlur={(event) => {
            const colour = event.target.value;
            if (colour !== (timer.colour ?? usualColour)) onChange({ colour });
          }}
        />
        <IconButton label={`Remove ${name}`} onClick={onRemove}>
          <X aria-hidden size={18} />
        </IconButton>
        <div className="col-span-full grid grid-cols-3 gap-x-3.5">
          {length('Length', 'lengthS', 1)}
          {length('Warning at', 'warnS', 0)}
          {length('Grace', 'graceS', 0)}
        </div>
        {isOn && <p className="col-span-full text-[13px]">Started</p>}
        {wrong !== undefined && (
          <p role="alert" className="col-span-full text-[13px] font-semibold">
            {wrong}
          </p>
        )}
      </div>
    </li>
  );
}
