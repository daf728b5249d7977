import { fail, ok, type Problem, type Result } from '../result';
import {
  encodeLine,
  encodeMidi,
  escapeXml,
  midiOf,
  soapContentType,
  toEscaped,
  toHex,
  type Framing,
  type Json,
  type OscArgument,
  type Outgoing,
} from '../wire';
import type { JsonTemplate, Message } from './schema-messages';
import { compileDmx, fillDmx, type CompiledDmx } from './dmx';
import { asRequestTarget } from './request-target';
import { holesOf, needsBytes, parseTemplate, type TemplatePart } from './template';
import { fillTemplate, fillTemplateBytes } from './template-fill';

/** A message of the document with its templates parsed. */
export type CompiledMessage = MessageBody & {
  /** The readings that it carries, by key: its holes `{reading.…}`. */
  readonly reads: readonly string[];
};

type MessageBody =
  | { readonly kind: 'line' | 'bytes' | 'hex'; readonly parts: readonly TemplatePart[] }
  | { readonly kind: 'json'; readonly body: CompiledJson }
  | {
      readonly kind: 'osc';
      readonly address: readonly TemplatePart[];
      readonly args: readonly { readonly type: string; readonly value: readonly TemplatePart[] }[];
    }
  | {
      readonly kind: 'modbus';
      readonly read?: 'coil' | 'input' | 'holding' | 'register';
      readonly write?: 'coil' | 'holding';
      readonly address: readonly TemplatePart[];
      readonly value: readonly TemplatePart[];
      readonly count: number;
      readonly unit: number;
    }
  | {
      readonly kind: 'umd';
      readonly screen: readonly TemplatePart[];
      readonly display: readonly TemplatePart[];
      readonly lamp: readonly TemplatePart[];
      readonly brightness: readonly TemplatePart[];
      readonly text: readonly TemplatePart[];
    }
  | {
      readonly kind: 'http';
      readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
      readonly path: readonly TemplatePart[];
      readonly headers: readonly (readonly [string, readonly TemplatePart[]])[];
      readonly json?: CompiledJson;
      readonly form?: readonly (readonly [readonly TemplatePart[], readonly TemplatePart[]])[];
      readonly text?: readonly TemplatePart[];
      /** The content of a SOAP body. */
      readonly soap?: readonly TemplatePart[];
    }
  | {
      readonly kind: 'mqtt';
      readonly topic: readonly TemplatePart[];
      readonly text: readonly TemplatePart[];
      readonly json?: CompiledJson;
      readonly retain: boolean;
      readonly qos: 1 | 2;
    }
  | CompiledDmx;

export type CompiledJson =
  | { readonly is: 'literal'; readonly value: Json }
  | { readonly is: 'template'; readonly parts: readonly TemplatePart[] }
  | { readonly is: 'list'; readonly items: readonly CompiledJson[] }
  | { readonly is: 'object'; readonly entries: readonly (readonly [string, CompiledJson])[] };

/** What fills the holes: texts for templates, and values with their type for JSON. */
export interface FillValues {
  readonly text: Readonly<Record<string, string | Uint8Array | undefined>>;
  readonly json: Readonly<Record<string, Json | undefined>>;
}

export type ReportProblem = (path: string, message: string) => void;

/** What each framing can carry, for the sentence that says so. */
const carries: Readonly<Record<Framing['kind'], readonly CompiledMessage['kind'][]>> = {
  lines: ['line', 'bytes', 'hex', 'json'],
  'json-lines': ['json', 'line'],
  terminated: ['bytes', 'hex', 'line'],
  fixed: ['bytes', 'hex', 'line'],
  prefixed: ['bytes', 'hex', 'line'],
  unframed: ['bytes', 'hex', 'line'],
  silence: ['bytes', 'hex', 'line'],
  message: ['line', 'bytes', 'hex', 'json'],
  osc: ['osc'],
  visca: ['hex', 'bytes'],
  modbus: ['modbus'],
  umd: ['umd'],
  midi: ['line', 'hex', 'bytes'],
  http: ['http', 'line'],
  mqtt: ['mqtt'],
  sacn: ['dmx'],
};

/** Parses a message's templates. Everything wrong is reported with its path; `known` are the names that holes may have. */
export function compileMessage(
  message: Exclude<Message, { ask: string }>,
  framing: Framing,
  path: string,
  known: readonly string[],
  report: ReportProblem,
): CompiledMessage {
  const template = (source: string, at: string, hex = false): readonly TemplatePart[] => {
    const parts = parseTemplate(source, hex);
    if (!parts.ok) {
      report(at, `At character ${parts.error.offset + 1}: ${parts.error.message}`);
      return [];
    }
    for (const hole of holesOf(parts.value)) {
      if (!known.includes(hole) && hole !== 'ref') {
        const offered = known.filter((name) => !name.startsWith('reading.'));
        report(at, `There is no parameter “${hole}”. ${listOf(offered)}`);
      }
    }
    return parts.value;
  };
  const json = (value: JsonTemplate, at: string): CompiledJson => {
    if (typeof value === 'string') {
      return value.includes('{') || value.includes('\\')
        ? { is: 'template', parts: template(value, at) }
        : { is: 'literal', value };
    }
    if (Array.isArray(value)) return { is: 'list', items: value.map((each, n) => json(each, `${at}.${n}`)) };
    if (typeof value === 'object' && value !== null) {
      return { is: 'object', entries: Object.entries(value).map(([key, each]) => [key, json(each, `${at}.${key}`)]) };
    }
    return { is: 'literal', value };
  };
  const pairs = (record: Readonly<Record<string, string>>, at: string) =>
    Object.entries(record).map(([key, value]) => [key, template(value, `${at}.${key}`)] as const);

  const compiled = ((): MessageBody => {
    if (typeof message === 'string') {
      const parts = template(message, path);
      if (framing.kind === 'http') return { kind: 'http', method: 'GET', path: parts, headers: [] };
      if (framing.kind === 'lines' && needsBytes(parts)) {
        report(path, 'A line is text: numbers as bytes and checksums need {"bytes": …} instead.');
      }
      return { kind: 'line', parts };
    }
    if ('bytes' in message) return { kind: 'bytes', parts: template(message.bytes, `${path}.bytes`) };
    if ('hex' in message) return { kind: 'hex', parts: template(message.hex, `${path}.hex`, true) };
    if ('json' in message) return { kind: 'json', body: json(message.json, `${path}.json`) };
    if ('osc' in message) {
      const args = message.osc.args.map(([type, value], n) => ({
        type,
        value: template(value, `${path}.osc.args.${n}`),
      }));
      return { kind: 'osc', address: template(message.osc.address, `${path}.osc.address`), args };
    }
    if ('modbus' in message) {
      const { modbus } = message;
      const at = `${path}.modbus`;
      const address = template(String(modbus.address), `${at}.address`);
      if ('read' in modbus) {
        return { kind: 'modbus', read: modbus.read, address, value: [], count: modbus.count, unit: modbus.unit };
      }
      const value = template(modbus.value, `${at}.value`);
      return { kind: 'modbus', write: modbus.write, address, value, count: 1, unit: modbus.unit };
    }
    if ('umd' in message) {
      const { umd } = message;
      const part = (name: keyof typeof umd) => template(String(umd[name]), `${path}.umd.${name}`);
      return {
        kind: 'umd',
        screen: part('screen'),
        display: part('display'),
        lamp: part('lamp'),
        brightness: part('brightness'),
        text: part('text'),
      };
    }
    if ('dmx' in message) return compileDmx(message.dmx, (source, at) => template(source, `${path}.dmx.${at}`));
    if ('mqtt' in message) {
      const { topic, text, json: body, retain, qos } = message.mqtt;
      const at = `${path}.mqtt`;
      if (text !== undefined && body !== undefined) report(at, 'Only one of "text" and "json" can be the payload.');
      return {
        kind: 'mqtt',
        topic: template(topic, `${at}.topic`),
        text: text === undefined ? [] : template(text, `${at}.text`),
        ...(body === undefined ? {} : { json: json(body, `${at}.json`) }),
        retain,
        qos,
      };
    }
    if ('soap' in message) {
      const { path: to, action, body } = message.soap;
      if (framing.kind !== 'http' || framing.body !== 'xml')
        report(path, 'SOAP needs the framing “http” with the body “xml”.');
      return {
        kind: 'http',
        method: 'POST',
        path: template(to, `${path}.soap.path`),
        headers: pairs({ 'content-type': soapContentType(action) }, `${path}.soap.action`),
        soap: template(body, `${path}.soap.body`),
      };
    }
    const { http } = message;
    const bodies = [http.json, http.form, http.text].filter((body) => body !== undefined);
    if (bodies.length > 1) report(`${path}.http`, 'Only one of "json", "form" and "text" can be the body.');
    return {
      kind: 'http',
      method: http.method,
      path: template(http.path, `${path}.http.path`),
      headers: pairs(http.headers, `${path}.http.headers`),
      json: http.json === undefined ? undefined : json(http.json, `${path}.http.json`),
      form:
        http.form &&
        Object.entries(http.form).map(([key, value]) => {
          const at = `${path}.http.form.${key}`;
          return [template(key, at), template(value, at)] as const;
        }),
      text: http.text === undefined ? undefined : template(http.text, `${path}.http.text`),
    };
  })();
  if (!carries[framing.kind].includes(compiled.kind)) {
    report(path, `The framing “${framing.kind}” carries ${carries[framing.kind].join(' or ')}, not ${compiled.kind}.`);
  }
  const reads = JSON.stringify(compiled).matchAll(/"name":"reading\.([^"]+)"/g);
  return { ...compiled, reads: [...new Set(Array.from(reads, ([, key = '']) => key))] };
}

/** True when the bytes depend on the number of the request, so that they cannot be made beforehand. */
export function usesRef(message: CompiledMessage): boolean {
  return JSON.stringify(message).includes('"name":"ref"');
}

/** A message with everything filled in, and as a line for people. */
export interface FilledMessage {
  readonly out: Outgoing;
  readonly text: string;
}

/** A message behind its length, where the framing says that messages are sent so. */
function withLength(bytes: Uint8Array, framing: Framing): Uint8Array {
  if (framing.kind !== 'prefixed' || framing.sends !== 'length') return bytes;
  const { width, endian, counts, uncounted = 0 } = framing;
  const out = new Uint8Array(width + bytes.length);
  const length = bytes.length + (counts === 'all' ? width : 0) - uncounted;
  for (let n = 0; n < width; n += 1) out[endian === 'big' ? width - 1 - n : n] = (length / 256 ** n) & 0xff;
  out.set(bytes, width);
  return out;
}

/** Fills a message. Fails with a sentence when what came out cannot be sent over this framing. */
export function fillMessage(
  message: CompiledMessage,
  framing: Framing,
  values: FillValues,
): Result<FilledMessage, Problem> {
  const encoding = ('encoding' in framing ? framing.encoding : undefined) ?? 'utf-8';
  switch (message.kind) {
    case 'line': {
      const text = fillTemplate(message.parts, values.text);
      if (framing.kind === 'midi') return fillMidi(text);
      if (framing.kind === 'lines' || framing.kind === 'json-lines') return line(text, framing);
      const bytes = withLength(fillTemplateBytes(message.parts, values.text, encoding), framing);
      return ok({ out: { kind: 'bytes', bytes }, text: toEscaped(bytes) });
    }
    case 'bytes':
    case 'hex': {
      const filled = fillTemplateBytes(message.parts, values.text, encoding);
      if (filled.length === 0)
        return fail({ path: 'send', message: 'There is nothing to send: the payload is empty.' });
      if (framing.kind === 'visca') return ok({ out: { kind: 'visca', payload: filled }, text: spaced(filled) });
      const bytes = withLength(filled, framing);
      return ok({
        out: { kind: 'bytes', bytes },
        text: message.kind === 'hex' ? spaced(bytes) : toEscaped(bytes),
      });
    }
    case 'json': {
      const text = JSON.stringify(fillJson(message.body, values) ?? null);
      if (framing.kind === 'lines' || framing.kind === 'json-lines') return line(text, framing);
      return ok({ out: { kind: 'bytes', bytes: utf8.encode(text) }, text });
    }
    case 'osc': {
      const address = fillTemplate(message.address, values.text);
      const args = message.args.map(({ type, value }) => oscArgument(type, fillTemplate(value, values.text)));
      const text = [address, ...message.args.map(({ value }) => fillTemplate(value, values.text))].join(' ');
      return ok({ out: { kind: 'osc', message: { kind: 'message', address, args } }, text });
    }
    case 'modbus': {
      const address = Math.trunc(Number(fillTemplate(message.address, values.text))) & 0xffff;
      const { unit, count, read, write } = message;
      if (read) {
        const request = { do: 'read', table: read, address, count } as const;
        return ok({ out: { kind: 'modbus', request, unit }, text: `read ${count} ${read} from ${address}` });
      }
      const value = Math.trunc(Number(fillTemplate(message.value, values.text))) || 0;
      const request =
        write === 'coil'
          ? ({ do: 'writeCoil', address, on: value !== 0 } as const)
          : ({ do: 'writeHolding', address, value: value & 0xffff } as const);
      return ok({ out: { kind: 'modbus', request, unit }, text: `write ${write} ${address} = ${value}` });
    }
    case 'umd':
      return fillUmd(message, values);
    case 'http':
      return ok(fillHttp(message, framing, values));
    case 'mqtt':
      return fillMqtt(message, values);
    case 'dmx':
      return fillDmx(message, values);
  }
}

function fillMidi(line: string): Result<FilledMessage, Problem> {
  const message = midiOf(line);
  const bytes = message.ok ? encodeMidi(message.value) : message;
  return bytes.ok
    ? ok({ out: { kind: 'bytes', bytes: bytes.value }, text: line })
    : fail({ path: 'send', message: bytes.error });
}

function fillMqtt(
  message: Extract<CompiledMessage, { kind: 'mqtt' }>,
  values: FillValues,
): Result<FilledMessage, Problem> {
  const topic = fillTemplate(message.topic, values.text);
  // MQTT 5.0, 4.7.1 and 4.7.3: what is published goes to one topic, without wildcards and not to an empty one.
  if (topic === '') return fail({ path: 'topic', message: 'The topic is empty.' });
  if (/[+#\0]/.test(topic)) {
    return fail({ path: 'topic', message: `A message goes to one topic: “${topic}” has + or # in it.` });
  }
  const text = message.json
    ? JSON.stringify(fillJson(message.json, values) ?? null)
    : fillTemplate(message.text, values.text);
  const { retain, qos } = message;
  return ok({
    out: { kind: 'mqtt', publication: { topic, payload: utf8.encode(text), retain, qos } },
    text: [topic, text].filter(Boolean).join(' '),
  });
}

function line(
  text: string,
  framing: Extract<Framing, { kind: 'lines' | 'json-lines' }>,
): Result<FilledMessage, Problem> {
  const options =
    framing.kind === 'lines'
      ? framing
      : ({ ending: 'lf', encoding: 'utf-8', maxFrameBytes: framing.maxFrameBytes } as const);
  const encoded = encodeLine(text, options);
  return encoded.ok
    ? ok({ out: { kind: 'bytes', bytes: encoded.value }, text })
    : fail({ path: 'send', message: encoded.error.message });
}

function fillUmd(
  message: Extract<CompiledMessage, { kind: 'umd' }>,
  { text: values }: FillValues,
): Result<FilledMessage, Problem> {
  const number = (parts: readonly TemplatePart[]) => Math.trunc(Number(fillTemplate(parts, values))) || 0;
  const word = fillTemplate(message.lamp, values);
  const lamp = (['off', 'red', 'green', 'amber'] as const).find((each) => each === word);
  if (!lamp) return fail({ path: 'lamp', message: `A lamp is off, red, green or amber, not “${word}”.` });
  const display = number(message.display);
  const text = fillTemplate(message.text, values);
  const out = { kind: 'umd', display, lamp, text } as const;
  return ok({
    out: { ...out, screen: number(message.screen), brightness: number(message.brightness) },
    text: `display ${display} “${text}” ${lamp}`,
  });
}

function fillHttp(
  message: Extract<CompiledMessage, { kind: 'http' }>,
  framing: Framing,
  values: FillValues,
): FilledMessage {
  const path = fillTemplate(withPaths(message.path, values.text), written(values.text, encodeURIComponent));
  const headers: Record<string, string> = {};
  for (const [name, parts] of message.headers)
    headers[name.toLowerCase()] = fillTemplate(parts, values.text).replace(/[\r\n]/g, ' ');
  let body: string | undefined;
  if (message.json) {
    body = JSON.stringify(fillJson(message.json, values) ?? null);
    headers['content-type'] ??= 'application/json';
  } else if (message.form) {
    // A pair without a key was left out.
    const pairs = message.form.map(([key, value]) => [
      fillTemplate(key, values.text),
      fillTemplate(value, values.text),
    ]);
    body = new URLSearchParams(pairs.filter(([key]) => key !== '')).toString();
    headers['content-type'] ??= 'application/x-www-form-urlencoded';
  } else if (message.text) {
    body = fillTemplate(message.text, values.text);
    headers['content-type'] ??= 'text/plain; charset=utf-8';
  }
  if (message.soap) body = fillTemplate(message.soap, written(values.text, escapeXml));
  const namespaces = (framing.kind === 'http' ? framing.namespaces : undefined) ?? {};
  const soap = message.soap ? { soap: { namespaces } } : {};
  const { method } = message;
  return {
    out: { kind: 'http', request: { method, path: path.startsWith('/') ? path : `/${path}`, headers, body, ...soap } },
    text: [`${method} ${path}`, body].filter(Boolean).join(' '),
  };
}

/** The values with their texts as they must be written. */
const written = (values: FillValues['text'], write: (text: string) => string): FillValues['text'] =>
  Object.fromEntries(
    Object.entries(values).map(([name, value]) => [name, typeof value === 'string' ? write(value) : value]),
  );

/** The parts of a path with those holes filled that stand for a path themselves: nothing in them is escaped that may stand there. */
const withPaths = (parts: readonly TemplatePart[], values: FillValues['text']): TemplatePart[] =>
  parts.map((part) => {
    if (part.kind === 'optional') return { ...part, parts: withPaths(part.parts, values) };
    if (part.kind !== 'hole' || part.format?.as !== 'path') return part;
    return { kind: 'text', text: asRequestTarget(String(values[part.name] ?? '')) };
  });

/** JSON with its holes filled: a text that is one hole alone keeps the type of its value; one left out is left out. */
function fillJson(template: CompiledJson, values: FillValues): Json | undefined {
  switch (template.is) {
    case 'literal':
      return template.value;
    case 'template': {
      const [only] = template.parts;
      if (template.parts.length === 1 && only?.kind === 'hole' && !only.format) return values.json[only.name];
      return fillTemplate(template.parts, values.text);
    }
    case 'list':
      return template.items.map((item) => fillJson(item, values) ?? null);
    case 'object': {
      const entries = template.entries.map(([key, value]) => [key, fillJson(value, values)] as const);
      return Object.fromEntries(entries.filter(([, value]) => value !== undefined)) as Json;
    }
  }
}

function oscArgument(type: string, text: string): OscArgument {
  switch (type) {
    case 'i':
      return { type, value: Math.trunc(Number(text)) || 0 };
    case 'f':
    case 'd':
      return { type, value: Number(text) || 0 };
    case 'h':
      return { type, value: BigInt(Math.trunc(Number(text)) || 0) };
    case 'B':
      return { type: ['1', 'true', 'on'].includes(text) ? 'T' : 'F' };
    case 'T':
    case 'F':
    case 'N':
    case 'I':
      return { type };
    default:
      return { type: 's', value: text };
  }
}

const utf8 = new TextEncoder();
const spaced = (bytes: Uint8Array): string => toHex(bytes).replace(/..(?=.)/g, '$& ');

export function listOf(known: readonly string[]): string {
  return known.length > 0 ? `Known: ${known.join(', ')}.` : 'There is none here.';
}
