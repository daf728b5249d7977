import { z } from 'zod';
import { idSchema, text } from './reading-ref';

/** Ways in for other systems, as they are stored. What comes in means what `core/inlet` says. */

/** The longest text that comes in at once, in characters. */
export const longestInletText = 300;

const address = z.string().regex(/^[0-9A-Fa-f.:]{2,45}$/, 'an IP address');

const triggerText = text(longestInletText).min(1);

/** A topic filter of MQTT (3.1.1 and 5.0, 4.7): `+` stands for one level, `#` for all that follow. */
export const topicFilter = /^(?:[^+#\0/]*|\+)(?:\/(?:[^+#\0/]*|\+))*(?:\/#)?$|^#$/;
const filters = z
  .array(
    text(200).min(1).regex(topicFilter, 'a topic such as club/horn, with + for one level and # for all that follow'),
  )
  .max(50);

export const inletDataSchema = z
  .strictObject({
    name: text(40).min(1),
    order: z.number(),
    note: text(2000).default(''),
    /**
     * Lines of text, messages of Open Sound Control, requests of HTTP/1.1, or messages of MQTT; levels of sACN (ANSI E1.31) and the names and tally of
     * UMD, which are readings and ask for nothing.
     */
    speaks: z.enum(['text', 'osc', 'http', 'mqtt', 'sacn', 'umd']),
    over: z.enum(['tcp', 'udp']),
    port: z.number().int().min(1, 'a port from 1 to 65535').max(65_535, 'a port from 1 to 65535'),
    /** The address of this computer on which it listens. */
    host: address.default('127.0.0.1'),
    /** Only from these addresses or networks (`10.0.4.0/24`); from any when empty, which is for this computer only. */
    from: z
      .array(z.string().regex(/^[0-9A-Fa-f.:]{2,45}(\/\d{1,3})?$/, 'an IP address or a network such as 10.0.4.0/24'))
      .max(20)
      .default([]),
    /** Senders may only read, and fire the watches that wait for them. */
    readsOnly: z.literal(true).optional(),
    /** What a person would have to confirm is done without. */
    confirms: z.literal(true).optional(),
    /** Of HTTP and of MQTT's own broker: who may ask, each with the SHA-256 of a token. While there is none, only this computer may. */
    callers: z
      .array(z.strictObject({ name: text(40).min(1), hash: z.string().regex(/^[0-9a-f]{64}$/) }))
      .max(20)
      .optional(),
    /** Of HTTP: the web pages that may ask from a browser, `https://scores.example`. */
    origins: z
      .array(z.string().regex(/^https?:\/\/[^\s/]{1,120}$/, 'an origin such as https://scores.example'))
      .max(20)
      .optional(),
    /** Of MQTT: what its own topics begin with. */
    base: z
      .string()
      .regex(/^[A-Za-z0-9_-]{1,40}(\/[A-Za-z0-9_-]{1,40}){0,4}$/, 'letters, digits, _ and -, with / between levels')
      .optional(),
    /** Of MQTT: what is published and retained, by topic filters below `<base>/is/`: `lamp/#`, `SW1/program`. */
    publishes: filters.optional(),
    /** Of MQTT: a broker elsewhere, in place of the one that listens here. Its password is kept apart, under the id of the inlet. */
    broker: z
      .strictObject({
        host: text(200).min(1),
        port: z.number().int().min(1, 'a port from 1 to 65535').max(65_535, 'a port from 1 to 65535'),
        secure: z.literal(true).optional(),
        user: text(100).optional(),
        /** What is listened to besides its own topics, for watches and for learning. */
        topics: filters.optional(),
      })
      .optional(),
    /** Of sACN: the universe, and how many of its channels are read. */
    universe: z.number().int().min(1).max(63_999).optional(),
    channels: z.number().int().min(1).max(512).optional(),
    /** The number in the readings that its first channel (1 when absent) or its display 0 (0 when absent) has, so that two inlets do not share any. */
    first: z.number().int().min(0).max(499).optional(),
    /** What it has learned: a text that comes in, whatever it says, and the control that it presses or the macro that it starts. */
    triggers: z
      .array(
        z.union([
          z.strictObject({ text: triggerText, press: idSchema }),
          z.strictObject({ text: triggerText, run: idSchema }),
        ]),
      )
      .max(400)
      .optional(),
    on: z.boolean().default(false),
  })
  .refine(({ speaks, over }) => speaks === 'text' || speaks === 'osc' || over === (isLevels(speaks) ? 'udp' : 'tcp'), {
    message: 'HTTP and MQTT go over TCP, sACN and UMD over UDP.',
    path: ['over'],
  })
  .refine(({ host, from }) => from.length > 0 || isOwn(host), {
    message: 'List the allowed addresses when other computers can reach this inlet.',
    path: ['from'],
  });
export type InletData = z.infer<typeof inletDataSchema>;
export type Trigger = NonNullable<InletData['triggers']>[number];

/** The highest number of a display or a channel in the readings, and one more. */
export const mostDisplays = 500;

const isLevels = (speaks: string): boolean => speaks === 'sacn' || speaks === 'umd';

const isOwn = (host: string): boolean => /^127\./.test(host) || host === '::1';
