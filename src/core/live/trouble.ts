import { z } from 'zod';

/** What is wrong with the program itself, or with what loads it down, by code. */
export const troubleCodes = [
  'not-recorded',
  'not-kept',
  'record-set-aside',
  'record-full',
  'passwords-unreadable',
  'link-unsteady',
  'device-floods',
  'screen-floods',
  'many-connections',
] as const;

export const troubleSchema = z.object({
  code: z.enum(troubleCodes),
  text: z.string().describe('What is wrong, and what to do.'),
});
export type Trouble = z.infer<typeof troubleSchema>;
