import { readingText, type DriverDocument } from '../driver';
import { conditionText } from '../page';
import type { Schedule, WatchData } from '../show';

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly tagOf: (device: string) => string | undefined;
}

const dayWords = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** What a watch waits for, in words: “SW1 Program input is 3”, “each day at 14:05”. */
export function whenText({ when }: Pick<WatchData, 'when'>, sources: Sources): string {
  switch (when.is) {
    case 'true': {
      const text = conditionText(when.condition, {}, sources);
      return when.forMs === 0 ? text : `${text} for ${when.forMs / 1000} s`;
    }
    case 'change': {
      const { device, key } = when.reading;
      const { name, shown } = readingText(sources.documentOf(device), key, when.to);
      return `${sources.tagOf(device) ?? '?'} ${name} ${when.to === undefined ? 'changes' : `changes to ${shown}`}`;
    }
    case 'key': {
      const key = `${sources.tagOf(when.switcher) ?? '?'} key ${when.key}`;
      const input = when.input === undefined ? '' : ` with input ${when.input}`;
      return `${key} goes on${input}${when.preRoll === 0 ? '' : `, ${framesText(when.preRoll)} before`}`;
    }
    case 'message':
      return when.pattern ? `a message like ${when.text}` : `“${when.text}” comes in`;
    case 'time':
      return scheduleText(when.schedule);
  }
}

/** “Mon, Wed at 14:05”, “every 20 minutes from 10:00 to 16:00”. */
function scheduleText(schedule: Schedule): string {
  switch (schedule.is) {
    case 'daily':
      return `${daysText(schedule.days)} at ${schedule.time}`;
    case 'once':
      return `once, on ${schedule.date} at ${schedule.time}`;
    case 'show': {
      const { offset } = schedule;
      if (offset === 0) return 'at the start of the show';
      return `${spanText(Math.abs(offset))} ${offset < 0 ? 'before' : 'after'} the start of the show`;
    }
    case 'every': {
      const often = schedule.minutes === 1 ? 'every minute' : `every ${schedule.minutes} minutes`;
      const days = schedule.days ? `${daysText(schedule.days)} ` : '';
      return `${days}${often} from ${schedule.from} to ${schedule.to}`;
    }
    case 'cron':
      return `cron ${schedule.cron}`;
  }
}

export const framesText = (frames: number): string => (frames === 1 ? '1 frame' : `${frames} frames`);

const daysText = (days: readonly number[] | undefined): string =>
  days === undefined || days.length === 7
    ? 'each day'
    : [...days]
        .sort((a, b) => a - b)
        .map((day) => dayWords[day - 1] ?? '?')
        .join(', ');

function spanText(seconds: number): string {
  const parts = [
    [Math.floor(seconds / 3600), 'h'],
    [Math.floor((seconds % 3600) / 60), 'min'],
    [seconds % 60, 's'],
  ] as const;
  return parts
    .filter(([count]) => count > 0)
    .map(([count, unit]) => `${count} ${unit}`)
    .join(' ');
}
