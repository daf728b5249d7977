import { z } from 'zod';
import { scalarSchema } from '../driver';
import { controlDataSchema, highestPreset, idSchema } from '../show';
import { bindingChangeSchema } from './bindings';
import { checkAnswerSchema } from './line-check';
import { presetActSchema } from './presets';

/** What a panel or a desk says to the engine over `/live`. */

const id = '[A-Za-z0-9_-]{1,40}';
/** A page in a context, as in its topic. */
const inContext = `${id}(;${id}=${id}){0,20}`;
const contextPattern = new RegExp(`^${inContext}$`);

const topicSchema = z
  .string()
  .regex(
    new RegExp(
      `^(access|status|head|wire|as-run|pulse|tally|clocks|outputs|screens|runs|line-check|walk-round|burn-in|drills|health|gear|macro:${id}|linked:${id}|page:${inContext}|readings:${id})$`,
    ),
    'a topic',
  );
export const pressIdSchema = z
  .string()
  .regex(/^[A-Za-z0-9_-]{6,40}$/, 'an id of 6 to 40 letters, digits, hyphens or underscores');
/** `tap`: once, on pointer-down. `hold`: from pointer-down until `release`, while `still` is said. */
export const gestureSchema = z.enum(['tap', 'hold']);
const contextSchema = z.string().max(1700).regex(contextPattern, 'a page in a context').optional();
const aimSchema = z.enum(['live', 'rehearse', 'dry']);
/** Where the engine aims, or nowhere. */
const tryAimSchema = z.enum(['live', 'dry']);

const answersSchema = z.record(z.string().max(40), scalarSchema);

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
    /** What it would ask, answered beforehand. */
    given: answersSchema.optional(),
    /** How the panel looks at the page. */
    context: contextSchema,
  }),
  /**
   * A fader or dial set to `x` in its own range, or a stick at `x` (right) and `y` (up) from -1 to 1. One id from touching it
   * to `release`; a stick that is held still says `still`.
   */
  z.strictObject({
    t: z.literal('turn'),
    id: pressIdSchema,
    page: idSchema,
    control: idSchema,
    x: z.number(),
    y: z.number().min(-1).max(1).optional(),
    /** Of a stick: as slowly as the device is set to go then. */
    slow: z.literal(true).optional(),
    guard: z.boolean().optional(),
    context: contextSchema,
  }),
  /** An act of a list, on the item with this index or on the list as a whole, with what was asked for. */
  z.strictObject({
    t: z.literal('choose'),
    id: pressIdSchema,
    page: idSchema,
    control: idSchema,
    act: z.number().int().min(0).max(20),
    index: z.number().int().min(0).max(100_000).optional(),
    given: scalarSchema.optional(),
    guard: z.boolean().optional(),
    context: contextSchema,
  }),
  /** What a hand does with a preset that a control shows. */
  z.strictObject({
    t: z.literal('preset'),
    id: pressIdSchema,
    page: idSchema,
    control: idSchema,
    device: idSchema,
    number: z.number().int().min(0).max(highestPreset),
    act: presetActSchema,
    guard: z.boolean().optional(),
    context: contextSchema,
  }),
  /** Binds hand gear to a control, or frees it. */
  z.strictObject({ t: z.literal('bind'), change: bindingChangeSchema }),
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
  /** A control pressed as it is in the editor. Dry unless `aim` says otherwise. Only the desk may. */
  z.strictObject({
    t: z.literal('trial'),
    id: pressIdSchema,
    control: controlDataSchema,
    /** The stored control that it is, where it is one: its turns are counted for it. */
    of: z
      .string()
      .regex(/^[A-Za-z0-9_-]{1,30}$/)
      .optional(),
    gesture: gestureSchema,
    guard: z.boolean().optional(),
    aim: tryAimSchema,
  }),
  /** Still holding, said every 250 ms; without a word for a second it counts as let go. */
  z.strictObject({ t: z.literal('still'), id: pressIdSchema }),
  z.strictObject({ t: z.literal('release'), id: pressIdSchema }),
  /** What a press has asked is answered, or left unanswered: then it ends. */
  z.strictObject({ t: z.literal('answer'), id: pressIdSchema, given: answersSchema.optional() }),
  /** Another try now for a device that is down or locked out. */
  z.strictObject({ t: z.literal('call'), device: idSchema }),
  /** After a broken connection: how did this press end? */
  z.strictObject({ t: z.literal('ask'), id: pressIdSchema }),
  /** What happened to this press, moment by moment? */
  z.strictObject({ t: z.literal('explain'), id: pressIdSchema }),
  /** What somebody saw who walks round the devices for the line check. */
  checkAnswerSchema.extend({ t: z.literal('saw') }),
  z.strictObject({ t: z.literal('aim'), aim: aimSchema }),
  z.strictObject({ t: z.literal('ping') }),
  /** Where this screen is and how it fares; said again whenever that is another. */
  z.strictObject({
    t: z.literal('here'),
    title: z.string().max(60),
    /** The same after a reload. */
    screen: z
      .string()
      .regex(/^[a-z0-9]{4,24}$/)
      .optional(),
    panel: idSchema.optional(),
    page: idSchema.optional(),
    /** The tag whose tally it shows; empty while the camera is being chosen. */
    tally: z.string().max(40).optional(),
    /** The same for a clock. */
    clock: z.string().max(40).optional(),
    delayMs: z.number().min(0).max(60_000).optional(),
    cuts: z.number().int().min(0),
    missed: z.number().int().min(0),
    gear: z
      .array(
        z.strictObject({
          id: z.string().max(120),
          name: z.string().max(120),
          kind: z.enum(['midi', 'pad']),
          state: z.enum(['ready', 'held elsewhere', 'gone']),
          usedAt: z.number().optional(),
        }),
      )
      .max(16)
      .optional(),
  }),
  /** Has another screen do something. Only the desk may. */
  z.strictObject({
    t: z.literal('tell'),
    /** The name of the screen. */
    to: z.string().max(60),
    act: z.discriminatedUnion('do', [
      z.strictObject({ do: z.literal('call out') }),
      z.strictObject({ do: z.literal('go'), page: idSchema }),
      z.strictObject({ do: z.literal('note'), text: z.string().min(1).max(300) }),
      z.strictObject({ do: z.literal('redraw') }),
      z.strictObject({ do: z.literal('close') }),
    ]),
  }),
  /** Somebody has read the note. */
  z.strictObject({ t: z.literal('seen'), note: pressIdSchema }),
  /** On a linked panel: all its screens shall show this. */
  z.strictObject({ t: z.literal('together'), panel: idSchema, page: idSchema, context: contextSchema }),
  /** Makes a way in for a panel. Only the desk may. */
  z.strictObject({ t: z.literal('invite'), panel: idSchema }),
  /** Begins a macro. Only the desk may; a panel presses a control. */
  z.strictObject({
    t: z.literal('run'),
    id: pressIdSchema,
    macro: idSchema,
    params: z.record(z.string().max(40), scalarSchema).default({}),
    aim: tryAimSchema,
  }),
  /** Records what is done by hand: begins, ends and hands it over, or forgets it. Only the desk may. */
  z.strictObject({ t: z.literal('record'), do: z.enum(['begin', 'take', 'forget']) }),
  /** Ends a run, at once or by its way out; without one, all that run. */
  z.strictObject({ t: z.literal('end run'), run: pressIdSchema.optional(), way: z.enum(['stop', 'way out']) }),
  /** Takes a screen that joined its rights. Only the desk may. */
  z.strictObject({ t: z.literal('throw out'), joined: z.string().max(40) }),
  z.strictObject({ t: z.literal('withdraw'), invite: z.string().max(40) }),
]);

export type ClientMessage = z.infer<typeof clientMessageSchema>;
export type TryMessage = Extract<ClientMessage, { t: 'try' }>;
export type TurnMessage = Extract<ClientMessage, { t: 'turn' }>;
export type ChooseMessage = Extract<ClientMessage, { t: 'choose' }>;
export type PresetMessage = Extract<ClientMessage, { t: 'preset' }>;
export type TrialMessage = Extract<ClientMessage, { t: 'trial' }>;
export type PressMessage = Extract<ClientMessage, { t: 'press' }>;

const shortText = /^[A-Za-z0-9_-]{1,40}$/;

/**
 * Reads a press without the schema's machinery, for the one message whose way has to be short. `undefined` for anything
 * that is not a press to the letter; the schema then says what is wrong. A test holds the two to the same answers.
 */
export function readPress(value: unknown): PressMessage | undefined {
  if (typeof value !== 'object' || value === null) return undefined;
  const { t, id, page, control, gesture, guard, context } = value as Record<string, unknown>;
  if (t !== 'press' || (gesture !== 'tap' && gesture !== 'hold')) return undefined;
  if (Object.keys(value).length !== 5 + (guard === undefined ? 0 : 1) + (context === undefined ? 0 : 1))
    return undefined;
  if (guard !== undefined && typeof guard !== 'boolean') return undefined;
  if (typeof id !== 'string' || typeof page !== 'string' || typeof control !== 'string' || id.length < 6)
    return undefined;
  if (!shortText.test(id) || !shortText.test(page) || !shortText.test(control)) return undefined;
  const press: PressMessage = { t, id, page, control, gesture };
  if (guard !== undefined) press.guard = guard;
  if (context === undefined) return press;
  if (typeof context !== 'string' || context.length > 1700 || !contextPattern.test(context)) return undefined;
  press.context = context;
  return press;
}
export type Gesture = z.infer<typeof gestureSchema>;
