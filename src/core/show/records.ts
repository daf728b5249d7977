import { z } from 'zod';
import { additionsSchema, scalarSchema } from '../driver';

/**
 * The records of a show. Everything that is saved, undone, published and compared is a record; each has a kind, an id
 * that never changes, a version that grows by one with each edit, and data of its kind.
 */

export const idSchema = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,40}$/, 'an id: up to 40 letters, digits, hyphens or underscores');
const text = (most: number) => z.string().max(most, `at most ${most} characters`);
const cellCount = z.number().int().min(1).max(64);
const cellIndex = z.number().int().min(0).max(63);

export const tagSchema = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9_]{0,15}$/, 'a tag: a letter first, then letters, digits or underscores, 16 at most');

/** A reading of a device. `$name` inside the key stands for a value of the control: `input[$input].name`. */
export const readingRefSchema = z.strictObject({
  device: idSchema,
  key: z.string().regex(/^[A-Za-z0-9_.[\]$]{1,80}$/, 'a reading key'),
});

export const labelSegmentSchema = z.union([
  z.strictObject({ text: text(200) }),
  z.strictObject({ reading: readingRefSchema }),
]);

/** A literal, or a value of the control by its name. */
export const argumentSchema = z.union([scalarSchema, z.strictObject({ value: z.string().min(1).max(40) })]);

export const meaningSchema = z.enum(['onAir', 'next', 'warning', 'recording', 'fault', 'active']);

export type Condition =
  | { op: 'equals' | 'differs'; reading: z.infer<typeof readingRefSchema>; to: z.infer<typeof argumentSchema> }
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition };

export const conditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    z.strictObject({ op: z.enum(['equals', 'differs']), reading: readingRefSchema, to: argumentSchema }),
    z.strictObject({ all: z.array(conditionSchema).min(1).max(20) }),
    z.strictObject({ any: z.array(conditionSchema).min(1).max(20) }),
    z.strictObject({ not: conditionSchema }),
  ]),
);

export const lampRuleSchema = z.strictObject({ when: conditionSchema, show: meaningSchema, word: text(16).optional() });

export const sendSchema = z.strictObject({
  device: idSchema,
  command: z.string().min(1).max(60),
  params: z.record(z.string(), argumentSchema).default({}),
});

const showData = z.strictObject({ name: text(80).min(1), note: text(2000).default('') });

/** How a device is reached that hangs on another one: which device, and which of its ports. */
const throughSchema = z.strictObject({ device: idSchema, port: z.string().min(1).max(40) });

const deviceData = z.strictObject({
  tag: tagSchema,
  name: text(80).min(1),
  role: z.string().min(1).max(20),
  driver: z.string().min(1).max(64),
  /** Empty for a device behind a gateway: then the gateway's address is meant. */
  host: z.string().regex(/^[A-Za-z0-9.:_%-]{0,253}$/, 'an IP address or a host name, without a port'),
  port: z.number().int().min(1, 'a port from 1 to 65535').max(65_535, 'a port from 1 to 65535'),
  enabled: z.boolean().default(true),
  site: text(60).default(''),
  /** The name to sign in with. The password is not part of the show. */
  user: text(80).default(''),
  options: z.record(z.string().max(40), scalarSchema).default({}),
  through: throughSchema.optional(),
  /** Commands and readings that this show adds to the device's driver. */
  additions: additionsSchema.optional(),
});

const zone = z.strictObject({
  id: idSchema,
  title: text(60),
  col: cellIndex,
  row: cellIndex,
  cols: cellCount,
  rows: cellCount,
});

const pageData = z.strictObject({
  name: text(60).min(1),
  order: z.number(),
  columns: cellCount,
  rows: cellCount,
  note: text(2000).default(''),
  zones: z.array(zone).max(60).default([]),
});

const controlData = z.strictObject({
  page: idSchema,
  type: z.literal('button'),
  col: cellIndex,
  row: cellIndex,
  cols: cellCount.default(1),
  rows: cellCount.default(1),
  label: z.array(labelSegmentSchema).max(40),
  /** Values that label, response and lamps share, so that they count together: which input this button is about. */
  values: z.record(z.string().regex(/^[a-z][A-Za-z0-9]*$/), scalarSchema).default({}),
  /** What each gesture sends, in order. */
  responses: z.strictObject({
    tap: z.array(sendSchema).max(40).default([]),
    /** Sent on pointer-down; what each starts is stopped on release. */
    held: z.array(sendSchema).max(10).optional(),
  }),
  lamps: z.array(lampRuleSchema).max(40).default([]),
});

/** Says that a device is the source of an input of a switcher. */
const tieData = z.strictObject({ source: idSchema, switcher: idSchema, input: z.number().int().min(0).max(10_000) });

const base = { id: idSchema, version: z.number().int().min(1) };

export const recordSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('show'), ...base, data: showData }),
  z.strictObject({ kind: z.literal('device'), ...base, data: deviceData }),
  z.strictObject({ kind: z.literal('page'), ...base, data: pageData }),
  z.strictObject({ kind: z.literal('control'), ...base, data: controlData }),
  z.strictObject({ kind: z.literal('tie'), ...base, data: tieData }),
]);

export type ShowRecord = z.infer<typeof recordSchema>;
export type RecordKind = ShowRecord['kind'];
export type RecordOf<K extends RecordKind> = Extract<ShowRecord, { kind: K }>;
export type DeviceRecord = RecordOf<'device'>;
export type PageRecord = RecordOf<'page'>;
export type ControlRecord = RecordOf<'control'>;
export type TieRecord = RecordOf<'tie'>;
export type ReadingRef = z.infer<typeof readingRefSchema>;
export type LabelSegment = z.infer<typeof labelSegmentSchema>;
export type Argument = z.infer<typeof argumentSchema>;
export type Meaning = z.infer<typeof meaningSchema>;
export type LampRule = z.infer<typeof lampRuleSchema>;
export type SendSpec = z.infer<typeof sendSchema>;

/** What lights a meaning in words, on the lamp itself. */
export const meaningWords: Readonly<Record<Meaning, string>> = {
  onAir: 'ON AIR',
  next: 'NEXT',
  warning: 'WARNING',
  recording: 'REC',
  fault: 'FAULT',
  active: 'ACTIVE',
};
