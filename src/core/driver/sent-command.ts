import { RE2JS } from 're2js';
import type { Scalar } from '../result';
import {
  decodeMidi,
  decodeModbusRequest,
  decodeOsc,
  decodeViscaPacket,
  fromHex,
  isCut,
  makeExchange,
  messagesOf,
  midiText,
  oscText,
  parseJson,
  toEscaped,
  toHex,
  type Json,
} from '../wire';
import type { CompiledCommand, CompiledDriver } from './compile';
import { encodeCommand } from './encode';
import type { CompiledJson, CompiledMessage } from './message';
import type { DriverParameter } from './schema';
import { binary, encodingOf, patternOf, prefixOf, type Context } from './sent-pattern';
import { commandText } from './sentence';
import { isByteFormat, isTextWriting, type HoleFormat, type TemplatePart } from './template';
import { fromWire } from './values';
import { readText } from './written-text';

/** A command that was recognised in bytes that went to a device. */
interface SentCommand {
  readonly id: string;
  readonly params: Readonly<Record<string, Scalar>>;
}

/** What the holes of a message have, each byte as one character; `ref` besides the parameters. */
type Found = Readonly<Record<string, string>>;

/**
 * The command that another program, or this one, sent with these bytes; `undefined` where none of the driver’s makes them. What is recognised is
 * checked by sending it: the same bytes have to come out, but for numbers that count messages and for line endings.
 *
 * Commands over HTTP, MQTT, sACN and UMD are not recognised.
 */
export function sentCommand(driver: CompiledDriver, bytes: Uint8Array): SentCommand | undefined {
  const body = bodyOf(driver, bytes);
  if (!body) return undefined;
  for (const { entry, id, find } of findersOf(driver)) {
    const found = find(body);
    const sent = found && paramsOf(driver, id, entry, found);
    if (sent && isSame(driver, sent, found, bytes)) return sent;
  }
  return undefined;
}

interface Finder {
  readonly id: string;
  readonly entry: CompiledCommand;
  readonly find: (body: Uint8Array) => Found | undefined;
}

const known = new WeakMap<CompiledDriver, readonly Finder[]>();

/** Those that say most of themselves come first: a command that sends any text fits everything. */
function findersOf(driver: CompiledDriver): readonly Finder[] {
  const before = known.get(driver);
  if (before) return before;
  const finders = Array.from(driver.commands, ([id, entry]) => ({ id, entry, weight: weightOf(entry.send) }))
    .sort((a, b) => b.weight - a.weight)
    .map(({ id, entry }): Finder => ({
      id,
      entry,
      find: finderOf({ driver, params: entry.command.params }, entry.send),
    }));
  known.set(driver, finders);
  return finders;
}

const weightOf = (message: CompiledMessage): number =>
  JSON.stringify(message).match(/"kind":"(?:text|byte)"|"is":"literal"/g)?.length ?? 0;

const nothing = (): undefined => undefined;

function finderOf(context: Context, message: CompiledMessage): Finder['find'] {
  switch (message.kind) {
    case 'line':
      return partsFinder(
        context,
        message.parts,
        ['lines', 'json-lines'].includes(context.driver.document.framing.kind),
      );
    case 'bytes':
    case 'hex':
      return partsFinder(context, message.parts);
    case 'json': {
      const { body } = message;
      return (bytes) => {
        const value = parseJson(new TextDecoder().decode(bytes));
        return value.ok ? inJson(context, body, value.value) : undefined;
      };
    }
    case 'osc': {
      const address = partsFinder(context, message.address);
      const args = message.args.map(({ value }) => partsFinder(context, value));
      return (bytes) => {
        const packet = decodeOsc(bytes);
        const [said, ...more] = packet.ok ? messagesOf(packet.value) : [];
        if (!said || more.length > 0 || said.args.length !== args.length) return undefined;
        return merged([
          address(utf8.encode(said.address)),
          ...args.map((each, n) => each(utf8.encode(argText(said.args[n])))),
        ]);
      };
    }
    case 'modbus': {
      if (message.write === undefined) return nothing;
      const address = partsFinder(context, message.address);
      const value = partsFinder(context, message.value);
      const { write } = message;
      return (bytes) => {
        const request = decodeModbusRequest(bytes);
        if (!request.ok) return undefined;
        const asked = request.value.request;
        if (write === 'coil' && asked.do === 'writeCoil')
          return merged([address(number(asked.address)), value(number(asked.on ? 1 : 0))]);
        if (write === 'holding' && asked.do === 'writeHolding')
          return merged([address(number(asked.address)), value(number(asked.value))]);
        return undefined;
      };
    }
    default:
      return nothing;
  }
}

const utf8 = new TextEncoder();
const number = (value: number): Uint8Array => utf8.encode(String(value));
const argText = (arg: Parameters<typeof oscText>[0] | undefined): string => (arg ? oscText(arg) : '');

const merged = (parts: readonly (Found | undefined)[]): Found | undefined =>
  parts.some((part) => !part) ? undefined : Object.assign({}, ...parts);

/** What a message is looked for in: without its length, or the header of its packet. */
function bodyOf({ document: { framing } }: CompiledDriver, bytes: Uint8Array): Uint8Array | undefined {
  switch (framing.kind) {
    case 'midi': {
      const message = decodeMidi(bytes);
      // A message is written as its line; the bytes of an exclusive one without blanks, as drivers write them.
      return message.ok ? utf8.encode(midiText(message.value).replace(/(?<=^exclusive .*) /g, '')) : undefined;
    }
    case 'prefixed':
      return framing.sends === 'length' ? bytes.subarray(framing.width) : bytes;
    case 'visca': {
      if (!framing.header) return bytes;
      const packet = decodeViscaPacket(bytes);
      return packet.ok ? packet.value.payload : undefined;
    }
    case 'osc':
      // The two ends of a SLIP frame, or the length in front.
      if (bytes[0] === slipEnd) return bytes.slice(1, -1);
      return framing.over === 'length' && bytes[0] !== slash ? bytes.subarray(4) : bytes;
    default:
      return isCut(framing) ? bytes : undefined;
  }
}

const slipEnd = 0xc0;
const slash = 0x2f;

function withoutEnding(bytes: Uint8Array): Uint8Array {
  let end = bytes.length;
  while (end > 0 && [0, 10, 13].includes(bytes[end - 1] ?? 1)) end -= 1;
  return bytes.subarray(0, end);
}

const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

/**
 * A finder for a template. Its pattern is compiled when bytes first begin as the template does.
 *
 * @param isLine the framing adds an ending, whichever it is
 */
function partsFinder(context: Context, parts: readonly TemplatePart[], isLine = false): Finder['find'] {
  const prefix = prefixOf(context.driver, parts);
  let pattern: RE2JS | undefined;
  return (bytes) => {
    const text = binary(bytes);
    if (!text.startsWith(prefix)) return undefined;
    pattern ??= RE2JS.compile(`(?s)^${patternOf(context, parts, new Set())}${isLine ? '[\\r\\n\\x00]*' : ''}$`);
    const matcher = pattern.matcher(text);
    if (!matcher.find()) return undefined;
    const found: Record<string, string> = {};
    for (const name of Object.keys(pattern.namedGroups())) {
      const value = matcher.group(name);
      if (value !== null && value !== undefined) found[name] = value;
    }
    return found;
  };
}

/** The values of JSON where the template has holes; `undefined` where the two are built differently. */
function inJson(context: Context, template: CompiledJson, value: Json | undefined): Found | undefined {
  switch (template.is) {
    case 'literal':
      return JSON.stringify(value) === JSON.stringify(template.value) ? {} : undefined;
    case 'template':
      if (value === undefined) return {};
      return partsFinder(
        context,
        template.parts,
      )(utf8.encode(typeof value === 'string' ? value : JSON.stringify(value)));
    case 'list':
      if (!Array.isArray(value) || value.length !== template.items.length) return undefined;
      return merged(template.items.map((item, n) => inJson(context, item, value[n])));
    case 'object': {
      if (typeof value !== 'object' || value === null || Array.isArray(value)) return undefined;
      const entries = new Map(Object.entries(value));
      return merged(template.entries.map(([key, each]) => inJson(context, each, entries.get(key))));
    }
  }
}

/** The parameters that were found, as their types have them; `undefined` where one does not fit its type. */
function paramsOf(driver: CompiledDriver, id: string, entry: CompiledCommand, found: Found): SentCommand | undefined {
  const formats = formatsIn(entry.send);
  const params: Record<string, Scalar> = {};
  for (const [name, param] of Object.entries(entry.command.params)) {
    const raw = found[name];
    if (raw === undefined) continue;
    const value = valueOf(param, formats.get(name), raw, encodingOf(driver));
    if (value === undefined) return undefined;
    params[name] = value;
  }
  return { id, params };
}

/** The formats of the holes of a message, by their names. */
function formatsIn(message: CompiledMessage): ReadonlyMap<string, HoleFormat> {
  const formats = new Map<string, HoleFormat>();
  const look = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    const part = value as Partial<Extract<TemplatePart, { kind: 'hole' }>>;
    if (part.kind === 'hole' && part.name !== undefined && part.format) formats.set(part.name, part.format);
    for (const each of Object.values(value)) look(each);
  };
  look(message);
  return formats;
}

function valueOf(
  { value }: DriverParameter,
  format: HoleFormat | undefined,
  raw: string,
  encoding: 'utf-8' | 'latin-1',
): Scalar | undefined {
  const bytes = bytesOf(raw);
  // How a device writes it counts for readings: here the format of the hole decides.
  const shape = 'reads' in value ? { ...value, reads: undefined } : value;
  if (shape.type === 'payload') return shape.as === 'hex' ? toHex(bytes).replace(/..(?=.)/g, '$& ') : toEscaped(bytes);
  const text =
    format && isByteFormat(format.as) ? String(numberIn(format, bytes, isSigned(shape))) : plainText(bytes, encoding);
  const written = format && isTextWriting(format.as) ? readText(format.as, text) : undefined;
  if (written && !written.ok) return undefined;
  const read = fromWire(shape, written?.value ?? unpadded(text, format));
  return read.ok ? read.value : undefined;
}

const isSigned = (shape: DriverParameter['value']): boolean =>
  (shape.type === 'whole' || shape.type === 'decimal') && typeof shape.min === 'number' && shape.min < 0;

function unpadded(text: string, format: HoleFormat | undefined): string {
  if (format?.as === 'pad') return text.trimEnd();
  if (format?.as === 'dec') return String(parseInt(text, 10));
  return format?.as === 'hex' ? String(parseInt(text, 16)) : text;
}

const plainText = (bytes: Uint8Array, encoding: 'utf-8' | 'latin-1'): string =>
  encoding === 'latin-1' ? binary(bytes) : new TextDecoder().decode(bytes);

function numberIn({ as }: HoleFormat, bytes: Uint8Array, signed: boolean): number {
  if (as === 'f32be') return new DataView(bytes.slice().buffer).getFloat32(0);
  if (as === 'bcd') return Number(toHex(bytes));
  const inOrder = as === 'u16le' || as === 'u32le' ? bytes.slice().reverse() : bytes;
  const base = as === 'nib' ? 16 : 256;
  const whole = inOrder.reduce((all, byte) => all * base + byte, 0);
  const most = base ** inOrder.length;
  return signed && whole >= most / 2 ? whole - most : whole;
}

/** True when the command, sent again, makes the same bytes. */
function isSame(driver: CompiledDriver, { id, params }: SentCommand, found: Found, bytes: Uint8Array): boolean {
  const ref = Number(found.ref ?? 1);
  const encoded = encodeCommand(driver, id, params, { ref });
  if (!encoded.ok) return false;
  const { framing, link } = driver.document;
  const { out } = encoded.value;
  if (out.kind === 'visca') return toHex(out.payload) === toHex(bodyOf(driver, bytes) ?? new Uint8Array());
  if (out.kind === 'modbus') {
    const asked = decodeModbusRequest(bytes);
    return asked.ok && JSON.stringify(asked.value.request) === JSON.stringify(out.request);
  }
  if (!isCut(framing)) return false;
  const written = makeExchange(framing, link.kind !== 'udp').write(out, ref);
  if (!written.ok) return false;
  if (toHex(withoutEnding(written.value)) === toHex(withoutEnding(bytes))) return true;
  const [one, other] = [written.value, bytes].map((each) => parseJson(new TextDecoder().decode(each)));
  return one?.ok === true && other?.ok === true && JSON.stringify(one.value) === JSON.stringify(other.value);
}

/**
 * The sentence of the command that was sent with these bytes; `undefined` where none is recognised.
 *
 * @param hex two digits each
 */
export function sentMeaning(driver: CompiledDriver, hex: string): string | undefined {
  const bytes = fromHex(hex);
  const sent = bytes.ok && bytes.value.length > 0 ? sentCommand(driver, bytes.value) : undefined;
  return sent && commandText(driver.document, sent.id, sent.params);
}
