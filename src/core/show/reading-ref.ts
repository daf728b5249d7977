import { z } from 'zod';

export const idSchema = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,40}$/, 'an id: up to 40 letters, digits, hyphens or underscores');

/** A reading of a device. `$name` inside the key stands for a value of the control: `input[$input].name`. */
export const readingRefSchema = z.strictObject({
  device: idSchema,
  key: z.string().regex(/^[A-Za-z0-9_.[\]$]{1,80}$/, 'a reading key'),
});

/** Text of limited length, in characters. */
export const text = (most: number) => z.string().max(most, `at most ${most} characters`);

export const valueName = z.string().regex(/^[a-z][A-Za-z0-9]{0,39}$/, 'the name of a value');
