import { fail, ok, type Result, type Scalar } from '../result';
import { fromEscaped, fromHex } from '../wire';
import type { ValueShape } from './schema-values';
import { readTime, writeTime } from './time-text';
import { readText } from './written-text';

const wholePattern = /^[+-]?\d{1,15}$/;
const decimalPattern = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d{1,3})?$/;
const hexPattern = /^[0-9A-Fa-f]{1,12}$/;

/** Reads a value as a device wrote it. Fails with a sentence when it is not of the shape or out of range. */
export function fromWire(shape: ValueShape, text: string): Result<Scalar, string> {
  switch (shape.type) {
    case 'whole':
    case 'decimal': {
      const read = numberOf(shape, text.trim());
      return read === undefined ? fail(`“${text}” is not a ${shape.type} number`) : inRange(shape, scaled(shape, read));
    }
    case 'text':
      if (shape.reads === undefined || shape.reads === 'text') return ok(text);
      return shape.reads === 'hex' ? readHexText(text) : readText(shape.reads, text);
    case 'payload':
      return ok(text);
    case 'choice': {
      const found = shape.choices.find((c) => (c.wire ?? c.value) === text);
      return found ? ok(found.value) : fail(`“${text}” is none of the choices`);
    }
    case 'onOff':
      if (shape.bit !== undefined) return readBit(shape.bit, shape.reads ?? 'hex', text.trim());
      if (text === shape.on) return ok(true);
      if (text === shape.off) return ok(false);
      return fail(`“${text}” is neither “${shape.on}” nor “${shape.off}”`);
    case 'colour':
      return readColour(shape, text.trim());
    case 'time': {
      const seconds = readTime(shape, text);
      return seconds === undefined ? fail(`“${text}” is not a time`) : ok(Math.round(seconds * 1000) / 1000);
    }
  }
}

function readBit(bit: number, reads: 'hex' | 'decimal', text: string): Result<Scalar, string> {
  const isNumber = (reads === 'hex' ? /^[0-9A-Fa-f]{1,8}$/ : /^\d{1,10}$/).test(text);
  if (!isNumber) return fail(`“${text}” is not a number with a bit ${bit}`);
  return ok(((parseInt(text, reads === 'hex' ? 16 : 10) >>> bit) & 1) === 1);
}

/** A text of fixed width in a frame: blanks and NULs at its end are no part of it. */
function readHexText(hex: string): Result<Scalar, string> {
  const bytes = fromHex(hex);
  if (!bytes.ok) return fail(`“${hex}” is not a text in hexadecimal digits`);
  const text = Array.from(bytes.value, (byte) => String.fromCharCode(byte)).join('');
  return ok(text.replace(/[ \0]+$/, ''));
}

function numberOf(shape: Numeric, text: string): number | undefined {
  if (shape.reads === 'hex') {
    if (!hexPattern.test(text)) return undefined;
    const value = parseInt(text, 16);
    const bits = shape.signedBits;
    return bits && value >= 2 ** (bits - 1) ? value - 2 ** bits : value;
  }
  // A number with a scale is whole on the wire or not; the scale makes it what it is.
  const pattern = shape.type === 'whole' && shape.scale === undefined ? wholePattern : decimalPattern;
  if (!pattern.test(text)) return undefined;
  const value = Number(text);
  const bits = shape.signedBits;
  return bits && value >= 2 ** (bits - 1) ? value - 2 ** bits : value;
}

function scaled(shape: Numeric, value: number): number {
  if (shape.scale === undefined && shape.offset === undefined && shape.decimals === undefined) return value;
  const exact = value * (shape.scale ?? 1) + (shape.offset ?? 0);
  return rounded({ decimals: shape.decimals ?? (shape.type === 'whole' ? 0 : 3) }, exact);
}

/** To the number of decimal places that is declared, if any. */
function rounded({ decimals }: { readonly decimals?: number }, value: number): number {
  if (decimals === undefined) return value;
  const digits = 10 ** decimals;
  return Math.round(value * digits) / digits;
}

function readColour(shape: Extract<ValueShape, { type: 'colour' }>, text: string): Result<Scalar, string> {
  const numbers = /^(\d{1,3}),\s*(\d{1,3}),\s*(\d{1,3})$/.exec(text);
  if (shape.writes === 'r,g,b' && numbers) {
    const hex = numbers.slice(1).map((n) => Math.min(255, Number(n)).toString(16).padStart(2, '0'));
    return ok(`#${hex.join('').toUpperCase()}`);
  }
  const match = /^#?([0-9A-Fa-f]{6})$/.exec(text);
  return match ? ok(`#${(match[1] ?? '').toUpperCase()}`) : fail(`“${text}” is not a colour`);
}

/** Writes a checked value as the device wants it; a payload as its bytes. */
export function toWire(shape: ValueShape, value: Scalar): string | Uint8Array {
  switch (shape.type) {
    case 'choice':
      return shape.choices.find((c) => c.value === value)?.wire ?? String(value);
    case 'onOff':
      return value === true ? shape.on : shape.off;
    case 'whole':
    case 'decimal': {
      const sent = rounded(shape, Number(value));
      if (shape.scale === undefined && shape.offset === undefined) return String(sent);
      const raw = (sent - (shape.offset ?? 0)) / (shape.scale ?? 1);
      return String(
        shape.type === 'whole' || Math.abs(shape.scale ?? 1) < 1 ? Math.round(raw) : Number(raw.toPrecision(12)),
      );
    }
    case 'colour': {
      const hex = String(value).slice(1);
      if (shape.writes === '#rrggbb') return `#${hex.toLowerCase()}`;
      if (shape.writes === 'rrggbb') return hex;
      return [0, 2, 4].map((at) => parseInt(hex.slice(at, at + 2), 16)).join(',');
    }
    case 'time':
      return writeTime(shape, Number(value));
    case 'payload': {
      const bytes = shape.as === 'hex' ? fromHex(String(value)) : fromEscaped(String(value));
      return bytes.ok ? bytes.value : new Uint8Array();
    }
    default:
      return String(value);
  }
}

/** Checks a parameter's value. Fails with a sentence that says what is expected. */
export function checkValue(shape: ValueShape, value: unknown): Result<Scalar, string> {
  switch (shape.type) {
    case 'whole':
      if (typeof value !== 'number' || !Number.isInteger(value))
        return fail(`expects a whole number${rangeText(shape)}`);
      return inRange(shape, value);
    case 'decimal':
      if (typeof value !== 'number' || !Number.isFinite(value)) return fail(`expects a number${rangeText(shape)}`);
      return inRange(shape, rounded(shape, value));
    case 'text': {
      if (typeof value !== 'string') return fail('expects a text');
      const most = shape.maxLength ?? 2000;
      if (value.length > most) return fail(`expects at most ${most} characters; this has ${value.length}`);
      const bad = [...(shape.without ?? '')].find((c) => value.includes(c));
      return bad === undefined ? ok(value) : fail(`cannot contain “${bad}”`);
    }
    case 'choice':
      if (typeof value === 'string' && shape.choices.some((c) => c.value === value)) return ok(value);
      return fail(`expects one of ${shape.choices.map((c) => c.value).join(', ')}`);
    case 'onOff':
      return typeof value === 'boolean' ? ok(value) : fail('expects on or off');
    case 'colour':
      return typeof value === 'string' && /^#[0-9A-Fa-f]{6}$/.test(value)
        ? ok(value.toUpperCase())
        : fail('expects a colour such as #3A5F0B');
    case 'time':
      if (typeof value !== 'number' || !Number.isFinite(value)) return fail('expects a time in seconds');
      if (value < (shape.min ?? -Infinity) || value > (shape.max ?? Infinity)) {
        return fail(`expects a time from ${shape.min ?? 0} to ${shape.max ?? 'any'} seconds`);
      }
      return ok(value);
    case 'payload': {
      if (typeof value !== 'string') return fail('expects a text');
      const bytes = shape.as === 'hex' ? fromHex(value) : fromEscaped(value);
      if (!bytes.ok) return fail(`has a mistake at character ${bytes.error.offset + 1}: ${bytes.error.message}`);
      if (shape.bytes !== undefined && bytes.value.length !== shape.bytes)
        return fail(`expects ${shape.bytes} bytes; this has ${bytes.value.length}`);
      return ok(value);
    }
  }
}

/** A value as people read it: times as clocks, on and off as words, units behind. */
export function valueText(shape: ValueShape | undefined, value: Scalar): string {
  if (value === true) return 'on';
  if (value === false) return 'off';
  if (shape?.type === 'choice') return shape.choices.find((c) => c.value === value)?.title ?? String(value);
  if (shape?.type === 'whole' && typeof value === 'number') return nameOf(shape, value) ?? String(value);
  if (shape?.type === 'time' && typeof value === 'number') {
    const writes = shape.writes === 'h:mm:ss:ff' ? 'h:mm:ss:ff' : Math.abs(value) < 3600 ? 'm:ss' : 'h:mm:ss';
    return writeTime({ writes, fps: shape.fps }, value);
  }
  return String(value);
}

/** A value with its unit: “12 dB”. */
export function valueWithUnit(shape: ValueShape | undefined, value: Scalar): string {
  const text = valueText(shape, value);
  // A name says its unit itself: F4, 1/50.
  if (shape?.type === 'whole' && typeof value === 'number' && nameOf(shape, value) !== undefined) return text;
  return shape && 'unit' in shape && shape.unit ? `${text} ${shape.unit}` : text;
}

/** What the trade calls a value that the protocol counts in steps; `undefined` where it has no name of its own. */
function nameOf({ min, names }: Extract<ValueShape, { type: 'whole' }>, value: number): string | undefined {
  const name = names?.[value - Number(min ?? 0)];
  return name === '' ? undefined : name;
}

/** Every value that has a name, with it; empty where none has. */
export const namedValues = (shape: ValueShape): { readonly value: number; readonly title: string }[] => {
  if (shape.type !== 'whole' || !shape.names?.length) return [];
  const [min, max] = [Number(shape.min ?? 0), Number(shape.max ?? Infinity)];
  return shape.names.flatMap((_, n) => (min + n > max ? [] : [{ value: min + n, title: valueText(shape, min + n) }]));
};

type Numeric = Extract<ValueShape, { type: 'whole' | 'decimal' }>;

/** Bounds that are options are numbers by now: compiling for a device puts them in. */
const number = (bound: Numeric['min']): number | undefined => (typeof bound === 'number' ? bound : undefined);

function inRange(shape: Numeric, value: number): Result<Scalar, string> {
  const min = number(shape.min);
  const max = number(shape.max);
  if (min !== undefined && value < min) return fail(`${value} is below the smallest, ${min}`);
  if (max !== undefined && value > max) return fail(`${value} is above the largest, ${max}`);
  return ok(value);
}

function rangeText(shape: Numeric): string {
  const min = number(shape.min);
  const max = number(shape.max);
  if (min !== undefined && max !== undefined) return ` from ${min} to ${max}`;
  if (min !== undefined) return ` of at least ${min}`;
  return max !== undefined ? ` of at most ${max}` : '';
}
