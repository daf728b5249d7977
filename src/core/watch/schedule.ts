import { Cron } from 'croner';
import { fail, ok, type Result } from '../result';
import type { Schedule } from '../show';

/** In what a schedule counts. */
interface ScheduleClock {
  /** The name of a time zone in the IANA database; that of the computer when absent. */
  readonly zone?: string | undefined;
  /** When the show begins, in local time: `2026-06-14T10:00`. */
  readonly beginsAt?: string | undefined;
}

const minuteMs = 60_000;
const dayMs = 24 * 60 * minuteMs;

/**
 * The next time of a schedule after a moment, both in milliseconds since 1970; `undefined` when there is none any more.
 *
 * Local times follow the zone's summer time. A time that is left out when clocks go forward comes as much later as they are put forward; one that
 * comes twice when they go back is met the first time.
 */
export function nextTime(schedule: Schedule, after: number, clock: ScheduleClock): number | undefined {
  switch (schedule.is) {
    case 'daily':
      return next(cronOf(schedule.time, schedule.days), after, clock.zone);
    case 'once':
      return following(localTime(`${schedule.date}T${whole(schedule.time)}`, clock.zone), after);
    case 'show': {
      if (clock.beginsAt === undefined) return undefined;
      const begins = localTime(`${clock.beginsAt}:00`, clock.zone);
      return following(begins === undefined ? undefined : begins + schedule.offset * 1000, after);
    }
    case 'every':
      return nextOfEvery(schedule, after, clock.zone);
    case 'cron':
      return next(schedule.cron, after, clock.zone);
  }
}

/** What is wrong with a schedule; the time zone is right. */
export function scheduleProblem(schedule: Schedule, { zone, beginsAt }: ScheduleClock): string | undefined {
  if (schedule.is === 'once') {
    const { date } = schedule;
    const [year = 0, month = 0, day = 0] = date.split('-').map(Number);
    const last = [31, isLeap(year) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1] ?? 0;
    if (day < 1 || day > last) return `${date} is not a valid date.`;
  }
  if (schedule.is === 'show' && beginsAt === undefined)
    return 'The show has no start time yet. Set it under Show and network.';
  if (schedule.is === 'every' && whole(schedule.from) >= whole(schedule.to))
    return 'The end must be later in the day than the beginning.';
  if (schedule.is === 'cron') {
    const made = cron(schedule.cron, zone);
    if (!made.ok) return made.error;
    if (schedule.cron.trim().split(/\s+/).length < 5)
      return 'A cron expression has five fields, or six beginning with seconds.';
  }
  return undefined;
}

const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

/** `14:05` with its seconds. */
const whole = (time: string): string => (time.length === 5 ? `${time}:00` : time);

function cronOf(time: string, days: readonly number[] | undefined): string {
  const [hours, minutes, seconds] = whole(time).split(':').map(Number);
  const week = days && days.length < 7 ? days.map((day) => day % 7).join(',') : '*';
  return `${seconds} ${minutes} ${hours} * * ${week}`;
}

/** True for a time zone that this computer knows. */
export function isKnownZone(zone: string): boolean {
  try {
    return Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone !== '';
  } catch {
    // It throws for any name that it does not have.
    return false;
  }
}

function cron(pattern: string, zone: string | undefined): Result<Cron, string> {
  try {
    return ok(new Cron(pattern, { paused: true, ...(zone === undefined ? {} : { timezone: zone }) }));
  } catch (error) {
    return fail(
      `Invalid cron expression: ${error instanceof Error ? error.message.replace(/^CronPattern: /, '') : ''}`,
    );
  }
}

function next(pattern: string, after: number, zone: string | undefined): number | undefined {
  const made = cron(pattern, zone);
  // eslint-disable-next-line no-restricted-globals -- a date made of a given time reads no clock
  return made.ok ? made.value.nextRun(new Date(after))?.getTime() : undefined;
}

/** A local date and time in a zone (`2026-06-14T10:00:00`), in milliseconds since 1970; `undefined` when there is no such date. */
export function localTime(text: string, zone: string | undefined): number | undefined {
  return next(text, 0, zone);
}

const following = (at: number | undefined, after: number): number | undefined =>
  at !== undefined && at > after ? at : undefined;

function nextOfEvery(
  { minutes, from, to, days }: Extract<Schedule, { is: 'every' }>,
  after: number,
  zone: string | undefined,
): number | undefined {
  const pattern = cronOf(from, days);
  const secondsOf = (time: string) =>
    whole(time)
      .split(':')
      .reduce((sum, part) => sum * 60 + Number(part), 0);
  const longMs = (secondsOf(to) - secondsOf(from)) * 1000;
  // The day that is under way began a day before at most, with an hour for the change of summer time.
  let start = next(pattern, after - dayMs - 60 * minuteMs, zone);
  while (start !== undefined) {
    const passed = Math.max(0, Math.floor((after - start) / (minutes * minuteMs)) + 1);
    const due = start + passed * minutes * minuteMs;
    if (due <= start + longMs) return due;
    start = next(pattern, start, zone);
  }
  return undefined;
}
