import { z } from 'zod';
import { nameSchema, scalarSchema, titleSchema } from './schema-values';

/** Text with the escapes `\r \n \t \0 \\ \xHH`, or hexadecimal digits. */
const bytesSchema = z.union([z.string().min(1).max(4000), z.strictObject({ hex: z.string().min(2).max(8000) })]);

/** What a device with these options would say or be told; options that are not named are at their defaults. */
const both = {
  title: titleSchema.optional(),
  options: z.record(nameSchema, scalarSchema).optional(),
};

/**
 * Bytes from the world with what they mean: the test of a document, run whenever it is changed. Either what the device said and what
 * has to be read in it, or a command and what has to go out.
 */
export const sampleSchema = z.union([
  z.strictObject({
    ...both,
    heard: bytesSchema,
    /** The command or question that it answers. */
    to: nameSchema.optional(),
    /** The member for which that was asked, as the device writes it. */
    member: z.string().min(1).max(80).optional(),
    /** The readings that it gives, by key. Others may come besides. */
    gives: z.record(z.string().min(1).max(120), scalarSchema).default({}),
    is: z.enum(['accepted', 'refused', 'nothing']).optional(),
    /** Of a refusal: its code. */
    code: z.string().min(1).max(80).optional(),
  }),
  z.strictObject({
    ...both,
    command: nameSchema,
    params: z.record(nameSchema, scalarSchema).default({}),
    /** What the device has reported before, for values that come from a reading. */
    readings: z.record(z.string().min(1).max(120), scalarSchema).default({}),
    sends: bytesSchema,
  }),
]);

export type DriverSample = z.infer<typeof sampleSchema>;
