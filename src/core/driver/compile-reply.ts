import { RE2JS } from 're2js';
import { listOf, type ReportProblem } from './message';
import { plainPattern, type PlainPattern } from './plain-pattern';
import { splitKey } from './reading-key';
import { saysJson } from './says-json';
import type { DriverDocument, DriverReading, DriverReply } from './schema';
import { holesOf, type TemplatePart } from './template';
import type { TextWriting } from './written-text';

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
  /** HTTP: the header that it reads, in small letters. */
  readonly header: string | undefined;
  /** MQTT: what the topic must fit. */
  readonly topic: RE2JS | undefined;
  readonly when: readonly { readonly pointer: string; readonly pattern: RE2JS }[];
  readonly each: string | undefined;
  readonly where: readonly { readonly pointer: string; readonly pattern: RE2JS }[];
  /** Only this one of the elements, from 1. */
  readonly nth: number | undefined;
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
  readonly asks: readonly string[];
  readonly requests:
    | {
        readonly line: readonly TemplatePart[];
        readonly done: string | undefined;
        readonly refused: string | undefined;
      }
    | undefined;
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

/** Patterns compiled before: drivers of one protocol share most of theirs, and compiling one takes a millisecond. */
const knownPatterns = new Map<string, RE2JS>();
const mostKnown = 2000;

/** Compiles a pattern. An invalid one is reported and replaced by one that matches nothing. */
export function compilePattern(source: string, path: string, report: ReportProblem): RE2JS {
  const known = knownPatterns.get(source);
  if (known) return known;
  try {
    const compiled = RE2JS.compile(source);
    // The engine sets itself up at the first match, for tens of milliseconds: here, not at a device's first line.
    compiled.matcher('').find();
    if (knownPatterns.size >= mostKnown) knownPatterns.clear();
    knownPatterns.set(source, compiled);
    return compiled;
  } catch (error) {
    report(
      path,
      `This pattern is not supported (RE2 syntax is): ${error instanceof Error ? error.message : String(error)}`,
    );
    return RE2JS.compile('$.');
  }
}

/** Compiles a reply. Every mistake is reported with its path. */
export function compileReply(
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
  const isHeader = reply.header !== undefined;
  if (isHeader && framing.kind !== 'http') report(`${path}.header`, 'Only HTTP has headers.');
  if (isHeader && looksInside) report(path, 'A header is looked at with "match".');
  if (isJson && !isHeader && reply.match !== undefined)
    report(`${path}.match`, 'JSON is looked at with "when" and "take", not with a pattern.');
  if (!isJson && !isHeader && looksInside) {
    report(path, '"when", "take" and "each" are for JSON; here "match" is a pattern.');
  }
  if (!isJson && !isHeader && reply.match === undefined) report(`${path}.match`, 'Expected a pattern.');
  for (const [n, name] of (reply.to ?? []).entries()) {
    if (!(name in document.questions) && !(name in document.commands)) {
      report(`${path}.to.${n}`, `There is no question or command “${name}”.`);
    }
  }
  const match = reply.match ?? (isHeader ? '^(?P<value>.*)$' : undefined);
  const compiled = (isJson && !isHeader) || match === undefined ? undefined : pattern(match, `${path}.match`);
  if (reply.topic !== undefined && framing.kind !== 'mqtt') report(`${path}.topic`, 'Only MQTT has topics.');
  const topic = reply.topic === undefined ? undefined : pattern(reply.topic, `${path}.topic`);
  const take = Object.entries(reply.take ?? {}).map(([name, pointer]) => ({ name, pointer }));
  const groups = compiled ? Object.keys(compiled.namedGroups()) : take.map(({ name }) => name);
  const tests = (record: Readonly<Record<string, string>> | undefined, name: 'when' | 'where') =>
    Object.entries(record ?? {}).map(([pointer, source]) => ({
      pointer,
      pattern: pattern(source, `${path}.${name}.${pointer}`),
    }));
  const when = tests(reply.when, 'when');
  const where = tests(reply.where, 'where');
  for (const each of [...when, ...where]) groups.push(...Object.keys(each.pattern.namedGroups()));
  if (reply.each !== undefined) groups.push('index', 'number', 'key');
  else if (reply.where ?? reply.nth) report(path, '"where" and "nth" need "each".');
  if (topic) groups.push(...Object.keys(topic.namedGroups()));
  if (reply.to?.some((name) => document.questions[name]?.each !== undefined)) groups.push('member');
  for (const [n, name] of (reply.asks ?? []).entries()) {
    if (!(name in document.questions)) report(`${path}.asks.${n}`, `There is no question “${name}”.`);
    else if (reply.to?.includes(name))
      report(`${path}.asks.${n}`, 'The answer to this question would ask the same question again.');
  }
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
      needs: isJson && !isHeader ? [...holesOf(parts.key), ...holesOf(parts.value)] : [],
      reading: fixed ? { key, definition } : undefined,
      only: parts.value.length === 1 && first?.kind === 'hole' && !first.format ? first.name : undefined,
    };
  });
  for (const [n, family] of (reply.clears ?? []).entries()) {
    if (!(family in document.readings)) report(`${path}.clears.${n}`, `There is no reading “${family}”.`);
  }
  for (const how of ['done', 'refused'] as const) {
    const command = reply.requests?.[how];
    if (command !== undefined && !(command in document.commands))
      report(`${path}.requests.${how}`, `There is no command “${command}”.`);
  }
  return {
    to: reply.to,
    pattern: compiled,
    plain: isJson || isHeader || reply.match === undefined ? undefined : plainPattern(reply.match),
    prefix: isHeader || reply.match === undefined ? '' : literalPrefix(reply.match),
    // What a pattern itself has; the others are made elsewhere.
    groups: compiled ? Object.keys(compiled.namedGroups()) : [],
    topic,
    header: reply.header?.toLowerCase(),
    when,
    each: reply.each,
    where,
    nth: reply.nth,
    take,
    set,
    clears: reply.clears ?? [],
    asks: reply.asks ?? [],
    requests: reply.requests && {
      line: template(reply.requests.line, `${path}.requests.line`, groups),
      done: reply.requests.done,
      refused: reply.requests.refused,
    },
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
