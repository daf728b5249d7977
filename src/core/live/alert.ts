import { z } from 'zod';

/** What is wrong with the program itself, or with what loads it down, by code. */
const alertCodes = [
  'not-recorded',
  'not-kept',
  'record-set-aside',
  'record-full',
  'passwords-unreadable',
  'link-unsteady',
  'device-floods',
  'screen-floods',
  'many-connections',
  'inlet-closed',
] as const;

export const alertSchema = z.object({
  code: z.enum(alertCodes),
  text: z.string().describe('What is wrong, and what to do.'),
});
export type Alert = z.infer<typeof alertSchema>;
