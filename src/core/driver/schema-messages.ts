import { z } from 'zod';
import { nameSchema, orOption } from './schema-values';

/** What a driver can say to a device, as templates. */

const template = z.string().min(1).max(4000);

export type JsonTemplate = string | number | boolean | null | JsonTemplate[] | { [key: string]: JsonTemplate };
const jsonTemplate: z.ZodType<JsonTemplate> = z.lazy(() =>
  z.union([
    z.string().max(4000),
    z.number(),
    z.boolean(),
    z.null(),
    z.array(jsonTemplate),
    z.record(z.string(), jsonTemplate),
  ]),
);

const whole = z.union([z.number().int().min(0).max(65_535), template]);

export const messageSchema = z.union([
  /** A line of text, without its ending; over HTTP the path of a GET. */
  template,
  /** Bytes as text with escapes, to which nothing is added. */
  z.strictObject({ bytes: template }),
  /** Bytes in hexadecimal digits, with holes between them. */
  z.strictObject({ hex: template }),
  z.strictObject({ json: jsonTemplate }),
  /** Each argument is its OSC type and a template: ["f", "{level}"]. `B` is T or F by an on/off value. */
  z.strictObject({
    osc: z.strictObject({
      address: template,
      args: z
        .array(z.tuple([z.enum(['i', 'f', 'd', 's', 'h', 'B', 'T', 'F', 'N', 'I']), z.string().max(2000)]))
        .max(40)
        .default([]),
    }),
  }),
  z.strictObject({
    modbus: z.union([
      z.strictObject({
        read: z.enum(['coil', 'input', 'holding', 'register']),
        address: whole,
        count: z.number().int().min(1).max(2000),
        unit: orOption(z.number().int().min(0).max(255)).default(1),
      }),
      z.strictObject({
        write: z.enum(['coil', 'holding']),
        address: whole,
        /** For a coil 0 or 1. */
        value: template,
        unit: orOption(z.number().int().min(0).max(255)).default(1),
      }),
    ]),
  }),
  /** UMD tally: the name and the lamp of one display. `lamp` becomes off, red, green or amber. */
  z.strictObject({
    umd: z.strictObject({
      screen: whole.default(0),
      display: whole,
      lamp: template,
      brightness: whole.default(3),
      /** May be empty. */
      text: z.string().max(400),
    }),
  }),
  /** DMX512 levels, by sACN. */
  z.strictObject({
    dmx: z.union([
      z.strictObject({
        /** The first channel, from 1, and the last one. */
        channel: whole,
        last: whole.optional(),
        /** One level or several with commas between them. They repeat up to the last channel. */
        levels: template,
        /** Two: the levels go to 65,535, and each takes two channels, the high byte first. */
        bytes: z.union([z.literal(1), z.literal(2)]).default(1),
        /** The time that it takes, in seconds. */
        seconds: template.default('0'),
      }),
      /** 1: zeros are sent instead of the levels; 0: the levels again. */
      z.strictObject({ blackout: template }),
      /** Nothing is sent any more, and receivers are told so. */
      z.strictObject({ output: z.literal('off') }),
    ]),
  }),
  z.strictObject({
    http: z.strictObject({
      method: z.enum(['GET', 'POST', 'PUT', 'PATCH', 'DELETE']).default('GET'),
      /** Values in it are percent-encoded. */
      path: template,
      headers: z.record(z.string().regex(/^[A-Za-z][A-Za-z0-9-]*$/), z.string().max(1000)).default({}),
      /** One of the three, or none. */
      json: jsonTemplate.optional(),
      form: z.record(z.string(), z.string().max(2000)).optional(),
      text: z.string().max(4000).optional(),
    }),
  }),
  /** HTTP: a POST of a SOAP 1.2 envelope. */
  z.strictObject({
    soap: z.strictObject({
      path: template,
      /** The action, as the service describes it; not every service has one. */
      action: z.string().max(300).default(''),
      /** The content of the envelope's body. Values in it are escaped; the prefixes are those of the framing. */
      body: template,
    }),
  }),
  z.strictObject({
    mqtt: z.strictObject({
      topic: template,
      /** One of the two, or none for an empty payload. */
      text: z.string().max(4000).optional(),
      json: jsonTemplate.optional(),
      /** The broker keeps the message and delivers it to later subscribers. */
      retain: orOption(z.boolean()).default(false),
      /** Quality of service: 1 at least once, 2 exactly once. The broker acknowledges both. */
      qos: orOption(z.union([z.literal(1), z.literal(2)])).default(1),
    }),
  }),
  /** One of the document's questions, by name. */
  z.strictObject({ ask: nameSchema }),
]);

export type Message = z.infer<typeof messageSchema>;
