import { z } from 'zod';
import { deviceRoles } from './contract-tables';
import { greetingStep } from './schema-greeting';
import { framingSchema, linkSchema } from './schema-link';
import { messageSchema } from './schema-messages';
import { keepSchema } from './schema-keeps';
import { confirmSchema, replySchema, type operand } from './schema-replies';
import {
  msSchema,
  nameSchema,
  patternSchema,
  readingKeySchema,
  scalarSchema,
  titleSchema,
  valueShape,
} from './schema-values';
import { sampleSchema } from './schema-samples';
import { onlySchema, pollSchema, variantSchema } from './schema-variants';

/**
 * The driver document, format 1: how one kind of device is spoken to. It is data only; whatever needs memory between
 * frames lives in a codec of `core/wire`. `docs/drivers.md` is its reference.
 */

/**
 * A step from the value of a reading: up or down by a number, to the next of a few, or to the other of on and off. It ends at the ends of the
 * parameter's range; with `wrap` it goes on at the other end.
 */
const stepSchema = z.strictObject({
  from: readingKeySchema,
  /** The parameter that fills `[]`. */
  index: nameSchema.optional(),
  /** How far: a number, or the parameter that says it. Negative goes down. */
  by: z.union([z.number(), z.strictObject({ param: nameSchema })]).default(1),
  wrap: z.boolean().default(false),
});

/** An expression in the Common Expression Language. */
const expressionSchema = z.string().min(1).max(400);

const parameterSchema = z.strictObject({
  title: titleSchema,
  value: valueShape,
  /** A reading family whose members name the choices: `input[].name` offers one choice for each input. */
  listFrom: readingKeySchema.optional(),
  /** What is sent for a member of that list: its index, or the reading itself. */
  sends: z.enum(['index', 'value']).default('index'),
  /** Of a text that sends the value: `several` members, with semicolons between them, or any text, for which the list only gives `examples`. */
  takes: z.enum(['several', 'examples']).optional(),
  default: scalarSchema.optional(),
  /** May be left out; the part `{?name|…}` of the template is then left out too. */
  optional: z.boolean().default(false),
  /** When nothing is given: what this reading is at that moment. */
  fromReading: readingKeySchema.optional(),
  /** When nothing is given: a step from what a reading is at that moment. */
  step: stepSchema.optional(),
  /** When nothing is given: an expression (CEL) over readings and the parameters before it. */
  computed: expressionSchema.optional(),
});

export const commandSchema = z.strictObject({
  title: titleSchema,
  /**
   * What it does, as a short sentence with its parameters in braces: “Key {key} {on}”. Shown where a command is picked, on steps of macros
   * and in the as-run. A new document needs it for each command; commands of older documents
   * without one show their title and values.
   */
  says: z.string().min(1).max(120).optional(),
  help: z.string().max(400).optional(),
  params: z.record(nameSchema, parameterSchema).default({}),
  send: messageSchema,
  /** It can spoil a show: guarded wherever it can be sent. */
  risky: z.boolean().default(false),
  /** May be sent in a test: changes nothing that anybody sees. */
  harmless: z.boolean().default(false),
  /** Sending it twice does no more than sending it once: it goes out again when nothing answers, as `link.again` says. */
  again: z.literal(true).optional(),
  /** The device never answers it, although it answers other commands: it ends as `sent` unless readings confirm it. */
  unanswered: z.literal(true).optional(),
  class: z.enum(['stop', 'urgent', 'ordinary', 'continuous']).default('ordinary'),
  /** It starts something that goes on until this is sent. A parameter of the stop takes the same-named one of the start. */
  stop: z
    .strictObject({
      command: nameSchema,
      params: z.record(nameSchema, scalarSchema).default({}),
      /** It is stopped after this long even if nobody releases it. */
      longestMs: msSchema.default(30_000),
    })
    .optional(),
  confirm: confirmSchema.optional(),
  /** The device refuses it unless this single reading has one of these values: a camera takes no red gain while it balances white by itself. */
  worksWhile: z.strictObject({ reading: readingKeySchema, oneOf: z.array(scalarSchema).min(1).max(20) }).optional(),
  /** How long after sending it takes effect, where that is known. */
  actsAfterMs: z.number().int().min(0).max(60_000).optional(),
  /** When it works, but nobody would see anything: told while pages are made, where readings can tell. */
  showsNothing: z
    .array(
      z.strictObject({
        /** Only with these parameters. */
        when: z.record(nameSchema, scalarSchema).default({}),
        /** It shows nothing while this reading, or every member of this family, has the value. */
        reading: readingKeySchema,
        is: scalarSchema,
        /** The reason, as a sentence. */
        says: z.string().min(1).max(200),
      }),
    )
    .max(8)
    .optional(),
  /** Offered only where an option of the device has one of these values. */
  only: onlySchema.optional(),
});

export const readingSchema = z.strictObject({
  title: titleSchema,
  value: valueShape,
  /** What it means, on a lamp, that this reading has the value a control is about. */
  means: z.enum(['onAir', 'next', 'warning', 'recording', 'fault', 'active']).optional(),
  /** For a family (`[]` in the key): its members. */
  index: z
    .strictObject({
      title: titleSchema,
      from: z.number().int().min(0),
      to: z.union([z.number().int().max(10_000), z.strictObject({ option: nameSchema })]),
      /** What the device calls the members, from the first one, where it names them instead of numbering them. */
      names: z.array(z.string().min(1).max(80)).min(1).max(1000).optional(),
    })
    .optional(),
  /** Of a family: its members are stored in the device by their number, so that pages from elsewhere may have to call others. */
  stored: z.literal(true).optional(),
  /** A clock that runs on between reports, at `rate` seconds a second, while another reading has a value. */
  runs: z
    .strictObject({
      while: readingKeySchema,
      equals: scalarSchema,
      rate: z.number().min(-10).max(10).default(1),
      /** Running down, it goes on below zero instead of stopping there. */
      past: z.literal(true).optional(),
    })
    .optional(),
  /** By value: what everybody is told when it takes this value, after the device's name. */
  told: z.record(z.string(), z.string().min(1).max(60)).optional(),
  /** It goes up and down between these: offered as a bar. It may end where another reading says, such as the length of a clip. */
  level: z.strictObject({ from: z.number(), to: z.union([z.number(), readingKeySchema]) }).optional(),
  /** Changes smaller than this are ignored, except while a command waits for its effect. For values that fluctuate. */
  deadBand: z.number().positive().optional(),
  /**
   * Instead of a reply: an expression (CEL) over readings before it, such as `input[program].name`. In a family `index` is the number of
   * the member.
   */
  computed: expressionSchema.optional(),
  only: onlySchema.optional(),
});

const questionSchema = z.strictObject({
  send: messageSchema,
  /** It is asked for each member of this family: `{member}` is its number, or the name that the device has for it. */
  each: readingKeySchema.optional(),
  /** A list that comes in pieces: `{from}` counts up by `step` from `first` until the reading `count` is reached. */
  paging: z
    .strictObject({
      first: z.number().int().min(0),
      step: z.number().int().min(1).max(1000),
      count: readingKeySchema,
    })
    .optional(),
});

/** A lamp that a starter brings along. */
const starterLampSchema = z.strictObject({
  reading: z.string().min(1).max(80),
  to: z.union([scalarSchema, z.strictObject({ item: z.enum(['index', 'value']) })]),
  show: z.enum(['onAir', 'next', 'warning', 'recording', 'fault', 'active']),
  word: z.string().max(16).optional(),
});

const starterSchema = z.strictObject({
  /** What it is for, in one or two words; starters are grouped by it. */
  purpose: titleSchema,
  title: titleSchema,
  /** One for each member of this family; `title` is then only what the kind is called. */
  each: readingKeySchema.optional(),
  /** Without one it is a readout, with a label. */
  command: nameSchema.optional(),
  /** What its label says instead of the title: texts, and readings as they are. */
  label: z
    .array(z.union([z.string().min(1).max(60), z.strictObject({ reading: readingKeySchema })]))
    .min(1)
    .max(8)
    .optional(),
  /** Literal, or what is special to the member: its index, or the reading itself. */
  params: z
    .record(nameSchema, z.union([scalarSchema, z.strictObject({ item: z.enum(['index', 'value']) })]))
    .default({}),
  /** Sends on pointer-down and stops on release. */
  held: z.boolean().default(false),
  /** A reading whose value is a picture as a `data:` URL: it is shown on the control. */
  picture: readingKeySchema.optional(),
  /** Parameters that the panel asks for when the control is pressed. */
  asks: z.array(nameSchema).min(1).max(6).optional(),
  lamp: starterLampSchema.optional(),
  /** Instead of one: several, of which the first that holds is shown. */
  lamps: z.array(starterLampSchema).min(2).max(6).optional(),
});

/** Which item of a list a reading names: by its index, or by what it is called. */
const markSchema = z.strictObject({
  reading: z.string().min(1).max(80),
  by: z.enum(['index', 'value']).default('index'),
});

const itemParams = z
  .record(nameSchema, z.union([scalarSchema, z.strictObject({ item: z.enum(['index', 'value']) })]))
  .default({});

/** Something that a device lists and that can be acted on item by item. */
const listSchema = z.strictObject({
  title: titleSchema,
  /** The family that names the items. */
  items: readingKeySchema,
  /** Families with the same index: what else is shown of an item. */
  texts: z.array(readingKeySchema).max(4).default([]),
  /** A family with the same index: a picture as a `data:` URL. */
  picture: readingKeySchema.optional(),
  current: markSchema.optional(),
  next: markSchema.optional(),
  acts: z
    .array(
      z.strictObject({
        title: titleSchema,
        command: nameSchema,
        params: itemParams,
        /** A parameter that is asked for when the act is chosen. */
        ask: nameSchema.optional(),
      }),
    )
    .min(1)
    .max(8),
});

/** How the device stores positions under numbers: commands that all take the number in one parameter. */
const presetsSchema = z.strictObject({
  param: nameSchema,
  store: nameSchema,
  recall: nameSchema,
  forget: nameSchema.optional(),
  /** What is kept in the show besides: the group of readings that says where it is, and sends it there. */
  keep: nameSchema.optional(),
  /** The picture that is taken as one is stored. */
  still: nameSchema.optional(),
  /** A preset that is not reached within this time is called not reached. */
  reachedWithinMs: msSchema.default(20_000),
});

const onlyWhile = z.strictObject({ reading: readingKeySchema, is: scalarSchema });

/** Of a switcher: which of its inputs are to be seen where. */
const tallySchema = z.strictObject({
  /** The reading, or each member of the family, holds the number of an input that is seen there, while another reading has a value. */
  outputs: z
    .array(
      z.strictObject({
        shows: z.enum(['onAir', 'next', 'aux']),
        reading: readingKeySchema,
        while: onlyWhile.optional(),
      }),
    )
    .min(1)
    .max(40),
  /** Inputs that are made of others. */
  inside: z
    .array(z.strictObject({ input: z.number().int(), reading: readingKeySchema, while: onlyWhile.optional() }))
    .max(40)
    .default([]),
  /** Nothing is on air meanwhile. */
  dark: onlyWhile.optional(),
});

/** Something that is steered with a stick: a direction and a speed for each axis, until it is stopped. */
const driveSchema = z.union([
  z.strictObject({
    title: titleSchema,
    /** Commands with "stop" for the two ways of one axis: up or right, and down or left. */
    more: nameSchema,
    less: nameSchema,
    /** The parameter of both that takes the speed, where they have one. */
    speed: nameSchema.optional(),
  }),
  z.strictObject({
    title: titleSchema,
    /** A command with "stop". */
    command: nameSchema,
    /** A choice of left, right, up, down, upLeft, upRight, downLeft, downRight. */
    direction: nameSchema,
    /** The parameters that take the speeds; their ranges are the slowest and the fastest. */
    x: nameSchema,
    y: nameSchema,
    /** The reading, a number, that says how far it is zoomed in: the speed may depend on it. */
    zoom: readingKeySchema.optional(),
    /** The reading, on or off, that says that the directions move in a menu: there they are never swapped. */
    menu: readingKeySchema.optional(),
  }),
]);

/**
 * What this document calls the commands and readings that the contract of its role knows by other names: by the contract's name, its own.
 * What has the contract's name already is not in it.
 */
const contractSchema = z.strictObject({
  commands: z
    .record(
      nameSchema,
      z.strictObject({
        command: nameSchema,
        /** By the contract's name of a parameter, its own. */
        params: z.record(nameSchema, nameSchema).default({}),
      }),
    )
    .default({}),
  readings: z.record(readingKeySchema, readingKeySchema).default({}),
  drives: z.record(nameSchema, nameSchema).default({}),
  stills: z.record(nameSchema, nameSchema).default({}),
});

export const driverDocumentSchema = z.strictObject({
  format: z.literal(1),
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{1,60}$/, 'small letters, digits and hyphens'),
  version: z.number().int().min(1),
  title: titleSchema,
  /** It speaks a protocol that was invented for a stand-in of this program; it stands last in every list. */
  standIn: z.boolean().default(false),
  /** `any`: a generic driver; the role is chosen for each device. */
  role: z.enum([...deviceRoles, 'any']),
  help: z
    .strictObject({
      address: z.string().max(600).optional(),
      signIn: z.string().max(600).optional(),
      switchOn: z.string().max(600).optional(),
      /** Programs that must run beside the device. */
      helpers: z.string().max(600).optional(),
    })
    .default({}),
  /** Programs that must run on the device's computer besides, each by the TCP port at which it can be seen. */
  helpers: z
    .array(z.strictObject({ title: titleSchema, port: z.number().int().min(1).max(65_535) }))
    .max(10)
    .default([]),
  /** How devices of this kind make themselves known: what the name of the service begins with, such as `ONVIF` or `_osc._udp`. */
  announced: z.array(z.string().min(1).max(60)).max(10).default([]),
  /** Words by which people look for this driver besides those in it: series, other names of the protocol. */
  searchWords: z.array(z.string().min(1).max(40)).max(40).default([]),
  /** Name and password that devices of this kind have until somebody changes them: used where a device has neither. */
  signIn: z.strictObject({ user: z.string().max(80).default(''), password: z.string().max(200) }).optional(),
  link: linkSchema,
  framing: framingSchema,
  /** `in-order`: each command is answered, in the order sent. `matched`: each answer names its request. */
  answers: z.enum(['in-order', 'matched', 'none']).default('none'),
  /** What the device says of itself: readings, and the values that this driver knows. */
  identity: z
    .strictObject({
      model: readingKeySchema.optional(),
      models: z.array(z.string()).optional(),
      firmware: readingKeySchema.optional(),
      firmwares: z.array(z.string()).optional(),
      serial: readingKeySchema.optional(),
      /** How far its clock is ahead of this computer's, in seconds. */
      clock: readingKeySchema.optional(),
      /** Options that the device tells itself: by option, the reading that says it. */
      options: z.record(nameSchema, readingKeySchema).optional(),
    })
    .default({}),
  options: z
    .record(
      nameSchema,
      z.strictObject({
        title: titleSchema,
        help: z.string().max(300).optional(),
        value: valueShape,
        default: scalarSchema,
        /** Asked only where another option has one of these values. */
        only: onlySchema.optional(),
      }),
    )
    .default({}),
  variants: z.array(variantSchema).max(60).default([]),
  greeting: z.array(greetingStep).max(20).default([]),
  questions: z.record(nameSchema, questionSchema).default({}),
  /** Asked once after connecting. The link is `up` when a frame matches `until`, when everything was answered, or at once. */
  sync: z
    .strictObject({
      send: z.array(messageSchema).max(100),
      until: patternSchema.optional(),
      answered: z.boolean().default(false),
      withinMs: msSchema.default(3000),
    })
    .default({ send: [], answered: false, withinMs: 3000 }),
  /** Asked again and again. `atOnce`: for the first time right after connecting, as a subscription that is renewed. */
  polls: z.array(pollSchema).max(50).default([]),
  commands: z.record(nameSchema, commandSchema),
  readings: z.record(readingKeySchema, readingSchema),
  replies: z.array(replySchema).max(500).default([]),
  /** What an error code means, in a sentence for people. Wins over the device's own text. */
  errors: z.record(z.string(), z.string()).default({}),
  starters: z.array(starterSchema).max(200).default([]),
  lists: z.record(nameSchema, listSchema).default({}),
  drives: z.record(nameSchema, driveSchema).default({}),
  /** Pictures that it hands out over HTTP. Numbers and texts may be those of an option. */
  stills: z
    .record(
      nameSchema,
      z.strictObject({
        title: titleSchema,
        port: z.union([
          z.number().int().min(1).max(65_535),
          z.strictObject({ option: nameSchema }),
          z.strictObject({ reading: readingKeySchema }),
        ]),
        path: z.union([
          z.string().regex(/^\/\S*$/, 'a path that begins with a slash'),
          z.strictObject({ option: nameSchema }),
          /** The device says where it is. */
          z.strictObject({ reading: readingKeySchema }),
        ]),
        /** Where it hands out the same picture as a stream of pictures (`multipart/x-mixed-replace`); an empty option is none. */
        stream: z
          .union([
            z.string().regex(/^\/\S*$/, 'a path that begins with a slash'),
            z.strictObject({ option: nameSchema }),
            z.strictObject({ reading: readingKeySchema }),
          ])
          .optional(),
        /** The widths in pixels that it can be asked for; `{width}` in its paths stands for one of them. */
        widths: z.array(z.number().int().min(16).max(8192)).min(1).max(12).optional(),
        /** How often it is fetched while a panel shows it. */
        everyMs: z.number().int().min(100).max(600_000).default(1000),
      }),
    )
    .default({}),
  /** Boxes in a picture: for each number the family that says it. */
  layouts: z
    .record(
      nameSchema,
      z.strictObject({
        title: titleSchema,
        /** Boxes that are off are not drawn. */
        on: readingKeySchema.optional(),
        source: readingKeySchema,
        /** The centre, of `placeFull` in the whole picture. */
        x: readingKeySchema,
        y: readingKeySchema,
        placeFull: z.number().positive().default(1),
        /** Of `sizeFull` for the whole picture. */
        size: readingKeySchema,
        sizeFull: z.number().positive().default(1),
        /** What is cropped off, in per cent of the box. */
        left: readingKeySchema.optional(),
        top: readingKeySchema.optional(),
        right: readingKeySchema.optional(),
        bottom: readingKeySchema.optional(),
        /** What the sources are called, by their numbers. */
        names: readingKeySchema.optional(),
      }),
    )
    .default({}),
  /** What of it snapshots keep. */
  keeps: z.record(nameSchema, keepSchema).default({}),
  presets: presetsSchema.optional(),
  tally: tallySchema.optional(),
  /** The command that lights the device's own tally lamp, with its parameters for on air and otherwise. */
  tallyLamp: z
    .strictObject({
      command: nameSchema,
      onAir: z.record(nameSchema, scalarSchema),
      off: z.record(nameSchema, scalarSchema),
    })
    .optional(),
  /** The command that names and lights one of its displays; which of them shows what is set in the rig. */
  displays: z
    .strictObject({
      title: titleSchema,
      command: nameSchema,
      /** Its parameters for the number of the display, the name and the lamp. */
      number: nameSchema,
      name: nameSchema,
      lamp: nameSchema,
      /** The values of the lamp. */
      onAir: scalarSchema,
      next: scalarSchema,
      off: scalarSchema,
      /** Everything is sent again at this interval, because datagrams get lost. */
      againMs: msSchema.default(5000),
    })
    .optional(),
  /** Ports of this device through which others are reached. */
  ports: z
    .record(nameSchema, z.strictObject({ title: titleSchema, port: z.number().int().min(1).max(65_535) }))
    .default({}),
  contract: contractSchema.optional(),
  /** Bytes with what they mean, run as the tests of this document. */
  samples: z.array(sampleSchema).max(300).default([]),
});

/** What a show adds to a device with a driver of its own: the same kinds of data. */
export const additionsSchema = z.strictObject({
  commands: z.record(nameSchema, commandSchema).default({}),
  readings: z.record(readingKeySchema, readingSchema).default({}),
  replies: z.array(replySchema).max(100).default([]),
  questions: z.record(nameSchema, questionSchema).optional(),
  polls: z.array(pollSchema).max(50).optional(),
  contract: contractSchema.optional(),
});

export type DriverDocument = z.infer<typeof driverDocumentSchema>;
export type { DriverKeep, DriverKeepSend } from './schema-keeps';
export type DriverContract = z.infer<typeof contractSchema>;
export type DriverCommand = z.infer<typeof commandSchema>;
export type DriverParameter = DriverCommand['params'][string];
export type DriverReading = z.infer<typeof readingSchema>;
export type DriverReply = z.infer<typeof replySchema>;
export type DriverList = z.infer<typeof listSchema>;
export type DriverStarter = z.infer<typeof starterSchema>;
export type DriverAdditions = z.infer<typeof additionsSchema>;
export type Operand = z.infer<typeof operand>;
