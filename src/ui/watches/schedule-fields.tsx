'use client';

import { scheduleClockOf } from '../../core/check';
import type { DeskView, Schedule, WatchWhen } from '../../core/show';
import { nextTime } from '../../core/watch';
import { Checkbox, Field, NumberField, optionsFrom, Select, TextField } from '../kit';
import { useNow } from '../live';

type Timed = Extract<WatchWhen, { is: 'time' }>;

interface Props {
  readonly show: DeskView;
  readonly when: Timed;
  readonly onWhen: (to: WatchWhen) => void;
}

const kindTitles: Readonly<Record<Schedule['is'], string>> = {
  daily: 'each day, or on some days',
  once: 'once',
  show: 'around the start of the show',
  every: 'at intervals',
  cron: 'a cron expression',
};

/** A time: of day, around the start of the show, again and again, or as a cron expression; with the next ones. */
export function ScheduleFields({ show, when, onWhen }: Props) {
  const { schedule, lateS } = when;
  const now = useNow();
  const put = (to: Schedule) => onWhen({ ...when, schedule: to });
  return (
    <>
      <Select
        label="At"
        value={schedule.is}
        options={optionsFrom(kindTitles)}
        onChoose={(is) => is !== schedule.is && put(startOf(is, now))}
      />
      <Inside schedule={schedule} onSchedule={put} />
      <NextTimes show={show} schedule={schedule} now={now} />
      <Checkbox
        label="Catch up if the program was not running"
        checked={lateS !== undefined}
        onChange={(on) => onWhen({ is: 'time', schedule, ...(on ? { lateS: 60 } : {}) })}
      />
      {lateS !== undefined && (
        <NumberField
          label="If missed by at most"
          unit="s"
          min={1}
          max={86_400}
          value={lateS}
          onCommit={(late) => onWhen({ is: 'time', schedule, lateS: Math.round(late) })}
        />
      )}
    </>
  );
}

function startOf(is: Schedule['is'], now: number): Schedule {
  switch (is) {
    case 'daily':
      return { is, time: '12:00' };
    case 'once':
      return { is, date: new Date(now).toLocaleDateString('en-CA'), time: '12:00' };
    case 'show':
      return { is, offset: 0 };
    case 'every':
      return { is, minutes: 10, from: '09:00', to: '18:00' };
    case 'cron':
      return { is, cron: '0 12 * * 1-5' };
  }
}

interface InsideProps<S extends Schedule = Schedule> {
  readonly schedule: S;
  readonly onSchedule: (to: Schedule) => void;
}

function Inside({ schedule, onSchedule }: InsideProps) {
  switch (schedule.is) {
    case 'daily':
      return (
        <>
          <TimeField label="Time" value={schedule.time} onTime={(time) => onSchedule({ ...schedule, time })} />
          <Days days={schedule.days} onDays={(days) => onSchedule(withDays(schedule, days))} />
        </>
      );
    case 'once':
      return (
        <div className="grid grid-cols-2 items-start gap-3">
          <Field label="Date">
            {(ids) => (
              <input
                {...ids}
                type="date"
                required
                value={schedule.date}
                onChange={({ target }) =>
                  /^\d{4}-\d{2}-\d{2}$/.test(target.value) && onSchedule({ ...schedule, date: target.value })
                }
              />
            )}
          </Field>
          <TimeField label="Time" value={schedule.time} onTime={(time) => onSchedule({ ...schedule, time })} />
        </div>
      );
    case 'show':
      return (
        <NumberField
          label="Seconds after the start"
          help="Negative: before it. The start is set on the screen Show and network."
          unit="s"
          min={-86_400}
          max={86_400}
          value={schedule.offset}
          onCommit={(offset) => onSchedule({ ...schedule, offset: Math.round(offset) })}
        />
      );
    case 'every':
      return (
        <>
          <div className="grid grid-cols-3 gap-3">
            <NumberField
              label="Every"
              unit="min"
              min={1}
              max={720}
              value={schedule.minutes}
              onCommit={(minutes) => onSchedule({ ...schedule, minutes: Math.round(minutes) })}
            />
            <TimeField label="From" value={schedule.from} onTime={(from) => onSchedule({ ...schedule, from })} />
            <TimeField label="To" value={schedule.to} onTime={(to) => onSchedule({ ...schedule, to })} />
          </div>
          <Days days={schedule.days} onDays={(days) => onSchedule(withDays(schedule, days))} />
        </>
      );
    case 'cron':
      return (
        <TextField
          label="Cron expression"
          help="Minute, hour, day, month, day of the week; six fields begin with seconds."
          isMono
          value={schedule.cron}
          maxLength={120}
          onCommit={(cron) => cron.trim() !== '' && onSchedule({ ...schedule, cron: cron.trim() })}
        />
      );
  }
}

interface TimeProps {
  readonly label: string;
  readonly value: string;
  readonly onTime: (to: string) => void;
}

/** A time of day, with seconds where they are wanted. */
const TimeField = ({ label, value, onTime }: TimeProps) => (
  <Field label={label}>
    {(ids) => (
      <input
        {...ids}
        type="time"
        step={1}
        required
        value={value}
        onChange={({ target }) => /^\d\d:\d\d(:\d\d)?$/.test(target.value) && onTime(target.value)}
      />
    )}
  </Field>
);

const dayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const everyDay = [1, 2, 3, 4, 5, 6, 7];

interface DaysProps {
  readonly days: readonly number[] | undefined;
  readonly onDays: (to: readonly number[]) => void;
}

/** The days of the week; one at least. */
function Days({ days = everyDay, onDays }: DaysProps) {
  return (
    <div role="group" aria-label="Days" className="flex flex-wrap gap-1">
      {dayNames.map((name, n) => {
        const day = n + 1;
        const isOn = days.includes(day);
        return (
          <button
            key={name}
            type="button"
            aria-pressed={isOn}
            aria-label={name}
            disabled={isOn && days.length === 1}
            className="min-h-9 min-w-11 border border-rule-strong px-2 text-ink-soft aria-pressed:border-accent aria-pressed:bg-tape aria-pressed:font-semibold aria-pressed:text-ink"
            onClick={() => onDays(isOn ? days.filter((each) => each !== day) : [...days, day].sort((a, b) => a - b))}
          >
            {name.slice(0, 3)}
          </button>
        );
      })}
    </div>
  );
}

function withDays<S extends Extract<Schedule, { is: 'daily' | 'every' }>>(schedule: S, to: readonly number[]): S {
  const { days: _, ...rest } = schedule;
  return (to.length === 7 ? rest : { ...rest, days: [...to] }) as S;
}

/** When it would be, the next three times: what a schedule means is seen there. */
function NextTimes({
  show,
  schedule,
  now,
}: {
  readonly show: DeskView;
  readonly schedule: Schedule;
  readonly now: number;
}) {
  const clock = scheduleClockOf(show.records);
  const times: number[] = [];
  for (let after = now; times.length < 3;) {
    const next = now === 0 ? undefined : nextTime(schedule, after, clock);
    if (next === undefined) break;
    times.push(next);
    after = next;
  }
  if (times.length === 0) return now === 0 ? null : <p className="text-[14px] text-ink-soft">No more times.</p>;
  const zone = clock.zone === undefined ? {} : { timeZone: clock.zone };
  const text = (at: number) => new Date(at).toLocaleString(undefined, { weekday: 'short', ...dateParts, ...zone });
  return <p className="text-[14px] text-ink-soft">Next: {times.map(text).join(' · ')}</p>;
}

const dateParts = {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
  second: '2-digit',
  hourCycle: 'h23',
} as const;
