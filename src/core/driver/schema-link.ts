import { z } from 'zod';
import { checksumNames, maxPriority, maxUniverse } from '../wire';
import { messageSchema } from './schema-messages';
import { headerNameSchema, msSchema, orOption } from './schema-values';

/** How a device is reached, and how bytes become frames. */

const maxFrameBytes = (fallback: number) => z.number().int().min(8).max(1_048_576).default(fallback);
const encoding = orOption(z.enum(['utf-8', 'latin-1'])).default('utf-8');

const hexBytes = z
  .string()
  .regex(/^([0-9A-Fa-f]{2} ?){1,8}$/, 'one to eight bytes in hexadecimal digits, such as "0D0A"');

/**
 * A checksum at the end of each frame, right before the bytes that end it, over everything from byte `from` on. Frames where it is wrong are
 * dropped, counted and shown.
 */
const check = z
  .strictObject({
    algorithm: orOption(z.enum([...checksumNames, 'none'])),
    from: orOption(z.number().int().min(0).max(64)).default(0),
    /** The order of its bytes. */
    endian: orOption(z.enum(['big', 'little'])).default('big'),
    /** Written as bytes, or as hexadecimal digits. */
    as: z.enum(['bytes', 'hex']).default('bytes'),
  })
  .optional();

/** The bytes that begin each frame, as one number or in hexadecimal digits. Behind garbage the next frame is found by them. */
const start = z.union([z.number().int().min(0).max(255), hexBytes]).optional();

/** The bytes that end each frame, behind its checksum. */
const end = hexBytes.optional();

export const framingSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('lines'),
    ending: z.enum(['lf', 'crlf', 'cr', 'nul', 'any']),
    /** How lines end that are sent, where that is different. */
    sends: orOption(z.enum(['lf', 'crlf', 'cr', 'nul', 'none'])).optional(),
    encoding,
    maxFrameBytes: maxFrameBytes(4096),
  }),
  z.strictObject({ kind: z.literal('json-lines'), maxFrameBytes: maxFrameBytes(65_536) }),
  z.strictObject({
    kind: z.literal('terminated'),
    terminator: orOption(
      z.string().regex(/^([0-9A-Fa-f]{2} ?){1,4}$/, 'one to four bytes in hexadecimal digits, such as "0D0A"'),
    ),
    /** Bytes behind the terminator that still belong to the frame: a checksum. */
    after: z.number().int().min(1).max(8).optional(),
    start,
    check,
    /** What is read in a frame: hexadecimal digits of all of it, or its text without the terminator. */
    as: z.enum(['bytes', 'text']).default('bytes'),
    encoding,
    maxFrameBytes: maxFrameBytes(1024),
  }),
  z.strictObject({
    kind: z.literal('fixed'),
    length: orOption(z.number().int().min(1).max(65_536)),
    start,
    end,
    check,
    encoding,
    maxFrameBytes: maxFrameBytes(65_536),
  }),
  z.strictObject({
    kind: z.literal('prefixed'),
    header: orOption(z.number().int().min(0).max(64)).default(0),
    width: z.union([z.literal(1), z.literal(2), z.literal(4)]),
    endian: z.enum(['big', 'little']).default('big'),
    counts: orOption(z.enum(['rest', 'all'])).default('rest'),
    /** `length`: what is sent has its length in front as well, and the messages are written without it. Only without a header. */
    sends: orOption(z.enum(['nothing', 'length'])).default('nothing'),
    /** Bytes of the frame that the length leaves out, such as a checksum; negative where it counts some of what is before it. */
    uncounted: orOption(z.number().int().min(-64).max(64)).optional(),
    start,
    end,
    check,
    /** What is read in a frame: hexadecimal digits of all of it, or the text between length, checksum and end. */
    as: z.enum(['bytes', 'text']).default('bytes'),
    encoding,
    maxFrameBytes: maxFrameBytes(4096),
  }),
  z.strictObject({ kind: z.literal('unframed'), encoding, maxFrameBytes: maxFrameBytes(65_536) }),
  /** Over a stream: what comes without a pause of `ms` belongs together. */
  z.strictObject({
    kind: z.literal('silence'),
    ms: orOption(z.number().int().min(5).max(10_000)),
    check,
    as: z.enum(['bytes', 'text']).default('text'),
    encoding,
    maxFrameBytes: maxFrameBytes(65_536),
  }),
  z.strictObject({
    kind: z.literal('message'),
    as: z.enum(['text', 'json', 'bytes']),
    check,
    encoding,
    maxFrameBytes: maxFrameBytes(65_536),
  }),
  /** Over a stream in SLIP frames (OSC 1.1), or behind a length of four bytes (OSC 1.0). */
  z.strictObject({
    kind: z.literal('osc'),
    over: orOption(z.enum(['slip', 'length'])).default('slip'),
    maxFrameBytes: maxFrameBytes(65_536),
  }),
  z.strictObject({ kind: z.literal('visca'), header: z.boolean(), maxFrameBytes: maxFrameBytes(24) }),
  z.strictObject({ kind: z.literal('modbus'), maxFrameBytes: maxFrameBytes(260) }),
  z.strictObject({ kind: z.literal('umd'), version: z.enum(['3.1', '5.0']), maxFrameBytes: maxFrameBytes(2048) }),
  /** What is published is read as text, by its topic. */
  z.strictObject({ kind: z.literal('mqtt'), maxFrameBytes: maxFrameBytes(65_536) }),
  /** MIDI 1.0, from one channel or (0) from all. A message is a line: its kind, the channel from 1, numbers: `noteOn 1 60 100`. */
  z.strictObject({
    kind: z.literal('midi'),
    channel: orOption(z.number().int().min(0).max(16)).default(0),
    maxFrameBytes: maxFrameBytes(1024),
  }),
  /** One universe of levels (ANSI E1.31). What is sent now is told as `level 3 128`, `blackout on` and `output off`. */
  z.strictObject({
    kind: z.literal('sacn'),
    universe: orOption(z.number().int().min(1).max(maxUniverse)),
    priority: orOption(z.number().int().min(0).max(maxPriority)).default(100),
    sourceName: orOption(z.string().max(63)).default('Sorrelfinch'),
    begins: orOption(z.enum(['nothing', 'zeros'])).default('nothing'),
    maxFrameBytes: maxFrameBytes(638),
  }),
  z.strictObject({
    kind: z.literal('http'),
    body: z.enum(['json', 'xml', 'text', 'pairs', 'none']),
    /** XML: the local names of elements that are always read as a list, also when there is only one. */
    lists: z.array(z.string().min(1).max(80)).max(60).optional(),
    /** XML: by prefix, the namespaces that messages in SOAP envelopes use. */
    namespaces: z.record(z.string().regex(/^[a-z][a-z0-9]*$/), z.string().min(1).max(200)).optional(),
    /** Which status means that it was done: 200 to 299, those and redirections, or any. */
    done: orOption(z.enum(['2xx', '3xx', 'any'])).default('2xx'),
    maxFrameBytes: maxFrameBytes(1_048_576),
  }),
]);

export const keepAliveSchema = z.strictObject({
  send: messageSchema,
  everyMs: orOption(msSchema),
  /** Nothing heard for this long: the link is `silent`. */
  silentAfterMs: orOption(msSchema),
  /** Nothing heard for this long: the connection is closed and opened again. */
  giveUpAfterMs: orOption(msSchema),
});

export const againSchema = z.strictObject({
  times: orOption(z.number().int().min(0).max(5)),
  everyMs: orOption(msSchema),
});

/** Filters of topics (MQTT 5.0, 4.7.1) with `|` between them: `#` is a level of its own and the last one, `+` a level of its own. */
const topicFilters = z
  .string()
  .max(1000)
  .refine(
    (text) => text.split('|').every((filter) => /^\s*(([^+#/]*|\+)\/)*([^+#/]*|[+#])\s*$/.test(filter)),
    'topics in which + stands for a whole level, and # only at the end',
  );

const deliveries = ['one', 'broadcast', 'multicast'] as const;

/** The settings of a serial line. */
export const lineSchema = z.strictObject({
  /** Bits a second. */
  baudRate: orOption(z.number().int().min(50).max(4_000_000)).default(9600),
  /** Data bits, parity (none, even, odd, mark, space) and stop bits: `8N1`. */
  format: orOption(z.string().regex(/^[5-8][NEOMS](1|1\.5|2)$/, 'a format such as 8N1 or 7E2')).default('8N1'),
  flow: orOption(z.enum(['none', 'rts-cts', 'xon-xoff'])).default('none'),
});

/** The port number of a link without ports: serial, MIDI, and a service of this program. */
export const noPort = 0;

export const linkSchema = z.strictObject({
  kind: z.enum(['tcp', 'udp', 'http', 'websocket', 'mqtt', 'serial', 'midi', 'internal']),
  /** Internal: which service of this program it is. */
  service: z.enum(['timers']).optional(),
  /** The usual port; a port of this computer, serial or MIDI, has none. */
  port: z.number().int().min(noPort).max(65_535).default(noPort),
  /** Serial: the line settings. */
  serial: lineSchema.optional(),
  /** TCP: a gateway with a serial port that is set by RFC 2217. */
  comPort: lineSchema.optional(),
  /** TLS. The device's own certificate is taken as it is: devices sign theirs themselves. */
  secure: z.boolean().default(false),
  /** WebSocket: the path, from its slash. */
  path: orOption(z.string().regex(/^\/\S*$/, 'a path that begins with a slash')).optional(),
  /** WebSocket: which one is asked for; an empty text asks for none. */
  subprotocol: orOption(z.string().max(80)).optional(),
  /** HTTP: a path whose answer is a stream of events, kept open. */
  events: z
    .string()
    .regex(/^\/\S*$/, 'a path that begins with a slash')
    .optional(),
  /** HTTP: how name and password are shown. */
  auth: z.enum(['none', 'basic', 'digest']).default('none'),
  /** HTTP, messages in SOAP envelopes: name and digest of the password as a security token in each (UsernameToken Profile 1.1). */
  securityToken: orOption(z.boolean()).default(false),
  /** UDP: replies come to this port instead of the one that was sent from. */
  localPort: orOption(z.number().int().min(1).max(65_535)).optional(),
  /** TCP: a UDP port of this computer to which the device sends what has changed by itself; 0: it sends nothing. */
  notifications: orOption(z.number().int().min(0).max(65_535)).default(0),
  /** UDP: to one device, to everybody on a subnet (RFC 919), or to a multicast group (RFC 1112). */
  delivery: orOption(z.enum(deliveries)).default('one'),
  /** UDP: the address of this computer by which it leaves, where there are several; empty: the system chooses. */
  localAddress: orOption(z.union([z.literal(''), z.ipv4()])).default(''),
  controllers: z.enum(['many', 'one']).default('many'),
  /** `out`: nothing can come back; the link is `one-way`. */
  direction: z.enum(['both', 'out']).default('both'),
  connectTimeoutMs: msSchema.default(3000),
  /** How long an answer may take before it counts as lost. */
  answerWithinMs: orOption(msSchema).default(2000),
  /** The most requests that wait for their answers at once. */
  window: z.number().int().min(1).max(64).default(16),
  /** Commands that are marked `again` go out again, this often at the most, when nothing has answered or reported their effect for `everyMs`. */
  again: againSchema.optional(),
  /** The smallest pause between two messages. */
  gapMs: z.number().int().min(0).max(10_000).default(0),
  /** Refusal codes that mean: sign-in not accepted, and: another controller has it. */
  lockedOutCodes: z.array(z.string()).default([]),
  occupiedCodes: z.array(z.string()).default([]),
  /** `questions`: a command that is refused so says only that this user may not do it; the sign-in is told by the questions. */
  lockedOutBy: z.enum(['any', 'questions']).default('any'),
  /** Refusal codes that mean: this device does not know the message. A question that is refused so is not polled again on this connection. */
  unknownCodes: z.array(z.string()).default([]),
  keepAlive: keepAliveSchema.optional(),
  /** TCP: a connection for each message, which is closed when it was answered. Messages go one after the other. */
  perMessage: orOption(z.boolean()).default(false),
  /** TCP: the system probes a peer that says nothing, and ends the connection when it is gone. */
  tcpKeepAlive: orOption(z.boolean()).default(true),
  /** HTTP and WebSocket: what every request carries besides. `{user}` and `{password}` fill the holes. */
  headers: z.record(headerNameSchema, z.string().max(1000)).default({}),
  /** HTTP: the same as one text, for people who type it: `X-Key: {password} | Accept: text/plain`. */
  headerText: orOption(z.string().max(1000)).default(''),
  /** MQTT: the topics that the device publishes to, with `|` between them. `+` stands for one level, `#` for all below. */
  topics: orOption(topicFilters).default(''),
  /** MQTT: the version of the protocol. */
  mqttVersion: orOption(z.enum(['5.0', '3.1.1'])).default('5.0'),
  /** MQTT: the name by which the broker knows this connection; without one it has a name of its own. */
  clientId: orOption(z.string().max(120)).default(''),
  /** TLS: the certificate is checked against those that the computer trusts. Devices usually sign theirs themselves. */
  checkCertificate: orOption(z.boolean()).default(false),
});
