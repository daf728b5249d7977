import { RE2JS } from 're2js';
import type { Problem, Result } from '../result';
import { fail, ok } from '../result';
import { checkReferences } from './check-references';
import { compileExpression, type ComputedReading, type Expression } from './computed';
import { compileMessage, listOf, usesRef, type CompiledMessage, type ReportProblem } from './message';
import { identityReadings } from './identity';
import { documentFor, optionTexts, type DocumentUse } from './options';
import { plainPattern, type PlainPattern } from './plain-pattern';
import { splitKey } from './reading-key';
import {
  driverDocumentSchema,
  type DriverCommand,
  type DriverDocument,
  type DriverParameter,
  type DriverReading,
  type DriverReply,
} from './schema';
import type { Message } from './schema-messages';
import { holesOf, parseTemplate, type TemplatePart } from './template';
import { saysJson } from './says-json';
import type { TextWriting } from './written-text';

export interface CompiledCommand {
  readonly command: DriverCommand;
  readonly send: CompiledMessage;
  readonly usesRef: boolean;
  /** Values that are computed when nothing is given, by parameter. */
  readonly computed: ReadonlyMap<string, Expression>;
}

/** Something that the document itself says; `ask` is the name of the question, if it is one. */
export interface OwnMessage {
  readonly ask: string | undefined;
  readonly message: CompiledMessage;
}

export type CompiledStep =
  | {
      readonly expect: RE2JS;
      readonly withinMs: number;
      readonly groups: readonly string[];
      readonly lockedOut: RE2JS | undefined;
      readonly occupied: RE2JS | undefined;
    }
  | {
      readonly send: OwnMessage;
      readonly derive: readonly {
        readonly name: string;
        readonly hash: 'md5' | 'sha1' | 'sha256';
        readonly of: readonly TemplatePart[];
      }[];
    };

/** A document made ready for work: patterns compiled, templates parsed, everything it refers to known to exist. */
export interface CompiledDriver {
  readonly document: DriverDocument;
  /** The same before options were put in: what a device with other options is made from. */
  readonly whole: DriverDocument;
  /** What fills the holes of its options, by `option.` and the name. */
  readonly optionTexts: Readonly<Record<string, string | Uint8Array>>;
  readonly commands: ReadonlyMap<string, CompiledCommand>;
  readonly questions: ReadonlyMap<string, CompiledMessage>;
  readonly replies: readonly CompiledReply[];
  readonly greeting: readonly CompiledStep[];
  readonly sync: readonly OwnMessage[];
  readonly syncUntil: RE2JS | undefined;
  readonly polls: readonly OwnMessage[];
  readonly keepAlive: OwnMessage | undefined;
  /** Readings that only come with replies that come all the time: nobody wants each of them on record. */
  readonly quietReadings: ReadonlySet<string>;
  /** Readings that follow from others, in the order in which they are computed. */
  readonly computed: readonly ComputedReading[];
  /** Readings by which the device says what it is. */
  readonly identityKeys: ReadonlySet<string>;
}

export interface CompiledReply {
  /** A show adds it: it is read besides those of the document, and hides none of them. */
  readonly isAdded: boolean;
  readonly to: readonly string[] | undefined;
  /** `undefined` for a reply to JSON. */
  readonly pattern: RE2JS | undefined;
  /** The same, where it is plain: many times faster. */
  readonly plain: PlainPattern | undefined;
  /** Every text that fits begins with this; most are told apart by it, without the pattern. */
  readonly prefix: string;
  readonly groups: readonly string[];
  /** MQTT: what the topic must fit. */
  readonly topic: RE2JS | undefined;
  readonly when: readonly { readonly pointer: string; readonly pattern: RE2JS }[];
  readonly each: string | undefined;
  readonly take: readonly { readonly name: string; readonly pointer: string }[];
  readonly set: readonly {
    readonly key: readonly TemplatePart[];
    readonly value: readonly TemplatePart[];
    readonly needs: readonly string[];
    /** The reading itself, where its key has no holes. */
    readonly reading: { readonly key: string; readonly definition: DriverReading } | undefined;
    /** The one group that the value is, where it is nothing else. */
    readonly only: string | undefined;
  }[];
  readonly clears: readonly string[];
  readonly accepts: boolean;
  readonly quiet: boolean;
  readonly ref: readonly TemplatePart[] | undefined;
  readonly refuses:
    | {
        readonly code: readonly TemplatePart[];
        readonly reason: readonly TemplatePart[];
        readonly reads: TextWriting | undefined;
      }
    | undefined;
}

/**
 * Checks a driver document and makes it ready, for a device with its options and additions. All or nothing: with one
 * problem nothing of it is used.
 *
 * Patterns are compiled by a linear-time engine, so that no pattern of a foreign document can hang the program.
 */
export function compileDriver(input: unknown, use: DocumentUse = {}): Result<CompiledDriver, readonly Problem[]> {
  const parsed = driverDocumentSchema.safeParse(input);
  if (!parsed.success) return fail(parsed.error.issues.flatMap((issue) => problemsOfIssue(issue)));
  const document = documentFor(parsed.data, use);
  // What a device has set of an option may not be what its place takes.
  const set = parsed.data.variants.length > 0 ? optionPlaces.safeParse(document) : undefined;
  if (set && !set.success) return fail(set.error.issues.flatMap((issue) => problemsOfIssue(issue)));
  const problems: Problem[] = [];
  const report: ReportProblem = (path, message) => void problems.push({ path, message });
  const compiled = {
    ...compileParts(document, use.additions?.replies.length ?? 0, report),
    optionTexts: optionTexts(document),
    whole: parsed.data,
  };
  checkReferences(document, parsed.data, report);
  return problems.length > 0 ? fail(problems) : ok(compiled);
}

/** Where the values of options stand. */
const optionPlaces = driverDocumentSchema.pick({ link: true, framing: true, polls: true }).loose();

interface SchemaIssue {
  readonly code?: string;
  readonly path: readonly PropertyKey[];
  readonly message: string;
  readonly values?: readonly unknown[];
  readonly keys?: readonly string[];
  readonly input?: unknown;
  readonly expected?: string;
  readonly errors?: readonly (readonly SchemaIssue[])[];
}

/** An issue of a union says only that nothing fitted; what is told is what was wrong with the alternative that came furthest. */
function problemsOfIssue(issue: SchemaIssue, base: readonly PropertyKey[] = []): Problem[] {
  const path = [...base, ...issue.path];
  const depth = (issues: readonly SchemaIssue[]) =>
    Math.max(0, ...issues.map((each) => each.path.length + (each.code === 'unrecognized_keys' ? 0.5 : 0)));
  const alternatives = [...(issue.errors ?? [])].filter((each) => each.length > 0);
  const [nearest] = alternatives.sort((a, b) => depth(b) - depth(a));
  if (issue.code === 'invalid_union' && nearest && depth(nearest) > 0) {
    return nearest.flatMap((each) => problemsOfIssue(each, path));
  }
  return [{ path: path.map(String).join('.'), message: sentenceOf(issue) }];
}

/** What is expected, in a sentence for people. */
function sentenceOf({ code, message, values, keys, input, expected }: SchemaIssue): string {
  if (code === 'unrecognized_keys' && keys) {
    return `There is no field ${keys.map((key) => `“${key}”`).join(', ')} here.`;
  }
  if (code === 'invalid_value' && values) return `Expected one of ${values.map(String).join(', ')}.`;
  if (code === 'invalid_type' && expected) {
    const kinds: Readonly<Record<string, string>> = {
      string: 'a text',
      number: 'a number',
      object: 'an object',
      record: 'an object',
      array: 'a list',
      boolean: 'true or false',
    };
    const wanted = kinds[expected] ?? expected;
    return input === undefined && message.includes('undefined')
      ? `Is missing: expected ${wanted}.`
      : `Expected ${wanted}.`;
  }
  return code === 'invalid_format' || code === 'custom' ? `Expected ${message}.` : `${message}.`;
}

/** @param added how many of the replies, the first ones, a show adds */
function compileParts(
  document: DriverDocument,
  added: number,
  report: ReportProblem,
): Omit<CompiledDriver, 'optionTexts' | 'whole'> {
  const optionHoles = Object.keys(document.options).map((name) => `option.${name}`);
  const pattern = (source: string, path: string): RE2JS => compilePattern(source, path, report);
  const template = (source: string, path: string, known: readonly string[]): readonly TemplatePart[] => {
    const parts = parseTemplate(source);
    if (!parts.ok) {
      report(path, `At character ${parts.error.offset + 1}: ${parts.error.message}`);
      return [];
    }
    for (const hole of holesOf(parts.value)) {
      if (!known.includes(hole)) report(path, `There is no group “${hole}”. ${listOf(known)}`);
    }
    return parts.value;
  };
  const own = (message: Message, path: string, known: readonly string[]): OwnMessage => {
    if (typeof message === 'object' && 'ask' in message) {
      const question = document.questions[message.ask];
      if (!question)
        report(`${path}.ask`, `There is no question “${message.ask}”. ${listOf(Object.keys(document.questions))}`);
      const compiled = questions.get(message.ask);
      return { ask: message.ask, message: compiled ?? nothingToSay };
    }
    return {
      ask: undefined,
      message: compileMessage(message, document.framing, path, [...known, ...optionHoles], report),
    };
  };

  const credentials = ['user', 'password'];
  const questions = new Map<string, CompiledMessage>();
  for (const [name, question] of Object.entries(document.questions)) {
    const path = `questions.${name}.send`;
    const known = [...credentials, ...(question.paging ? ['from'] : []), ...optionHoles];
    if (typeof question.send === 'object' && 'ask' in question.send)
      report(path, 'A question cannot be another question.');
    else questions.set(name, compileMessage(question.send, document.framing, path, known, report));
  }
  const commands = new Map<string, CompiledCommand>();
  for (const [id, command] of Object.entries(document.commands)) {
    const path = `commands.${id}.send`;
    const known = [...Object.keys(command.params), ...optionHoles];
    const computed = computedParams(document, command, `commands.${id}.params`, report);
    if (typeof command.send === 'object' && 'ask' in command.send) {
      const question = questions.get(command.send.ask);
      if (!question) report(path, `There is no question “${command.send.ask}”.`);
      else commands.set(id, { command, send: question, usesRef: usesRef(question), computed });
      continue;
    }
    const send = compileMessage(command.send, document.framing, path, known, report);
    commands.set(id, { command, send, usesRef: usesRef(send), computed });
  }
  const greetingGroups: string[] = [];
  const greeting = document.greeting.map((step, n): CompiledStep => {
    const path = `greeting.${n}`;
    if ('expect' in step) {
      const expect = pattern(step.expect, `${path}.expect`);
      const groups = Object.keys(expect.namedGroups());
      greetingGroups.push(...groups);
      return {
        expect,
        groups,
        withinMs: step.withinMs,
        lockedOut: step.lockedOut === undefined ? undefined : pattern(step.lockedOut, `${path}.lockedOut`),
        occupied: step.occupied === undefined ? undefined : pattern(step.occupied, `${path}.occupied`),
      };
    }
    const known = [...credentials, ...greetingGroups];
    const derive = Object.entries(step.derive ?? {}).map(([name, { hash, of }]) => ({
      name,
      hash,
      of: template(of, `${path}.derive.${name}.of`, known),
    }));
    return { send: own(step.send, `${path}.send`, [...known, ...derive.map(({ name }) => name)]), derive };
  });
  const replies = document.replies.map((reply, n) => ({
    ...compileReply(document, reply, `replies.${n}`, pattern, template, report),
    isAdded: n < added,
  }));
  return {
    document,
    commands,
    questions,
    quietReadings: quietReadingsOf(document),
    computed: computedReadings(document, report),
    identityKeys: new Set(identityReadings(document)),
    greeting,
    replies,
    sync: document.sync.send.map((message, n) => own(message, `sync.send.${n}`, credentials)),
    syncUntil: document.sync.until ? pattern(document.sync.until, 'sync.until') : undefined,
    polls: document.polls.map((poll, n) => own(poll.send, `polls.${n}.send`, credentials)),
    keepAlive: document.link.keepAlive && own(document.link.keepAlive.send, 'link.keepAlive.send', credentials),
  };
}

/** The computed readings of a document. Each may rest on those before it, so that none can rest on itself. */
function computedReadings({ readings }: DriverDocument, report: ReportProblem): ComputedReading[] {
  const before: DriverDocument['readings'] = Object.fromEntries(
    Object.entries(readings).filter(([, { computed }]) => computed === undefined),
  );
  return Object.entries(readings).flatMap(([key, definition]) => {
    if (definition.computed === undefined) return [];
    const variables = definition.index ? { index: wholeNumber } : {};
    const expression = compileExpression(definition.computed, before, variables, definition.value);
    before[key] = definition;
    if (expression.ok) return [{ key, definition, expression: expression.value }];
    report(`readings.${key}.computed`, expression.error);
    return [];
  });
}

const wholeNumber = { type: 'whole' } as const;

function computedParams(
  { readings }: DriverDocument,
  { params }: DriverCommand,
  path: string,
  report: ReportProblem,
): ReadonlyMap<string, Expression> {
  const made = new Map<string, Expression>();
  const before: Record<string, DriverParameter['value']> = {};
  for (const [name, { value, computed }] of Object.entries(params)) {
    const expression = computed === undefined ? undefined : compileExpression(computed, readings, before, value);
    if (expression?.ok) made.set(name, expression.value);
    else if (expression) report(`${path}.${name}.computed`, expression.error);
    before[name] = value;
  }
  return made;
}

function quietReadingsOf({ replies }: DriverDocument): Set<string> {
  const familiesOf = (quiet: boolean) =>
    replies
      .filter((reply) => (reply.quiet ?? false) === quiet)
      .flatMap((reply) => Object.keys(reply.set ?? {}).map((key) => key.replace(/\[[^\]]*\]/, '[]')));
  const told = new Set(familiesOf(false));
  return new Set(familiesOf(true).filter((family) => !told.has(family)));
}

const nothingToSay: CompiledMessage = { kind: 'line', parts: [] };

function compilePattern(source: string, path: string, report: ReportProblem): RE2JS {
  try {
    const compiled = RE2JS.compile(source);
    // The engine sets itself up at the first match, for tens of milliseconds: here, not at a device's first line.
    compiled.matcher('').find();
    return compiled;
  } catch (error) {
    report(path, `Not a pattern of the linear-time kind: ${error instanceof Error ? error.message : String(error)}`);
    return RE2JS.compile('$.');
  }
}

function compileReply(
  document: DriverDocument,
  reply: DriverReply,
  path: string,
  pattern: (source: string, path: string) => RE2JS,
  template: (source: string, path: string, known: readonly string[]) => readonly TemplatePart[],
  report: ReportProblem,
): Omit<CompiledReply, 'isAdded'> {
  const { framing } = document;
  const looksInside = (reply.when ?? reply.take ?? reply.each) !== undefined;
  // What is published over MQTT is JSON for one reply and text for another.
  const isJson = saysJson(document) || (framing.kind === 'mqtt' && looksInside);
  if (isJson && reply.match !== undefined)
    report(`${path}.match`, 'JSON is looked at with "when" and "take", not with a pattern.');
  if (!isJson && looksInside) {
    report(path, '"when", "take" and "each" are for JSON; here "match" is a pattern.');
  }
  if (!isJson && reply.match === undefined) report(`${path}.match`, 'Expected a pattern.');
  for (const [n, name] of (reply.to ?? []).entries()) {
    if (!(name in document.questions) && !(name in document.commands)) {
      report(`${path}.to.${n}`, `There is no question or command “${name}”.`);
    }
  }
  const compiled = isJson || reply.match === undefined ? undefined : pattern(reply.match, `${path}.match`);
  if (reply.topic !== undefined && framing.kind !== 'mqtt') report(`${path}.topic`, 'Only MQTT has topics.');
  const topic = reply.topic === undefined ? undefined : pattern(reply.topic, `${path}.topic`);
  const take = Object.entries(reply.take ?? {}).map(([name, pointer]) => ({ name, pointer }));
  const groups = compiled ? Object.keys(compiled.namedGroups()) : take.map(({ name }) => name);
  if (reply.each !== undefined) groups.push('index', 'key');
  if (topic) groups.push(...Object.keys(topic.namedGroups()));
  if (framing.kind === 'osc') for (let n = 1; n <= 40; n += 1) groups.push(`arg${n}`);
  const set = Object.entries(reply.set ?? {}).map(([key, value]) => {
    const at = `${path}.set.${key}`;
    const family = splitKey(key.replace(/\[\{[A-Za-z0-9]+\}\]/, '[]')).family;
    if (!(family in document.readings))
      report(at, `There is no reading “${family}”. ${listOf(Object.keys(document.readings))}`);
    const parts = { key: template(key, at, groups), value: template(value, at, groups) };
    const definition = document.readings[family];
    const fixed = holesOf(parts.key).length === 0 && definition !== undefined && !definition.index;
    const [first] = parts.value;
    return {
      ...parts,
      needs: isJson ? [...holesOf(parts.key), ...holesOf(parts.value)] : [],
      reading: fixed ? { key, definition } : undefined,
      only: parts.value.length === 1 && first?.kind === 'hole' && !first.format ? first.name : undefined,
    };
  });
  for (const [n, family] of (reply.clears ?? []).entries()) {
    if (!(family in document.readings)) report(`${path}.clears.${n}`, `There is no reading “${family}”.`);
  }
  return {
    to: reply.to,
    pattern: compiled,
    plain: isJson || reply.match === undefined ? undefined : plainPattern(reply.match),
    prefix: reply.match === undefined ? '' : literalPrefix(reply.match),
    // What a pattern itself has; the others are made elsewhere.
    groups: compiled ? Object.keys(compiled.namedGroups()) : [],
    topic,
    when: Object.entries(reply.when ?? {}).map(([pointer, source]) => ({
      pointer,
      pattern: pattern(source, `${path}.when.${pointer}`),
    })),
    each: reply.each,
    take,
    set,
    clears: reply.clears ?? [],
    accepts: reply.accepts ?? false,
    quiet: reply.quiet ?? false,
    ref: reply.ref === undefined ? undefined : template(reply.ref, `${path}.ref`, groups),
    refuses: reply.refuses && {
      code: template(reply.refuses.code ?? '', `${path}.refuses.code`, groups),
      reason: template(reply.refuses.reason, `${path}.refuses.reason`, groups),
      reads: reply.refuses.reads,
    },
  };
}

/** The text that a pattern begins with, as far as it is plain: `^NOW program (…)` gives `NOW program `. */
export function literalPrefix(source: string): string {
  // With an alternative anywhere the beginning may be one of several.
  if (!source.startsWith('^') || source.includes('|')) return '';
  const plain = /^[A-Za-z0-9 :;=#,_/!"'<>@~&%-]*/.exec(source.slice(1))?.[0] ?? '';
  // A repetition behind the last character makes that one optional.
  return /[*+?{]/.test(source.charAt(plain.length + 1)) ? plain.slice(0, -1) : plain;
}
