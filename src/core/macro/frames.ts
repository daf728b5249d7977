import { fail, ok, type Result } from '../result';
import type { FrameRate, ShowRecord } from '../show';

/**
 * Frames and time. A frame rate is a fraction: 29.97 is 30000/1001 frames a second (SMPTE ST 12-1, 5.2). Drop-frame counting leaves out
 * numbers, never frames: the first two of each minute except every tenth (5.2.2), four at 59.94 (ST 12-1, with two frames a pair).
 */
export interface Rate {
  readonly num: number;
  readonly den: number;
  /** Frame numbers a second of timecode. */
  readonly nominal: number;
  /** Numbers left out at the beginning of a minute; 0 when none are. */
  readonly dropped: number;
}

export function rateOf(name: FrameRate): Rate {
  const [digits = '25', drop] = name.split(' ');
  const exact = Number(digits);
  const nominal = Math.round(exact);
  const pulled = exact !== nominal;
  return {
    num: pulled ? nominal * 1000 : nominal,
    den: pulled ? 1001 : 1,
    nominal,
    dropped: drop ? nominal / 15 : 0,
  };
}

/** The time at which a frame begins, in milliseconds. */
export const msOfFrame = (frame: number, { num, den }: Rate): number => (frame * den * 1000) / num;

/** The frame that is shown at a time; a time that is a frame's beginning but for rounding counts as that frame. */
export const frameAt = (ms: number, { num, den }: Rate): number => Math.floor((ms * num) / (den * 1000) + 1e-6);

/** The frame whose beginning is nearest. */
export const nearestFrame = (ms: number, { num, den }: Rate): number => Math.round((ms * num) / (den * 1000));

/** A count of frames as timecode, `01:02:03:04`; with `;` before the frames where numbers are left out. Below zero with a sign. */
export function timecodeOf(frame: number, rate: Rate): string {
  const { nominal, dropped } = rate;
  const n = withDropped(Math.abs(frame), rate);
  const [s, f] = [Math.floor(n / nominal), n % nominal];
  const two = (value: number) => String(value).padStart(2, '0');
  const text = `${two(Math.floor(s / 3600))}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}${dropped > 0 ? ';' : ':'}${two(f)}`;
  return frame < 0 ? `-${text}` : text;
}

/** Takes a timecode apart: the count of frames since zero. */
export function frameOfTimecode(text: string, { nominal, dropped }: Rate): Result<number, string> {
  const match = /^(-?)(?:(?:(\d{1,2}):)?(\d{1,2}):)?(\d{1,2})[:;.](\d{1,2})$/.exec(text.trim());
  if (!match) return fail('Write it as hours:minutes:seconds:frames, such as 00:01:10:05.');
  const [, sign, ...parts] = match;
  const [h = 0, m = 0, s = 0, f = 0] = parts.map((part) => Number(part ?? 0));
  if (m > 59 || s > 59) return fail('Minutes and seconds go up to 59.');
  if (f >= nominal) return fail(`Frames go up to ${nominal - 1} at this rate.`);
  if (dropped > 0 && s === 0 && f < dropped && m % 10 !== 0)
    return fail(`Drop-frame counting leaves this number out: the minute begins with frame ${dropped}.`);
  const minutes = h * 60 + m;
  const frame = (minutes * 60 + s) * nominal + f - dropped * (minutes - Math.floor(minutes / 10));
  return ok(sign === '-' ? -frame : frame);
}

/** The number that a frame has, counted with those that are left out. */
function withDropped(frame: number, { nominal, dropped }: Rate): number {
  if (dropped === 0) return frame;
  const inMinute = nominal * 60 - dropped;
  const inTen = inMinute * 10 + dropped;
  const [tens, rest] = [Math.floor(frame / inTen), frame % inTen];
  // The first minute of ten has all its numbers.
  const later = rest < nominal * 60 ? 0 : 1 + Math.floor((rest - nominal * 60) / inMinute);
  return frame + dropped * (tens * 9 + later);
}

/** The rate in which the timelines of a show count: 25 where nothing else was said. */
export function rateOfShow(records: readonly ShowRecord[]): FrameRate {
  for (const record of records) if (record.kind === 'show') return record.data.rate ?? '25';
  return '25';
}
