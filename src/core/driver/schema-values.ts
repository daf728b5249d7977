import { z } from 'zod';
import { textWritings } from './written-text';

/** The parts of the driver document that say what a value can be. */

export const nameSchema = z.string().regex(/^[a-z][A-Za-z0-9]*$/, 'a name: a small letter, then letters and digits');
export const readingKeySchema = z
  .string()
  .regex(/^[a-z][A-Za-z0-9]*(\[\])?(\.[a-z][A-Za-z0-9]*)*$/, 'a reading key such as "program" or "input[].name"');
export const titleSchema = z.string().min(1).max(80);
export const patternSchema = z.string().min(1).max(400);
export const msSchema = z.number().int().min(1).max(600_000);
export const pointerSchema = z
  .string()
  .regex(/^(\/([^~/]|~[01])*)*$/, 'a JSON Pointer (RFC 6901) such as "/stream/kbps", or "" for the whole');

/** A field name of HTTP (RFC 9110, 5.1), as far as devices use them. */
export const headerNameSchema = z.string().regex(/^[A-Za-z][A-Za-z0-9-]*$/, 'the name of a header');

export const scalarSchema = z.union([z.string().max(4000), z.number(), z.boolean()]);

/** The value of an option of the device. */
const optionRef = z.strictObject({ option: nameSchema });

/** A number, or the value of an option of the device. */
const bound = z.union([z.number(), optionRef]);

/**
 * A value, or `{"option": name}` for the value that a device has set of this option. Its type is that of the value: `documentFor` has put
 * the values in before anybody reads it.
 */
export const orOption = <Schema extends z.ZodType>(schema: Schema): Schema =>
  z.union([schema, optionRef]) as unknown as Schema;

const numeric = {
  min: bound.optional(),
  max: bound.optional(),
  unit: z.string().max(12).optional(),
  /** The value is what the device writes, times `scale`, plus `offset`. */
  scale: z
    .number()
    .refine((n) => n !== 0, 'not zero')
    .optional(),
  offset: z.number().optional(),
  /** How the device writes it: decimal, or hexadecimal digits. In templates the format of the hole decides. */
  reads: z.enum(['decimal', 'hex']).optional(),
  /** Two's complement of this many bits. */
  signedBits: z.number().int().min(4).max(32).optional(),
  /** Readings and what is sent are rounded to this number of decimal places. */
  decimals: z.number().int().min(0).max(6).optional(),
};

const choice = z.strictObject({ value: z.string().min(1), title: titleSchema, wire: z.string().optional() });

/** What a value can be, for parameters and readings alike. */
export const valueShape = z.discriminatedUnion('type', [
  z.strictObject({
    type: z.literal('whole'),
    ...numeric,
    /**
     * What the trade calls its values, the first for `min`: the F-numbers of an iris that the protocol counts in steps. Or the option in
     * which they are listed, separated by commas. A value without a name is shown as its number.
     */
    names: orOption(z.array(z.string().max(20)).min(1).max(256)).optional(),
  }),
  z.strictObject({ type: z.literal('decimal'), ...numeric }),
  z.strictObject({
    type: z.literal('text'),
    maxLength: z.number().int().min(1).max(4000).optional(),
    /** Characters that would end or change the message and so cannot be sent. */
    without: z.string().max(40).optional(),
    /**
     * How the device writes it: as it is; in frames of bytes as hexadecimal digits of Latin-1 characters (`hex`) or of UTF-8 (`hexutf8`);
     * percent-encoded; in Base64; between double quotes. In templates the format of the hole decides.
     */
    reads: z.enum(['text', 'hex', ...textWritings]).optional(),
  }),
  z.strictObject({ type: z.literal('choice'), choices: z.array(choice).min(1).max(500) }),
  z.strictObject({
    type: z.literal('onOff'),
    on: z.string().default('1'),
    off: z.string().default('0'),
    /** Readings: it is this bit, from 0, of a number in which the device says several things; on is 1. */
    bit: z.number().int().min(0).max(31).optional(),
    /** How that number is written: hexadecimal digits, as in frames of bytes, or decimal. */
    reads: z.enum(['hex', 'decimal']).optional(),
  }),
  /** `#RRGGBB`; on the wire with or without the #, or as three numbers. */
  z.strictObject({ type: z.literal('colour'), writes: z.enum(['#rrggbb', 'rrggbb', 'r,g,b']).default('#rrggbb') }),
  /** Seconds; on the wire as named. `fps` counts the frames of `h:mm:ss:ff`. */
  z.strictObject({
    type: z.literal('time'),
    writes: z.enum(['seconds', 'milliseconds', 'm:ss', 'h:mm:ss', 'h:mm:ss:ff']).default('seconds'),
    fps: z.number().min(1).max(240).default(25),
    min: z.number().optional(),
    max: z.number().optional(),
  }),
  /** Bytes that a person types: as text with escapes, or in hexadecimal digits. For parameters only. */
  z.strictObject({
    type: z.literal('payload'),
    as: z.enum(['text', 'hex']),
    /** This many, no fewer and no more. */
    bytes: z.number().int().min(1).max(64).optional(),
  }),
]);

export type ValueShape = z.infer<typeof valueShape>;
