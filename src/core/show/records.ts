import { z } from 'zod';
import { additionsSchema, scalarSchema } from '../driver';
import { bindingDataSchema } from './binding';
import { sentArgumentSchema, conditionSchema } from './conditions';
import { inletDataSchema } from './inlet';
import { frameRateSchema, macroDataSchema } from './macro';
import { drillSchema } from './drills';
import { healthLimitsSchema } from './health-limits';
import { idSchema, readingRefSchema, text, valueName } from './reading-ref';
import { presetBoardSchema, presetDataSchema } from './preset';
import { shownSchema } from './shown';
import { glideSchema, snapshotDataSchema } from './snapshot';
import { tintSchema } from './tint';
import { variableDataSchema } from './variable';
import { watchDataSchema } from './watch';
import { steeringSchema } from './steering';
import { timerListSchema } from '../timers';

/**
 * The records of a show. Everything that is saved, undone, published and compared is a record; each has a kind, an id
 * that never changes, a version that grows by one with each edit, and data of its kind.
 */

const cellCount = z.number().int().min(1).max(64);
const cellIndex = z.number().int().min(0).max(63);

export const tagSchema = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9_]{0,15}$/, 'a tag: a letter first, then letters, digits or underscores, 16 at most');

export const labelSegmentSchema = z.union([
  z.strictObject({ text: text(200) }),
  z.strictObject({ reading: readingRefSchema }),
  /** A value of the control itself, so that “Camera 3” counts with what it sends. */
  z.strictObject({ value: valueName }),
]);

export const meaningSchema = z.enum(['onAir', 'next', 'warning', 'recording', 'fault', 'active']);

export const sendSchema = z.strictObject({
  device: idSchema,
  command: z.string().min(1).max(60),
  params: z.record(z.string(), sentArgumentSchema).default({}),
  /** Delay after the send before it, or after the press, in milliseconds. */
  waitMs: z.number().int().min(0).max(60_000).optional(),
});

const rangeSchema = z.strictObject({
  /** The command without the parameter that the hand sets. */
  send: sendSchema,
  param: z.string().min(1).max(60),
  /** Shows the present value. */
  reading: readingRefSchema.optional(),
  min: z.number(),
  max: z.number(),
  /** Its end is where this reading says, such as the length of a clip; `max` while that is not known. */
  most: readingRefSchema.optional(),
  /** One notch of a wheel, or one press of an arrow key; a hundredth of the range when absent. */
  tick: z.number().positive().max(1_000_000).optional(),
  /** The largest factor by which notches in quick succession count. */
  quicken: z.number().min(1).max(50).optional(),
  /** It jumps to the place that is touched, instead of being moved from its position. */
  jumps: z.literal(true).optional(),
});

const showData = z.strictObject({
  name: text(80).min(1),
  note: text(2000).default(''),
  /** When it begins, in local time: show time counts from here. */
  beginsAt: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, 'a date and a time')
    .optional(),
  /** In which its timelines count frames; 25 when absent. */
  rate: frameRateSchema.optional(),
  /** From where on health says something; the usual limits when absent. */
  health: healthLimitsSchema.optional(),
  drills: z.array(drillSchema).max(50).optional(),
  /** How snapshots are called up that have no way of their own; a cut when absent. */
  glide: glideSchema.optional(),
  /** In which its schedule counts, by its name in the IANA database; that of the computer when absent. */
  zone: z
    .string()
    .regex(/^[A-Za-z0-9_+/-]{1,60}$/, 'the name of a time zone')
    .optional(),
});

/** How a device is reached that hangs on another one: which device, and which of its ports. */
const throughSchema = z.strictObject({ device: idSchema, port: z.string().min(1).max(40) });

/** A program that must run beside a device, seen by its TCP port. */
export const helperSchema = z.strictObject({ title: text(40).min(1), port: z.number().int().min(1).max(65_535) });
export type Helper = z.infer<typeof helperSchema>;

const deviceData = z.strictObject({
  tag: tagSchema,
  name: text(80).min(1),
  role: z.string().min(1).max(20),
  driver: z.string().min(1).max(64),
  /** Empty for a device behind a gateway: then the gateway's address is meant. */
  host: z
    .string()
    .regex(
      /^[A-Za-z0-9.:_%-]{0,253}$|^\/dev\/[A-Za-z0-9._:/-]{1,200}$|^midi:\S[^\r\n]{0,119}$/,
      'an IP address, a host name without a port, a serial port, or a MIDI port',
    ),
  port: z.number().int().min(1, 'a port from 1 to 65535').max(65_535, 'a port from 1 to 65535'),
  enabled: z.boolean().default(true),
  site: text(60).default(''),
  /** The name to sign in with. The password is not part of the show. */
  user: text(80).default(''),
  options: z.record(z.string().max(40), scalarSchema).default({}),
  through: throughSchema.optional(),
  /** Programs that must run on its computer besides those that its driver knows. */
  helpers: z.array(helperSchema).max(10).optional(),
  /** What its displays show, where its driver has some: inputs of a switcher, under their own names or under another. */
  displays: z
    .array(
      z.strictObject({
        number: z.number().int().min(0).max(65_534),
        switcher: idSchema,
        input: z.number().int().min(0).max(10_000),
        name: text(40).optional(),
      }),
    )
    .max(400)
    .optional(),
  /** Of a clock that is this program itself: its timers, in their order. */
  timers: timerListSchema.optional(),
  /** What it may ask for itself over its connection: only to read and to fire watches, or anything; nothing when absent. */
  requests: z.enum(['reads', 'acts']).optional(),
  /** How what it drives goes under a hand, by drive: see `Steering`. */
  steering: z.record(z.string().max(60), steeringSchema).optional(),
  /** Of a switcher: its program is not on air by itself, only what its outputs feed to others. */
  offAir: z.literal(true).optional(),
  /** Commands and readings that this show adds to the device's driver. */
  additions: additionsSchema.optional(),
});

/** What a pick goes with, the most telling first. Older shows have one reading in place of a list. */
const followSchema = z.union([z.array(readingRefSchema).min(1).max(8), readingRefSchema.transform((one) => [one])]);

/** When panels that follow go to a page. Older shows have one reading and its value. */
const callSchema = z.union([
  z.strictObject({ when: conditionSchema }),
  /** While no other page of the panel is called. */
  z.strictObject({ otherwise: z.literal(true) }),
  z
    .strictObject({ reading: readingRefSchema, is: scalarSchema })
    .transform(({ reading, is }) => ({ when: { op: 'equals' as const, reading, to: is } })),
]);

const zone = z.strictObject({
  id: idSchema,
  title: text(60),
  col: cellIndex,
  row: cellIndex,
  cols: cellCount,
  rows: cellCount,
  /** Its controls are made for the first of these devices and drive the one that is picked. */
  pick: z
    .strictObject({
      devices: z.array(idSchema).min(1).max(60),
      /**
       * The pick goes with these readings, each the number of an input, through the ties, or the tag of a device. The first that names
       * one of the devices decides.
       */
      follow: followSchema.optional(),
      /** While none of the readings names one of the devices: the one that was named last, instead of the first of the devices. */
      whenNone: z.literal('last').optional(),
    })
    .optional(),
});

export const pageDataSchema = z.strictObject({
  name: text(60).min(1),
  order: z.number(),
  columns: cellCount,
  rows: cellCount,
  note: text(2000).default(''),
  zones: z.array(zone).max(60).default([]),
  /** What the tints of its controls stand for; where nothing is written, the devices that they drive. */
  legend: z.partialRecord(tintSchema, text(40)).optional(),
  /** Panels show on each control which devices it drives. */
  badges: z.boolean().optional(),
  /** Levels besides the usual one, on which some controls do and show something else. */
  shifts: z
    .array(z.strictObject({ id: idSchema, name: text(30).min(1) }))
    .max(8)
    .optional(),
  /** What calls the page: panels that follow go to it. */
  calledBy: callSchema.optional(),
});

const responses = z.strictObject({
  tap: z.array(sendSchema).max(40).default([]),
  /** Sent on pointer-down; what each starts is stopped on release. */
  held: z.array(sendSchema).max(10).optional(),
  /** Sent when it is released, whatever the reason, where `tap` was sent on pointer-down. */
  release: z.array(sendSchema).max(10).optional(),
  /** Instead of `tap` the next times it is tapped, in turn; by what the devices report where they do. */
  turns: z.array(z.array(sendSchema).max(10)).max(5).optional(),
  /** What `tap` sends is sent again while it is held: after a first wait, then at an interval that may grow shorter. */
  repeat: z
    .strictObject({
      firstMs: z.number().int().min(100, 'a tenth of a second at least').max(5000),
      everyMs: z.number().int().min(40, '25 times a second at most').max(5000),
      fastestMs: z.number().int().min(40, '25 times a second at most').max(5000).optional(),
    })
    .optional(),
  /** Held for this long it sends these instead; `tap` is then sent when it is released earlier. */
  long: z
    .strictObject({
      afterMs: z.number().int().min(200, 'a fifth of a second at least').max(10_000),
      sends: z.array(sendSchema).max(10),
    })
    .optional(),
  /** What undoes it by itself after a time. Tapped again meanwhile, the time begins anew, or it ends. */
  off: z
    .strictObject({
      afterMs: z.number().int().min(500, 'half a second at least').max(3_600_000),
      again: z.enum(['restart', 'end']),
      sends: z.array(sendSchema).max(10),
    })
    .optional(),
  /** How a press has to be meant, also where it sends nothing risky: held until its bar is full, or pressed twice. */
  guard: z.enum(['hold', 'twice']).optional(),
  /** Asked on the panel before a tap is carried out: the answers take the place of values of the control. */
  asks: z
    .strictObject({
      /** Unanswered for this long, the press ends as skipped. */
      mostMs: z.number().int().min(3000, 'three seconds at least').max(600_000, 'ten minutes at most'),
      items: z
        .array(
          z.strictObject({
            value: valueName,
            title: text(40).min(1),
            /** Only these can be answered; else whatever the command takes that the answer is for. */
            options: z.array(scalarSchema).min(1).max(60).optional(),
          }),
        )
        .min(1)
        .max(6),
    })
    .optional(),
  /** The macro that a tap begins besides, and its parameters where they are not the usual ones. */
  runs: z.strictObject({ macro: idSchema, params: z.record(valueName, sentArgumentSchema).default({}) }).optional(),
});
const iconName = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'the name of an icon');
const values = z.record(valueName, scalarSchema);
const label = z.array(labelSegmentSchema).max(40);
const picture = z.string().regex(/^[0-9a-f]{64}$/, 'the hash of a picture');

/** Only the items of a list of which one reading says this: those of a folder. */
const amongSchema = z.strictObject({ reading: z.string().min(1).max(80), is: scalarSchema });
export type Among = z.infer<typeof amongSchema>;

/**
 * When a condition holds, what the control shows or is. Of each of these (lamp, label, icon, picture, bar) the first rule that holds
 * and says something about it decides.
 */
export const lampRuleSchema = z
  .strictObject({
    when: conditionSchema,
    show: meaningSchema.optional(),
    blink: z.literal(true).optional(),
    word: text(16).optional(),
    label: label.optional(),
    icon: iconName.optional(),
    picture: picture.optional(),
    /** It cannot be pressed meanwhile. */
    bars: z.literal(true).optional(),
  })
  .refine((rule) => rule.show ?? rule.label ?? rule.icon ?? rule.picture ?? rule.bars, {
    message: 'a rule lights, shows or bars something',
  });
const lamps = z.array(lampRuleSchema).max(40);

export const controlDataSchema = z.strictObject({
  page: idSchema,
  type: z.enum(['button', 'fader', 'dial', 'stick', 'readout', 'list', 'presets']),
  col: cellIndex,
  row: cellIndex,
  cols: cellCount.default(1),
  rows: cellCount.default(1),
  label,
  /** What it shows besides. */
  shows: shownSchema.optional(),
  /** Values that label, response and lamps share, so that they count together: which input this button is about. */
  values: values.default({}),
  /** What each gesture sends, in order. */
  responses,
  lamps: lamps.default([]),
  /** Of a fader or dial: the command that takes its value, and the reading of that value. */
  range: rangeSchema.optional(),
  /** Of a stick: what of a device it steers. */
  drive: z
    .strictObject({
      device: idSchema,
      drive: z.string().min(1).max(60),
      /** Which ways it goes; both when absent. */
      axes: z.enum(['across', 'along']).optional(),
      /** Dead zone round the middle, as a share of the whole way. */
      dead: z.number().min(0).max(0.6).optional(),
      /** The speed goes with this power of the way: 1 evenly, more with finer control near the middle. 2 when absent. */
      curve: z.number().min(1).max(4).optional(),
      /** The fastest that it goes, of what the device can. */
      top: z.number().min(0.05).max(1).optional(),
      flipX: z.literal(true).optional(),
      flipY: z.literal(true).optional(),
    })
    .optional(),
  /** Of a list: which list of a device, and whether its items are rows or cards with pictures. */
  list: z
    .strictObject({
      device: idSchema,
      list: z.string().min(1).max(60),
      form: z.enum(['small', 'large']),
      among: amongSchema.optional(),
    })
    .optional(),
  /** Of presets: of which camera. */
  presets: presetBoardSchema.optional(),
  tint: tintSchema.optional(),
  /** The name of a drawing of the icon set that ships. */
  icon: iconName.optional(),
  /** A picture of the show, by the SHA-256 of its bytes. */
  picture: picture.optional(),
  /** What is another on a shift level, by level. */
  shifts: z
    .record(
      idSchema,
      z.strictObject({
        label: label.optional(),
        values: values.optional(),
        responses: responses.optional(),
        lamps: lamps.optional(),
        tint: tintSchema.optional(),
        icon: iconName.optional(),
        picture: picture.optional(),
      }),
    )
    .optional(),
  /**
   * Pressing it acts on the screen on which it is pressed: it chooses a shift level (while held, or until another is chosen), what a zone
   * drives, or the page; it locks the screen against touch; or it dims the screen, and brightens it when pressed again.
   */
  sets: z
    .union([
      z.strictObject({ shift: idSchema, while: z.enum(['held', 'chosen']) }),
      z.strictObject({ zone: idSchema, device: idSchema }),
      z.strictObject({ page: idSchema }),
      z.strictObject({ go: z.enum(['next', 'back', 'first']) }),
      z.strictObject({ screen: z.enum(['lock', 'dim']) }),
    ])
    .optional(),
  /** It was dealt with others that differ in this value, and can be dealt on. */
  series: z.strictObject({ id: idSchema, value: valueName, among: amongSchema.optional() }).optional(),
});

/** Says that a device is the source of an input of a switcher. */
const tieData = z.strictObject({
  source: idSchema,
  switcher: idSchema,
  input: z.number().int().min(0).max(10_000),
  /** Of a source that is a switcher: the reading that says what is on the output that feeds the input. Its program when absent. */
  output: z.string().min(1).max(80).optional(),
});

/** A set of pages for somebody's hands, under an address of its own. */
const panelDataSchema = z.strictObject({
  name: text(60).min(1),
  /** The part of its address after `/panel/`. */
  path: z.string().regex(/^[a-z0-9][a-z0-9-]{0,29}$/, 'small letters, digits and hyphens, 30 at most'),
  order: z.number(),
  /** Its pages, the first one first; none means all of the show. */
  pages: z.array(idSchema).max(200).default([]),
  /** Controls that it does not show and may not press. */
  hidden: z.array(idSchema).max(2000).default([]),
  /** In per cent. */
  brightness: z.number().int().min(20).max(100).default(100),
  /** All screens of this panel have the same page, level and picks. */
  linked: z.literal(true).optional(),
  /** Its screens go to the page that is called, until somebody turns that off at the screen. */
  follows: z.literal(true).optional(),
  /** The fastest that its screens move anything, as a part of the usual: 1 when absent. */
  topSpeed: z.number().min(0.05).max(1).optional(),
  /** Its screens are told when health finds something beyond its limit. */
  tellsHealth: z.literal(true).optional(),
});

const base = { id: idSchema, version: z.number().int().min(1) };

export const recordSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('show'), ...base, data: showData }),
  z.strictObject({ kind: z.literal('device'), ...base, data: deviceData }),
  z.strictObject({ kind: z.literal('page'), ...base, data: pageDataSchema }),
  z.strictObject({ kind: z.literal('control'), ...base, data: controlDataSchema }),
  z.strictObject({ kind: z.literal('tie'), ...base, data: tieData }),
  z.strictObject({ kind: z.literal('panel'), ...base, data: panelDataSchema }),
  z.strictObject({ kind: z.literal('macro'), ...base, data: macroDataSchema }),
  z.strictObject({ kind: z.literal('snapshot'), ...base, data: snapshotDataSchema }),
  z.strictObject({ kind: z.literal('preset'), ...base, data: presetDataSchema }),
  z.strictObject({ kind: z.literal('binding'), ...base, data: bindingDataSchema }),
  z.strictObject({ kind: z.literal('variable'), ...base, data: variableDataSchema }),
  z.strictObject({ kind: z.literal('watch'), ...base, data: watchDataSchema }),
  z.strictObject({ kind: z.literal('inlet'), ...base, data: inletDataSchema }),
]);

export type ShowRecord = z.infer<typeof recordSchema>;
export type RecordKind = ShowRecord['kind'];
export type RecordOf<K extends RecordKind> = Extract<ShowRecord, { kind: K }>;
export type DeviceRecord = RecordOf<'device'>;
export type PageRecord = RecordOf<'page'>;
export type ControlRecord = RecordOf<'control'>;
export type TieRecord = RecordOf<'tie'>;
export type PanelRecord = RecordOf<'panel'>;
export type MacroRecord = RecordOf<'macro'>;
export type SnapshotRecord = RecordOf<'snapshot'>;
export type PresetRecord = RecordOf<'preset'>;
export type BindingRecord = RecordOf<'binding'>;
export type VariableRecord = RecordOf<'variable'>;
export type WatchRecord = RecordOf<'watch'>;
export type InletRecord = RecordOf<'inlet'>;
export type LabelSegment = z.infer<typeof labelSegmentSchema>;
export type Tint = z.infer<typeof tintSchema>;
export type Zone = PageRecord['data']['zones'][number];
export type Meaning = z.infer<typeof meaningSchema>;
export type LampRule = z.infer<typeof lampRuleSchema>;
export type ControlType = ControlRecord['data']['type'];
export type SendSpec = z.infer<typeof sendSchema>;
