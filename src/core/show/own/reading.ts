import {
  saysJson,
  type DriverAdditions,
  type DriverDocument,
  type DriverReading,
  type DriverReply,
} from '../../driver';
import { fail, type Problem, type Result } from '../../result';
import { asks, checked, freeName, noAdditions, withoutSource, withQuestions } from './additions';
import { readingAsProblem, withReadingAs } from './same-as';
import { messageOf, typedOf, unitOf, type OwnMessage } from './message';

/** Where in what a device says a reading is found. */
export type OwnSource =
  /** In a line, behind a text and before another; either may be empty. */
  | { readonly in: 'line'; readonly before: string; readonly after: string }
  /** By a pattern with a group called `value`. */
  | { readonly in: 'pattern'; readonly pattern: string }
  /** In JSON, by a JSON Pointer (RFC 6901). */
  | { readonly in: 'json'; readonly pointer: string }
  /** In an OSC message: the argument with this number, from 1. */
  | { readonly in: 'osc'; readonly address: string; readonly argument: number }
  | { readonly in: 'modbus'; readonly table: ModbusTable; readonly address: number }
  /** In what is published to a topic: all of it, or what a JSON Pointer finds in it. */
  | { readonly in: 'mqtt'; readonly topic: string; readonly pointer: string }
  /** In a header of an HTTP answer: all of it, or what a pattern with a group called `value` finds in it. */
  | { readonly in: 'header'; readonly name: string; readonly pattern: string }
  /** Not in any message: computed from other readings by an expression (CEL). */
  | { readonly in: 'others'; readonly expression: string };

export type ModbusTable = 'coil' | 'input' | 'holding' | 'register';

/** A reading that a show adds to a device, as a person enters it. */
export interface OwnReading {
  readonly title: string;
  readonly source: OwnSource;
  readonly value: DriverReading['value'];
  /** What is asked to know it, and how often; without it the device reports by itself, or is asked by its settings. */
  readonly ask: { readonly message: OwnMessage; readonly everyMs: number } | undefined;
  /** For Modbus, which is always asked. */
  readonly everyMs: number;
  /** The reading in the contract of the device's role that it is. */
  readonly sameAs?: { readonly role: string; readonly name: string } | undefined;
}

/** How this kind of device usually writes on and off. */
export const usualOnOff = (document: DriverDocument): { readonly on: string; readonly off: string } =>
  saysJson(document) ? { on: 'true', off: 'false' } : { on: '1', off: '0' };

/** How readings of this kind of device can be found, the usual way first. */
export function sourceKinds(document: DriverDocument): readonly OwnSource['in'][] {
  const { framing } = document;
  if (framing.kind === 'http')
    return [...(saysJson(document) ? ['json' as const] : linesOf(framing)), 'header', 'others'];
  if (saysJson(document)) return ['json', 'others'];
  if (framing.kind === 'osc' || framing.kind === 'modbus' || framing.kind === 'mqtt') return [framing.kind, 'others'];
  const isBytes = 'as' in framing ? framing.as === 'bytes' : framing.kind === 'fixed' || framing.kind === 'unframed';
  const isPattern = isBytes || framing.kind === 'visca' || framing.kind === 'umd';
  return isPattern ? ['pattern', 'others'] : ['line', 'pattern', 'others'];
}

const linesOf = ({ body }: { readonly body: string }): OwnSource['in'][] =>
  body === 'none' ? [] : ['line', 'pattern'];

export function emptySource(kind: OwnSource['in']): OwnSource {
  switch (kind) {
    case 'line':
      return { in: kind, before: '', after: '' };
    case 'pattern':
      return { in: kind, pattern: '^(?P<value>.*)$' };
    case 'json':
      return { in: kind, pointer: '' };
    case 'osc':
      return { in: kind, address: '/', argument: 1 };
    case 'modbus':
      return { in: kind, table: 'coil', address: 0 };
    case 'mqtt':
      return { in: kind, topic: '', pointer: '' };
    case 'header':
      return { in: kind, name: '', pattern: '' };
    case 'others':
      return { in: kind, expression: '' };
  }
}

/** The type that a reading of a new source has at first. */
const usualValue = (kind: OwnSource['in']): DriverReading['value'] =>
  kind === 'modbus' ? { type: 'onOff', on: '1', off: '0' } : { type: 'text' };

export function emptyReading(document: DriverDocument): OwnReading {
  const [kind = 'pattern'] = sourceKinds(document);
  return { title: '', source: emptySource(kind), value: usualValue(kind), ask: undefined, everyMs: 1000 };
}

const escaped = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
const unescaped = (pattern: string): string => pattern.replace(/\\(.)/g, '$1');
const lineShape = /^\^((?:\\.|[^\\^$.*+?()[\]{}|])*)\(\?P<value>\.\*\??\)((?:\\.|[^\\^$.*+?()[\]{}|])*)(\.\*)?\$$/;
/** The same in one of several lines. */
const oneOfLinesShape =
  /^\(\?m\)\^((?:\\.|[^\\^$.*+?()[\]{}|])*)\(\?P<value>\[\^\\r\\n\]\*\?\)((?:\\.|[^\\^$.*+?()[\]{}|])*?)(\\r\?\$)?$/;

/** True where what is read is one line, and not perhaps several: bodies of HTTP are read line by line. */
const isOneLine = ({ framing }: DriverDocument): boolean => framing.kind === 'lines' || framing.kind === 'http';

type Heard = Exclude<OwnSource, { readonly in: 'others' }>;

/** What a device must say for the source, as a part of a reply. */
function matchOf(source: Heard, id: string, document: DriverDocument): DriverReply {
  const set = { [id]: source.in === 'osc' ? `{arg${source.argument}}` : '{value}' };
  switch (source.in) {
    case 'line': {
      const { before, after } = source;
      if (!isOneLine(document)) {
        const end = after === '' ? '\\r?$' : escaped(after);
        return { match: `(?m)^${escaped(before)}(?P<value>[^\\r\\n]*?)${end}`, set };
      }
      const value = after === '' ? '(?P<value>.*)' : '(?P<value>.*?)';
      return { match: `^${escaped(before)}${value}${escaped(after)}${after === '' ? '' : '.*'}$`, set };
    }
    case 'pattern':
      return { match: source.pattern, set };
    case 'json':
      return { take: { value: source.pointer }, set };
    case 'osc':
      return { match: `^${escaped(source.address)}$`, set };
    case 'modbus':
      return { to: [id], match: `^${source.table} ${source.address} (?P<value>-?\\d+)$`, set };
    case 'header':
      return { header: source.name.trim(), ...(source.pattern === '' ? {} : { match: source.pattern }), set };
    case 'mqtt': {
      const topic = `^${escaped(source.topic.trim())}$`;
      return source.pointer === ''
        ? { topic, match: '^(?P<value>(?s:.*))$', set }
        : { topic, take: { value: source.pointer }, set };
    }
  }
}

function sourceTyped(id: string, reply: DriverReply): OwnSource | undefined {
  const { match, take, set, topic, header } = reply;
  if (header !== undefined) return { in: 'header', name: header, pattern: match ?? '' };
  if (topic !== undefined) return { in: 'mqtt', topic: unescaped(topic.slice(1, -1)), pointer: take?.value ?? '' };
  if (take?.value !== undefined) return { in: 'json', pointer: take.value };
  if (match === undefined) return undefined;
  const modbus = /^\^(coil|input|holding|register) (\d+) \(\?P<value>-\?\\d\+\)\$$/.exec(match);
  if (modbus && reply.to) return { in: 'modbus', table: modbus[1] as ModbusTable, address: Number(modbus[2]) };
  const argument = /^\{arg(\d+)\}$/.exec(set?.[id] ?? '');
  if (argument) return { in: 'osc', address: unescaped(match.slice(1, -1)), argument: Number(argument[1]) };
  const line = lineShape.exec(match) ?? oneOfLinesShape.exec(match);
  if (line) return { in: 'line', before: unescaped(line[1] ?? ''), after: unescaped(line[2] ?? '') };
  return { in: 'pattern', pattern: match };
}

/** A reading of a show as it was entered; `undefined` for one that is beyond these fields. */
export function readingTyped(id: string, additions: DriverAdditions, document: DriverDocument): OwnReading | undefined {
  const reading = additions.readings[id];
  const replies = additions.replies.filter(({ set }) => id in (set ?? {}));
  const heard = replies.length === 1 && replies[0] ? sourceTyped(id, replies[0]) : undefined;
  const source = reading?.computed === undefined ? heard : { in: 'others' as const, expression: reading.computed };
  if (!reading || !source) return undefined;
  const question = additions.questions?.[id];
  const poll = additions.polls?.find((each) => asks(each, id));
  const message = question && source.in !== 'modbus' ? typedOf(question.send, document) : undefined;
  const everyMs = poll?.everyMs ?? 1000;
  const { title, value } = reading;
  return { title, source, value, ask: message && { message, everyMs }, everyMs };
}

/**
 * The device's additions with this reading, in place of the one with the id or as a new one. Fails with the field at fault, or with what
 * would not work.
 */
export function putReading(
  document: DriverDocument,
  additions: DriverAdditions = noAdditions,
  id: string | undefined,
  own: OwnReading,
): Result<DriverAdditions, readonly Problem[]> {
  const { source, value } = own;
  const title = own.title.trim();
  if (title === '') return fail([{ path: 'title', message: 'Enter a name.' }]);
  const hasPattern = source.in === 'pattern' || (source.in === 'header' && source.pattern !== '');
  if (hasPattern && !source.pattern.includes('(?P<value>')) {
    return fail([{ path: 'pattern', message: 'The pattern has no group “value”: write (?P<value>…) around it.' }]);
  }
  if (source.in === 'mqtt' && source.topic.trim() === '') return fail([{ path: 'topic', message: 'Enter the topic.' }]);
  if (source.in === 'mqtt' && /[+#]/.test(source.topic)) {
    return fail([{ path: 'topic', message: 'A reading comes from one topic, without + and #.' }]);
  }
  const isPointer = source.in === 'json' || (source.in === 'mqtt' && source.pointer !== '');
  if (isPointer && !source.pointer.startsWith('/')) {
    return fail([{ path: 'pointer', message: 'A JSON Pointer begins with a slash: /state/temperature.' }]);
  }
  if (source.in === 'header' && !/^[A-Za-z][A-Za-z0-9-]*$/.test(source.name.trim()))
    return fail([{ path: 'header', message: 'The name of a header: letters, digits and hyphens.' }]);
  const unfit = own.sameAs && readingAsProblem(own.sameAs.role, own.sameAs.name, value);
  if (unfit) return fail([unfit]);
  if (source.in === 'others' && source.expression.trim() === '')
    return fail([{ path: 'expression', message: 'Enter an expression.' }]);
  const at = id ?? freeName('own', { ...document.readings, ...additions.readings });
  const question = questionOf(own, document);
  if (question && !question.ok) return fail([question.error]);
  const rest = withoutSource(additions, at);
  const everyMs = own.ask?.everyMs ?? own.everyMs;
  const { computed: _, ...before } = additions.readings[at] ?? {};
  const computed = source.in === 'others' ? { computed: source.expression.trim() } : {};
  const all = {
    ...rest,
    readings: { ...rest.readings, [at]: { ...before, title, value, ...computed } },
    replies: source.in === 'others' ? rest.replies : [...rest.replies, matchOf(source, at, document)],
    ...(question
      ? withQuestions({ ...rest.questions, [at]: { send: question.value } }, [
          ...(rest.polls ?? []),
          { send: { ask: at }, everyMs, atOnce: true },
        ])
      : {}),
  };
  const made = checked(document, withReadingAs(all, at, own.sameAs?.name));
  if (made.ok) return made;
  const expression = `readings.${at}.computed`;
  return fail(
    made.error.map((each) => {
      if (hasPattern && each.path.startsWith('replies.')) return { ...each, path: 'pattern' };
      return each.path === expression ? { ...each, path: 'expression' } : each;
    }),
  );
}

function questionOf({ source, ask }: OwnReading, document: DriverDocument): ReturnType<typeof messageOf> | undefined {
  if (source.in === 'modbus') {
    const { table, address } = source;
    return { ok: true, value: { modbus: { read: table, address, count: 1, unit: unitOf(document) } } };
  }
  return source.in === 'others' ? undefined : ask && messageOf(ask.message, [], document);
}
