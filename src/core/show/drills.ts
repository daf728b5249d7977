import { z } from 'zod';
import { idSchema, text } from './reading-ref';

/** What can be made to go wrong in a drill. */
export const drillFaults = ['off', 'slow', 'silent', 'password', 'taken', 'panel', 'engine'] as const;
export type DrillFault = (typeof drillFaults)[number];

/** What is chosen with each fault: a device, a panel, or nothing. */
export const drillSubject = (fault: DrillFault): 'device' | 'panel' | undefined =>
  fault === 'panel' ? 'panel' : fault === 'engine' ? undefined : 'device';

export const drillFaultWords: Readonly<Record<DrillFault, string>> = {
  off: 'Device off',
  slow: 'Device slow',
  silent: 'Device silent',
  password: 'Wrong password',
  taken: 'Taken by another controller',
  panel: 'Panel lost',
  engine: 'Engine killed',
};

export const drillStepSchema = z.strictObject({
  fault: z.enum(drillFaults),
  /** The device or the panel, by id; empty for the engine. */
  subject: z.union([idSchema, z.literal('')]),
  /** After the beginning of the drill. */
  afterSeconds: z.number().min(0).max(3600),
});
export type DrillStep = z.infer<typeof drillStepSchema>;

/** Faults that are made to happen in a rehearsal, one after the other. */
export const drillSchema = z.strictObject({
  id: idSchema,
  name: text(60).min(1),
  steps: z.array(drillStepSchema).max(40),
});
export type Drill = z.infer<typeof drillSchema>;
