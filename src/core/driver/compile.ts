import type { RE2JS } from 're2js';
import type { Problem, Result } from '../result';
import { fail, ok } from '../result';
import { checkReferences } from './check-references';
import { computedParams, computedReadings } from './compile-computed';
import { credentials, OwnMessages, type CompiledPoll, type OwnMessage } from './compile-own';
import { compilePattern, compileReply, type CompiledReply } from './compile-reply';
import type { ComputedReading, Expression } from './computed';
import { identityReadings } from './identity';
import { listOf, usesRef, type CompiledMessage, type ReportProblem } from './message';
import { documentFor, optionTexts, type DocumentUse } from './options';
import { driverDocumentSchema, type DriverCommand, type DriverDocument } from './schema';
import { problemsOfIssue } from './schema-problems';
import { holesOf, parseTemplate, type TemplatePart } from './template';

export interface CompiledCommand {
  readonly command: DriverCommand;
  readonly send: CompiledMessage;
  readonly usesRef: boolean;
  /** Expressions for parameters that are not given, by name. */
  readonly computed: ReadonlyMap<string, Expression>;
}

export type CompiledStep =
  | {
      /** The step is skipped if this name, password or captured group is empty. */
      readonly needs: string | undefined;
      readonly expect: RE2JS;
      readonly withinMs: number;
      readonly groups: readonly string[];
      readonly lockedOut: RE2JS | undefined;
      readonly occupied: RE2JS | undefined;
    }
  | {
      readonly needs: string | undefined;
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
  /** What is sent to ask a question: one message, or one for each member of a family. */
  readonly asked: ReadonlyMap<string, readonly OwnMessage[]>;
  readonly replies: readonly CompiledReply[];
  readonly greeting: readonly CompiledStep[];
  readonly sync: readonly OwnMessage[];
  readonly syncUntil: RE2JS | undefined;
  readonly polls: readonly CompiledPoll[];
  readonly keepAlive: OwnMessage | undefined;
  /** Readings that only come with replies that come all the time: nobody wants each of them on record. */
  readonly quietReadings: ReadonlySet<string>;
  /** Computed readings, in the order of evaluation. */
  readonly computed: readonly ComputedReading[];
  /** The smallest change that is reported, by reading key or family. */
  readonly deadBands: ReadonlyMap<string, number>;
  /** Readings by which the device says what it is. */
  readonly identityKeys: ReadonlySet<string>;
}

/**
 * Checks a driver document and makes it ready, for a device with its options and additions. All or nothing: with one
 * problem nothing of it is used.
 *
 * Patterns are compiled by a linear-time engine, so that no pattern of a foreign document can hang the program.
 */
export function compileDriver(input: unknown, use: DocumentUse = {}): Result<CompiledDriver, readonly Problem[]> {
  const document = parseDriver(input);
  return document.ok ? compileParsed(document.value, use) : document;
}

/** Reads a document by its schema alone and fills in what it leaves to the defaults. */
export function parseDriver(input: unknown): Result<DriverDocument, readonly Problem[]> {
  const parsed = driverDocumentSchema.safeParse(input);
  return parsed.success ? ok(parsed.data) : fail(parsed.error.issues.flatMap((issue) => problemsOfIssue(issue)));
}

/** The same as `compileDriver` for a document that the schema has parsed before: reading it again takes longer than all the rest. */
export function compileParsed(
  whole: DriverDocument,
  use: DocumentUse = {},
): Result<CompiledDriver, readonly Problem[]> {
  const document = documentFor(whole, use);
  // What a device has set of an option may not be what its place takes.
  const set = whole.variants.length > 0 ? optionPlaces.safeParse(document) : undefined;
  if (set && !set.success) return fail(set.error.issues.flatMap((issue) => problemsOfIssue(issue)));
  const problems: Problem[] = [];
  const report: ReportProblem = (path, message) => void problems.push({ path, message });
  const compiled = {
    ...compileParts(document, use.additions?.replies.length ?? 0, report),
    optionTexts: optionTexts(document),
    whole,
  };
  checkReferences(document, whole, report);
  return problems.length > 0 ? fail(problems) : ok(compiled);
}

/** Where the values of options stand. */
const optionPlaces = driverDocumentSchema.pick({ link: true, framing: true, polls: true }).loose();

/** @param added how many of the replies, the first ones, a show adds */
function compileParts(
  document: DriverDocument,
  added: number,
  report: ReportProblem,
): Omit<CompiledDriver, 'optionTexts' | 'whole'> {
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
  const holes = [
    ...Object.keys(document.options).map((name) => `option.${name}`),
    ...Object.keys(document.readings).flatMap((key) => (key.includes('[]') ? [] : [`reading.${key}`])),
  ];
  const own = new OwnMessages(document, holes, report);
  const commands = new Map<string, CompiledCommand>();
  for (const [id, command] of Object.entries(document.commands)) {
    const path = `commands.${id}.send`;
    const known = Object.keys(command.params);
    const computed = computedParams(document, command, `commands.${id}.params`, report);
    const send = own.single(command.send, path, known).message;
    commands.set(id, { command, send, usesRef: usesRef(send), computed });
  }
  const checkNeeds = (needs: string | undefined, known: readonly string[], path: string) => {
    if (needs !== undefined && !known.includes(needs))
      report(`${path}.if`, `There is no group “${needs}”. ${listOf(known)}`);
  };
  const greetingGroups: string[] = [];
  const greeting = document.greeting.map((step, n): CompiledStep => {
    const path = `greeting.${n}`;
    if ('expect' in step) {
      const expect = pattern(step.expect, `${path}.expect`);
      const groups = Object.keys(expect.namedGroups());
      checkNeeds(step.if, [...credentials, ...greetingGroups], path);
      greetingGroups.push(...groups);
      return {
        needs: step.if,
        expect,
        groups,
        withinMs: step.withinMs,
        lockedOut: step.lockedOut === undefined ? undefined : pattern(step.lockedOut, `${path}.lockedOut`),
        occupied: step.occupied === undefined ? undefined : pattern(step.occupied, `${path}.occupied`),
      };
    }
    const known = [...credentials, ...greetingGroups];
    checkNeeds(step.if, known, path);
    const derive = Object.entries(step.derive ?? {}).map(([name, { hash, of }]) => ({
      name,
      hash,
      of: template(of, `${path}.derive.${name}.of`, known),
    }));
    const send = own.single(step.send, `${path}.send`, [...known, ...derive.map(({ name }) => name)]);
    return { needs: step.if, send, derive };
  });
  const replies = document.replies.map((reply, n) => ({
    ...compileReply(document, reply, `replies.${n}`, pattern, template, report),
    isAdded: n < added,
  }));
  return {
    document,
    commands,
    asked: own.asked,
    quietReadings: quietReadingsOf(document),
    computed: computedReadings(document, report),
    deadBands: new Map(
      Object.entries(document.readings).flatMap(([key, { deadBand }]) =>
        deadBand === undefined ? [] : [[key, deadBand]],
      ),
    ),
    identityKeys: new Set(identityReadings(document)),
    greeting,
    replies,
    sync: document.sync.send.flatMap((message, n) => own.messages(message, `sync.send.${n}`, credentials)),
    syncUntil: document.sync.until ? pattern(document.sync.until, 'sync.until') : undefined,
    polls: own.polls,
    keepAlive: document.link.keepAlive && own.single(document.link.keepAlive.send, 'link.keepAlive.send', credentials),
  };
}

function quietReadingsOf({ replies }: DriverDocument): Set<string> {
  const familiesOf = (quiet: boolean) =>
    replies
      .filter((reply) => (reply.quiet ?? false) === quiet)
      .flatMap((reply) => Object.keys(reply.set ?? {}).map((key) => key.replace(/\[[^\]]*\]/, '[]')));
  const told = new Set(familiesOf(false));
  return new Set(familiesOf(true).filter((family) => !told.has(family)));
}
