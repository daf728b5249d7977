import type { ValueShape } from './schema-values';

type TimeShape = Extract<ValueShape, { type: 'time' }>;

/** Reads a time as a device writes it, in seconds; `undefined` when it is none. */
export function readTime(shape: Pick<TimeShape, 'writes' | 'fps'>, text: string): number | undefined {
  const trimmed = text.trim();
  if (shape.writes === 'seconds' || shape.writes === 'milliseconds') {
    if (!/^-?\d+(\.\d+)?$/.test(trimmed)) return undefined;
    return shape.writes === 'seconds' ? Number(trimmed) : Number(trimmed) / 1000;
  }
  const match = /^(-)?(?:(\d{1,3}):)?(\d{1,4}):(\d{2}(?:\.\d+)?)(?:[:;](\d{1,3}))?$/.exec(trimmed);
  if (!match) return undefined;
  const [, sign, hours = '0', minutes = '0', seconds = '0', frames = '0'] = match;
  const total = Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds) + Number(frames) / shape.fps;
  return sign ? -total : total;
}

/** Writes seconds as a device wants them, or as people read them. */
export function writeTime(shape: Pick<TimeShape, 'writes' | 'fps'>, seconds: number): string {
  if (shape.writes === 'seconds') return String(seconds);
  if (shape.writes === 'milliseconds') return String(Math.round(seconds * 1000));
  const sign = seconds < 0 ? '-' : '';
  const frames = Math.round(Math.abs(seconds) * shape.fps + 1e-6);
  const whole = shape.writes === 'h:mm:ss:ff' ? Math.floor(frames / shape.fps) : Math.floor(Math.abs(seconds) + 1e-6);
  const two = (n: number) => String(n).padStart(2, '0');
  if (shape.writes === 'm:ss') return `${sign}${Math.floor(whole / 60)}:${two(whole % 60)}`;
  const clock = `${sign}${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
  if (shape.writes === 'h:mm:ss') return clock;
  return `${clock}:${two(Math.round(frames - whole * shape.fps))}`;
}
