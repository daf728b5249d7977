import { fail, ok, type Result, type Scalar } from '../result';
import type { ValueShape } from './schema';

const wholePattern = /^[+-]?\d{1,15}$/;
const decimalPattern = /^[+-]?(\d+\.?\d*|\.\d+)$/;

/** Reads a value as a device wrote it. Fails with a sentence when it is not of the shape or out of range. */
export function fromWire(shape: ValueShape, text: string): Result<Scalar, string> {
  switch (shape.type) {
    case 'whole':
    case 'decimal': {
      const trimmed = text.trim();
      if (!(shape.type === 'whole' ? wholePattern : decimalPattern).test(trimmed)) {
        return fail(`“${text}” is not a ${shape.type} number`);
      }
      return inRange(shape, Number(trimmed));
    }
    case 'text':
      return ok(text);
    case 'choice': {
      const found = shape.choices.find((c) => (c.wire ?? c.value) === text);
      return found ? ok(found.value) : fail(`“${text}” is none of the choices`);
    }
    case 'onOff':
      if (text === shape.on) return ok(true);
      if (text === shape.off) return ok(false);
      return fail(`“${text}” is neither “${shape.on}” nor “${shape.off}”`);
  }
}

/** Writes a checked value as the device wants it. */
export function toWire(shape: ValueShape, value: Scalar): string {
  switch (shape.type) {
    case 'choice':
      return shape.choices.find((c) => c.value === value)?.wire ?? String(value);
    case 'onOff':
      return value === true ? shape.on : shape.off;
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
      return inRange(shape, value);
    case 'text': {
      if (typeof value !== 'string') return fail('expects a text');
      const most = shape.maxLength ?? 2000;
      return value.length <= most ? ok(value) : fail(`expects at most ${most} characters; this has ${value.length}`);
    }
    case 'choice':
      if (typeof value === 'string' && shape.choices.some((c) => c.value === value)) return ok(value);
      return fail(`expects one of ${shape.choices.map((c) => c.value).join(', ')}`);
    case 'onOff':
      return typeof value === 'boolean' ? ok(value) : fail('expects on or off');
  }
}

type Numeric = Extract<ValueShape, { type: 'whole' | 'decimal' }>;

function inRange(shape: Numeric, value: number): Result<Scalar, string> {
  if (shape.min !== undefined && value < shape.min) return fail(`${value} is below the smallest, ${shape.min}`);
  if (shape.max !== undefined && value > shape.max) return fail(`${value} is above the largest, ${shape.max}`);
  return ok(value);
}

function rangeText(shape: Numeric): string {
  if (shape.min !== undefined && shape.max !== undefined) return ` from ${shape.min} to ${shape.max}`;
  if (shape.min !== undefined) return ` of at least ${shape.min}`;
  return shape.max !== undefined ? ` of at most ${shape.max}` : '';
}
