import { z } from 'zod';
import { scalarSchema } from '../driver';
import { idSchema } from '../show';

/** What a panel or a desk says to the engine over `/live`. */

export const topicSchema = z
  .string()
  .regex(/^(status|head|wire|as-run|pulse|page:[A-Za-z0-9_-]{1,40}|readings:[A-Za-z0-9_-]{1,40})$/, 'a topic');
export const pressIdSchema = z
  .string()
  .regex(/^[A-Za-z0-9_-]{6,40}$/, 'an id of 6 to 40 letters, digits, hyphens or underscores');
/** `tap`: once, on pointer-down. `hold`: from pointer-down until `release`, while `still` is said. */
export const gestureSchema = z.enum(['tap', 'hold']);
export const aimSchema = z.enum(['live', 'dry']);

export const clientMessageSchema = z.discriminatedUnion('t', [
  z.strictObject({ t: z.literal('sub'), topics: z.array(topicSchema).max(64) }),
  z.strictObject({ t: z.literal('unsub'), topics: z.array(topicSchema).max(64) }),
  z.strictObject({ t: z.literal('again'), topic: topicSchema }),
  z.strictObject({
    t: z.literal('press'),
    id: pressIdSchema,
    page: idSchema,
    control: idSchema,
    gesture: gestureSchema,
    /** The person meant it: without this, risky commands are not sent. */
    guard: z.boolean().optional(),
  }),
  /** A command tried by hand, without a control. Only the desk may. */
  z.strictObject({
    t: z.literal('try'),
    id: pressIdSchema,
    device: idSchema,
    command: z.string().min(1).max(80),
    params: z.record(z.string().max(60), scalarSchema),
    gesture: gestureSchema,
    guard: z.boolean().optional(),
  }),
  /** Still holding, said every 250 ms; without a word for a second it counts as let go. */
  z.strictObject({ t: z.literal('still'), id: pressIdSchema }),
  z.strictObject({ t: z.literal('release'), id: pressIdSchema }),
  /** Another try now for a device that is down or locked out. */
  z.strictObject({ t: z.literal('call'), device: idSchema }),
  /** After a broken connection: how did this press end? */
  z.strictObject({ t: z.literal('ask'), id: pressIdSchema }),
  z.strictObject({ t: z.literal('aim'), aim: aimSchema }),
  z.strictObject({ t: z.literal('ping') }),
]);

export type ClientMessage = z.infer<typeof clientMessageSchema>;
export type TryMessage = Extract<ClientMessage, { t: 'try' }>;
export type PressMessage = Extract<ClientMessage, { t: 'press' }>;

const shortText = /^[A-Za-z0-9_-]{1,40}$/;

/**
 * Reads a press without the schema's machinery, for the one message whose way has to be short. `undefined` for anything
 * that is not a press to the letter; the schema then says what is wrong. A test holds the two to the same answers.
 */
export function readPress(value: unknown): PressMessage | undefined {
  if (typeof value !== 'object' || value === null) return undefined;
  const { t, id, page, control, gesture, guard } = value as Record<string, unknown>;
  if (t !== 'press' || (gesture !== 'tap' && gesture !== 'hold')) return undefined;
  if (Object.keys(value).length !== (guard === undefined ? 5 : 6)) return undefined;
  if (guard !== undefined && typeof guard !== 'boolean') return undefined;
  if (typeof id !== 'string' || typeof page !== 'string' || typeof control !== 'string' || id.length < 6)
    return undefined;
  if (!shortText.test(id) || !shortText.test(page) || !shortText.test(control)) return undefined;
  return guard === undefined ? { t, id, page, control, gesture } : { t, id, page, control, gesture, guard };
}
export type Gesture = z.infer<typeof gestureSchema>;
