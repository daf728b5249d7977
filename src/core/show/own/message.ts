import type { DriverCommand, DriverDocument } from '../../driver';
import { fail, ok, type Problem, type Result } from '../../result';
import { fromHex, midiOf, parseJson, type Json } from '../../wire';
import { bytesTemplate, plainTemplate, typedOfBytes, typedOfPlain } from './typed-text';

/** A message that a person types for a command or a question of their own. Names of values in braces are holes. */
export type OwnMessage =
  /** Text with escapes, and escapes that end it: those of the line ending that was chosen. */
  | { readonly as: 'text'; readonly payload: string; readonly ending: string }
  | { readonly as: 'hex'; readonly payload: string }
  | { readonly as: 'json'; readonly payload: string }
  | {
      readonly as: 'http';
      readonly method: HttpMethod;
      readonly path: string;
      /** One a line: `Name: value`. */
      readonly headers: string;
      readonly body: HttpBody;
      /** Of the body: text, JSON, or one pair a line: `key=value`. */
      readonly payload: string;
    }
  /** `args`: type and value, with commas between: `f {level}, s "two words", i 3`. */
  | { readonly as: 'osc'; readonly address: string; readonly args: string }
  | {
      readonly as: 'mqtt';
      readonly topic: string;
      /** Text or JSON; empty for an empty payload. */
      readonly payload: string;
      readonly retain: boolean;
    }
  | { readonly as: 'modbus'; readonly table: 'coil' | 'holding'; readonly address: number; readonly value: string };

export const httpMethods = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
type HttpMethod = (typeof httpMethods)[number];
export type HttpBody = 'none' | 'json' | 'form' | 'text';

type Message = DriverCommand['send'];
type Kind = OwnMessage['as'];

/** How messages to this kind of device can be typed, the usual one first; none where only a driver document can say them. */
export function messageKinds({ framing }: DriverDocument): readonly Kind[] {
  switch (framing.kind) {
    case 'lines':
    case 'terminated':
    case 'silence':
    case 'fixed':
    case 'prefixed':
    case 'unframed':
      return ['text', 'hex'];
    case 'message':
      return framing.as === 'json' ? ['json', 'text'] : ['text', 'hex'];
    case 'json-lines':
      return ['json'];
    case 'midi':
      return ['text', 'hex'];
    case 'visca':
      return ['hex'];
    case 'http':
    case 'osc':
    case 'modbus':
    case 'mqtt':
      return [framing.kind];
    case 'umd':
    case 'sacn':
      return [];
  }
}

/** An empty message of a kind, for a device of this driver. */
export function emptyMessage(as: Kind, document: DriverDocument): OwnMessage {
  switch (as) {
    case 'text':
      return { as, payload: '', ending: usualEnding(document) };
    case 'hex':
      return { as, payload: '' };
    case 'json':
      return { as, payload: '{}' };
    case 'http':
      return { as, method: 'GET', path: '/', headers: '', body: 'none', payload: '' };
    case 'osc':
      return { as, address: '/', args: '' };
    case 'modbus':
      return { as, table: 'coil', address: 0, value: '1' };
    case 'mqtt':
      return { as, topic: '', payload: '', retain: false };
  }
}

const lineEndings = [
  { title: 'CR LF', escape: '\\r\\n' },
  { title: 'LF', escape: '\\n' },
  { title: 'CR', escape: '\\r' },
  { title: 'NUL', escape: '\\0' },
  { title: 'none', escape: '' },
] as const;

const endingOption = '{option.ends}';

/** The endings to choose from for a text to this kind of device: as its options say, where it has such an option. */
export const endingsFor = ({
  options,
}: DriverDocument): readonly { readonly title: string; readonly escape: string }[] =>
  'ends' in options ? [{ title: 'as set for the device', escape: endingOption }, ...lineEndings] : lineEndings;

/** The ending that the driver itself uses, so that it is never forgotten. */
function usualEnding({ framing, options }: DriverDocument): string {
  if ('ends' in options) return endingOption;
  return framing.kind === 'lines'
    ? { crlf: '\\r\\n', lf: '\\n', cr: '\\r', nul: '\\0', any: '\\r\\n' }[framing.ending]
    : '';
}

/**
 * The message of a driver document for one that was typed. Fails with the field at fault and the character.
 *
 * @param known the names of the values that fill holes
 */
export function messageOf(
  typed: OwnMessage,
  known: readonly string[],
  document: DriverDocument,
): Result<Message, Problem> {
  switch (typed.as) {
    case 'text': {
      if (document.framing.kind === 'midi') return midiLine(typed.payload, known);
      const template = bytesTemplate(typed.payload, known);
      return template.ok ? ok({ bytes: template.value + typed.ending }) : template;
    }
    case 'hex': {
      const bytes = fromHex(typed.payload.replace(/\{[^{}]*\}/g, (hole) => '00'.padEnd(hole.length, ' ')));
      if (!bytes.ok) {
        return fail({ path: 'payload', message: `Character ${bytes.error.offset + 1}: ${bytes.error.message}` });
      }
      return ok({ hex: typed.payload.replace(/[,:](?![^{}]*\})/g, ' ') });
    }
    case 'json': {
      const body = jsonOf(typed.payload, known);
      return body.ok ? ok({ json: body.value }) : body;
    }
    case 'http':
      return httpOf(typed, known, document);
    case 'osc': {
      const args = oscArgs(typed.args, known);
      if (!typed.address.startsWith('/')) {
        return fail({ path: 'address', message: 'An OSC address begins with a slash.' });
      }
      return args.ok ? ok({ osc: { address: plainTemplate(typed.address, known), args: args.value } }) : args;
    }
    case 'mqtt':
      return mqttOf(typed, known, document);
    case 'modbus': {
      const value = plainTemplate(typed.value, known);
      return ok({ modbus: { write: typed.table, address: typed.address, value, unit: unitOf(document) } });
    }
  }
}

/** The unit that Modbus messages go to: that of the device's options, where its driver has such an option. */
export const unitOf = ({ options }: DriverDocument): number =>
  'unit' in options ? ({ option: 'unit' } as unknown as number) : 1;

/** What was typed for a message of a document; `undefined` where it cannot be typed so. */
export function typedOf(message: Message, document: DriverDocument): OwnMessage | undefined {
  if (typeof message === 'string' && document.framing.kind === 'midi')
    return { as: 'text', payload: typedOfPlain(message), ending: '' };
  if (typeof message === 'string' || 'ask' in message || 'umd' in message || 'dmx' in message || 'soap' in message)
    return undefined;
  if ('bytes' in message) {
    const ending = endingsFor(document).find(({ escape }) => escape !== '' && message.bytes.endsWith(escape))?.escape;
    const body = message.bytes.slice(0, message.bytes.length - (ending?.length ?? 0));
    return { as: 'text', payload: typedOfBytes(body), ending: ending ?? '' };
  }
  if ('hex' in message) return { as: 'hex', payload: message.hex };
  if ('json' in message) return { as: 'json', payload: jsonTyped(message.json) };
  if ('osc' in message) {
    const args = message.osc.args.map(([type, value]) => `${type} ${quoted(type, typedOfPlain(value))}`.trim());
    return { as: 'osc', address: typedOfPlain(message.osc.address), args: args.join(', ') };
  }
  if ('modbus' in message) {
    if ('read' in message.modbus) return undefined;
    const { write, address, value } = message.modbus;
    return { as: 'modbus', table: write, address: Number(address), value: typedOfPlain(value) };
  }
  if ('mqtt' in message) {
    const { topic, text = '', json, retain } = message.mqtt;
    const payload = json === undefined ? typedOfPlain(text) : jsonTyped(json);
    return { as: 'mqtt', topic: typedOfPlain(topic), payload, retain };
  }
  const { method, path, headers, json, form, text } = message.http;
  const base = { as: 'http', method, path: typedOfPlain(path.replace(basePath, '')) } as const;
  const lines = Object.entries(headers).map(([name, value]) => `${name}: ${typedOfPlain(value)}`);
  const pairs = Object.entries(form ?? {}).map(([key, value]) => `${typedOfPlain(key)}=${typedOfPlain(value)}`);
  const body = json === undefined ? (form ? 'form' : text === undefined ? 'none' : 'text') : 'json';
  const payload = json === undefined ? (form ? pairs.join('\n') : typedOfPlain(text ?? '')) : jsonTyped(json);
  return { ...base, headers: lines.join('\n'), body, payload };
}

/** A MIDI message is typed as its line; what its values will be is not known yet, so only the kind and their number are checked. */
function midiLine(payload: string, known: readonly string[]): Result<Message, Problem> {
  const filled = midiOf(payload.replace(/\{[^{}]*\}/g, '1'));
  return filled.ok ? ok(plainTemplate(payload.trim(), known)) : fail({ path: 'payload', message: filled.error });
}

const basePath = '{option.base:path}';

type Http = Extract<OwnMessage, { as: 'http' }>;

function httpOf(typed: Http, known: readonly string[], { options }: DriverDocument): Result<Message, Problem> {
  const { method, path, body, payload } = typed;
  if (!path.startsWith('/')) return fail({ path: 'path', message: 'A path begins with a slash.' });
  const headers: Record<string, string> = {};
  for (const line of linesOf(typed.headers)) {
    const match = /^([A-Za-z][A-Za-z0-9-]*)\s*:\s*(.*)$/.exec(line);
    if (!match) return fail({ path: 'headers', message: `“${line}” is not a header. Write “Name: value”.` });
    headers[match[1] ?? ''] = plainTemplate(match[2] ?? '', known);
  }
  const base = { method, path: ('base' in options ? basePath : '') + plainTemplate(path, known), headers };
  if (body === 'none') return ok({ http: base });
  if (body === 'text') return ok({ http: { ...base, text: plainTemplate(payload, known) } });
  if (body === 'json') {
    const json = jsonOf(payload, known);
    return json.ok ? ok({ http: { ...base, json: json.value } }) : json;
  }
  const form: Record<string, string> = {};
  for (const line of linesOf(payload)) {
    const at = line.indexOf('=');
    if (at < 1) return fail({ path: 'payload', message: `“${line}” is not a pair. Write “key=value”, one a line.` });
    form[plainTemplate(line.slice(0, at), known)] = plainTemplate(line.slice(at + 1), known);
  }
  return ok({ http: { ...base, form } });
}

/** A payload that is an object or a list is JSON, in which values keep their type; anything else is text as it is typed. */
function mqttOf(
  { topic, payload, retain }: Extract<OwnMessage, { as: 'mqtt' }>,
  known: readonly string[],
  { options }: DriverDocument,
): Result<Message, Problem> {
  const to = plainTemplate(topic.trim(), known);
  if (to === '') return fail({ path: 'topic', message: 'Enter the topic.' });
  if (/[+#]/.test(topic)) return fail({ path: 'topic', message: 'A message goes to one topic, without + and #.' });
  const body = /^\s*[[{]/.test(payload) ? jsonOf(payload, known) : undefined;
  const qos = 'qos' in options ? ({ option: 'qos' } as unknown as 1) : 1;
  const base = { topic: to, retain, qos };
  // A text may begin like JSON and be none; a value in braces may be all of it.
  return ok({ mqtt: body?.ok ? { ...base, json: body.value } : { ...base, text: plainTemplate(payload, known) } });
}

const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

type JsonTemplate = Extract<Message, { json: unknown }>['json'];

/** JSON with holes. One that stands for a whole value may be typed with or without quotes, and keeps the type of its value. */
function jsonOf(typed: string, known: readonly string[]): Result<JsonTemplate, Problem> {
  const bare = known.length > 0 ? new RegExp(`([:,[]\\s*)(\\{(?:${known.join('|')})\\})`, 'g') : undefined;
  const parsed = parseJson(bare ? typed.replace(bare, '$1"$2"') : typed);
  if (!parsed.ok) return fail({ path: 'payload', message: `This is not JSON: ${parsed.error}` });
  return ok(mapTexts(parsed.value, (text) => plainTemplate(text, known)) as JsonTemplate);
}

const jsonTyped = (body: JsonTemplate): string => JSON.stringify(mapTexts(body as Json, typedOfPlain));

function mapTexts(value: Json, change: (text: string) => string): Json {
  if (typeof value === 'string') return change(value);
  if (Array.isArray(value)) return value.map((each: Json) => mapTexts(each, change));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, mapTexts(each as Json, change)]));
}

type OscArgs = Extract<Message, { osc: unknown }>['osc']['args'];
const oscArg = /^\s*([ifdshBTFNI])(?:\s+(?:"((?:[^"\\]|\\.)*)"|([^,]*?)))?\s*(?:,|$)/;

function oscArgs(typed: string, known: readonly string[]): Result<OscArgs, Problem> {
  const args: [string, string][] = [];
  for (let rest = typed; rest.trim() !== '';) {
    const match = oscArg.exec(rest);
    if (!match) {
      const message = `“${rest.trim()}” is not an argument. Write a type and a value: i 3, f {level}, s "two words".`;
      return fail({ path: 'args', message });
    }
    const [whole, type = '', inQuotes, bare = ''] = match;
    args.push([type, plainTemplate(inQuotes?.replace(/\\(.)/g, '$1') ?? bare, known)]);
    rest = rest.slice(whole.length);
  }
  return ok(args as OscArgs);
}

const quoted = (type: string, value: string): string =>
  type === 's' && /[",\s]/.test(value) ? `"${value.replace(/["\\]/g, '\\$&')}"` : value;
