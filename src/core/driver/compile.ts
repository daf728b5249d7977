import { RE2JS } from 're2js';
import type { Problem, Result } from '../result';
import { fail, ok } from '../result';
import { splitKey } from './reading-key';
import { driverDocumentSchema, type DriverCommand, type DriverDocument } from './schema';
import { holesOf, parseTemplate, type TemplatePart } from './template';

/** A document made ready for work: patterns compiled, templates parsed, everything it refers to known to exist. */
export interface CompiledDriver {
  readonly document: DriverDocument;
  readonly commands: ReadonlyMap<string, { readonly command: DriverCommand; readonly send: readonly TemplatePart[] }>;
  readonly replies: readonly CompiledReply[];
  readonly greeting: readonly ({ readonly expect: RE2JS; readonly withinMs: number } | { readonly send: string })[];
  readonly syncUntil: RE2JS | undefined;
}

export interface CompiledReply {
  readonly pattern: RE2JS;
  /** Every line that fits begins with this; most lines are told apart by it, without the pattern. */
  readonly prefix: string;
  readonly groups: readonly string[];
  readonly set: readonly { readonly key: readonly TemplatePart[]; readonly value: readonly TemplatePart[] }[];
  readonly accepts: boolean;
  readonly refuses: { readonly code: readonly TemplatePart[]; readonly reason: readonly TemplatePart[] } | undefined;
}

/**
 * Checks a driver document and makes it ready. All or nothing: with one problem nothing of it is used.
 *
 * Patterns are compiled by a linear-time engine, so that no pattern of a foreign document can hang the program.
 */
export function compileDriver(input: unknown): Result<CompiledDriver, readonly Problem[]> {
  const parsed = driverDocumentSchema.safeParse(input);
  if (!parsed.success) {
    return fail(parsed.error.issues.map((issue) => ({ path: issue.path.join('.'), message: issue.message })));
  }
  const document = parsed.data;
  const problems: Problem[] = [];
  const report = (path: string, message: string) => void problems.push({ path, message });

  const pattern = (source: string, path: string): RE2JS => {
    try {
      const compiled = RE2JS.compile(source);
      // The engine sets itself up at the first match, for tens of milliseconds: here, not at a device's first line.
      compiled.matcher('').find();
      return compiled;
    } catch (error) {
      report(path, `Not a pattern of the linear-time kind: ${error instanceof Error ? error.message : String(error)}`);
      return RE2JS.compile('$.');
    }
  };
  const template = (source: string, path: string, known: readonly string[], kind: string): readonly TemplatePart[] => {
    const parts = parseTemplate(source);
    if (!parts.ok) {
      report(path, `At character ${parts.error.offset + 1}: ${parts.error.message}`);
      return [];
    }
    for (const hole of holesOf(parts.value)) {
      if (!known.includes(hole)) report(path, `There is no ${kind} “${hole}”. ${listOf(kind, known)}`);
    }
    return parts.value;
  };

  for (const [key, reading] of Object.entries(document.readings)) {
    if (key.includes('[]') && !reading.index) report(`readings.${key}`, 'A family needs "index" with "from" and "to".');
    if (!key.includes('[]') && reading.index)
      report(`readings.${key}`, 'Only a family (with [] in its key) has "index".');
  }
  const knowsReading = (key: string) => key in document.readings;

  const commands = new Map<string, { command: DriverCommand; send: readonly TemplatePart[] }>();
  for (const [id, command] of Object.entries(document.commands)) {
    const params = Object.keys(command.params);
    commands.set(id, { command, send: template(command.send, `commands.${id}.send`, params, 'parameter') });
    for (const [param, { listFrom }] of Object.entries(command.params)) {
      if (listFrom && !document.readings[listFrom]?.index) {
        report(`commands.${id}.params.${param}.listFrom`, `There is no family of readings “${listFrom}”.`);
      }
    }
    checkConfirm(document, id, report);
  }

  const replies = document.replies.map((reply, n): CompiledReply => {
    const compiled = pattern(reply.match, `replies.${n}.match`);
    const groups = Object.keys(compiled.namedGroups());
    const set = Object.entries(reply.set ?? {}).map(([key, value]) => {
      const path = `replies.${n}.set.${key}`;
      const family = splitKey(key.replace(/\[\{[A-Za-z0-9]+\}\]/, '[]')).family;
      if (!knowsReading(family)) report(path, `There is no reading “${family}”.`);
      return { key: template(key, path, groups, 'group'), value: template(value, path, groups, 'group') };
    });
    const refuses = reply.refuses && {
      code: template(reply.refuses.code ?? '', `replies.${n}.refuses.code`, groups, 'group'),
      reason: template(reply.refuses.reason, `replies.${n}.refuses.reason`, groups, 'group'),
    };
    return {
      pattern: compiled,
      prefix: literalPrefix(reply.match),
      groups,
      set,
      accepts: reply.accepts ?? false,
      refuses,
    };
  });

  const greeting = document.greeting.map((step, n) =>
    'send' in step ? step : { expect: pattern(step.expect, `greeting.${n}.expect`), withinMs: step.withinMs },
  );
  const syncUntil = document.sync.until ? pattern(document.sync.until, 'sync.until') : undefined;
  const { keepAlive } = document.link;
  if (keepAlive && keepAlive.silentAfterMs <= keepAlive.everyMs) {
    report('link.keepAlive.silentAfterMs', 'Must be longer than "everyMs", or every pause would count as silence.');
  }
  if (keepAlive && keepAlive.giveUpAfterMs <= keepAlive.silentAfterMs) {
    report('link.keepAlive.giveUpAfterMs', 'Must be longer than "silentAfterMs".');
  }
  return problems.length > 0 ? fail(problems) : ok({ document, commands, replies, greeting, syncUntil });
}

/** The text that a pattern begins with, as far as it is plain: `^NOW program (…)` gives `NOW program `. */
export function literalPrefix(source: string): string {
  // With an alternative anywhere the beginning may be one of several.
  if (!source.startsWith('^') || source.includes('|')) return '';
  const plain = /^[A-Za-z0-9 :;=#,_/!"'<>@~&%-]*/.exec(source.slice(1))?.[0] ?? '';
  // A repetition behind the last character makes that one optional.
  return /[*+?{]/.test(source.charAt(plain.length + 1)) ? plain.slice(0, -1) : plain;
}

function checkConfirm(document: DriverDocument, id: string, report: (path: string, message: string) => void): void {
  const command = document.commands[id];
  const confirm = command?.confirm;
  if (!command || !confirm) return;
  if (confirm.by === 'answer') {
    if (document.answers === 'none')
      report(`commands.${id}.confirm`, 'This device does not answer ("answers": "none").');
    return;
  }
  confirm.all.forEach((condition, n) => {
    const path = `commands.${id}.confirm.all.${n}`;
    const reading = document.readings[condition.reading];
    if (!reading) report(`${path}.reading`, `There is no reading “${condition.reading}”.`);
    if (reading?.index && !condition.index) report(`${path}.index`, 'A family needs the parameter that is its index.');
    const named = [
      condition.index,
      typeof condition.equals === 'object' && 'param' in condition.equals ? condition.equals.param : undefined,
    ];
    for (const param of named) {
      if (param && !(param in command.params)) report(path, `There is no parameter “${param}”.`);
    }
    if (
      typeof condition.equals === 'object' &&
      'before' in condition.equals &&
      !document.readings[condition.equals.before]
    ) {
      report(path, `There is no reading “${condition.equals.before}”.`);
    }
  });
}

function listOf(kind: string, known: readonly string[]): string {
  return known.length > 0 ? `Known: ${known.join(', ')}.` : `There is no ${kind} at all here.`;
}
