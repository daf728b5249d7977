import type { DriverAdditions, DriverCommand, DriverDocument, DriverParameter } from '../../driver';
import { fail, type Problem, type Result, type Scalar } from '../../result';
import { checked, freeName, noAdditions } from './additions';
import { commandAsProblem, withCommandAs } from './same-as';
import { emptyMessage, messageKinds, messageOf, typedOf, type OwnMessage } from './message';

/** A value of a command: its name in the message, in braces, and what it can be. */
export interface OwnValue {
  readonly name: string;
  readonly title: string;
  readonly value: DriverParameter['value'];
  readonly default: Scalar | undefined;
  /** Where no value is given, it goes up or down from what this reading is. */
  readonly step?: OwnStep;
  /** Where no value is given, it is computed by this expression (CEL) over readings and the values before it. */
  readonly computed?: string;
}

export interface OwnStep {
  readonly reading: string;
  readonly by: number;
  /** Past the end of its range it goes on at the other end. */
  readonly wrap: boolean;
}

/** What counts as done: what the settings of the device say, or that a reading takes a value. */
export type OwnConfirm =
  | { readonly by: 'device' }
  | {
      readonly by: 'reading';
      readonly reading: string;
      /** A value of the command by its name, or one that is always the same. */
      readonly equals: { readonly name: string } | { readonly fixed: Scalar };
      readonly withinMs: number;
    };

/** A command that a show adds to a device, as a person enters it. */
export interface OwnCommand {
  readonly title: string;
  readonly message: OwnMessage;
  readonly values: readonly OwnValue[];
  readonly risky: boolean;
  /** Sending it twice does no harm: it is sent again when nothing answers. */
  readonly again: boolean;
  readonly confirm: OwnConfirm;
  /** It starts something that this command of the device stops, after `longestMs` at the latest. */
  readonly stop: { readonly command: string; readonly longestMs: number } | undefined;
  /** The command in the contract of the device's role that it carries out. */
  readonly sameAs?: { readonly role: string; readonly name: string } | undefined;
}

/** An empty command for a device of this driver; `undefined` where its messages cannot be typed. */
export function emptyCommand(document: DriverDocument): OwnCommand | undefined {
  const [kind] = messageKinds(document);
  if (!kind) return undefined;
  const message = emptyMessage(kind, document);
  return { title: '', message, values: [], risky: false, again: false, confirm: { by: 'device' }, stop: undefined };
}

/** A command of a show as it was entered; `undefined` for one that is beyond these fields. */
export function commandTyped(command: DriverCommand, document: DriverDocument): OwnCommand | undefined {
  const message = typedOf(command.send, document);
  const confirm = confirmTyped(command.confirm);
  if (!message || !confirm) return undefined;
  const params = Object.entries(command.params);
  // A step by another value, or of a member of a family, is beyond these fields.
  if (params.some(([, { step }]) => step && (typeof step.by === 'object' || step.index !== undefined)))
    return undefined;
  const values = params.map(([name, { title, value, default: fallback, step, computed }]) => ({
    name,
    title,
    value,
    default: fallback,
    ...(step ? { step: { reading: step.from, by: Number(step.by), wrap: step.wrap } } : {}),
    ...(computed === undefined ? {} : { computed }),
  }));
  const { title, risky, again = false, stop } = command;
  return {
    title,
    message,
    values,
    risky,
    again,
    confirm,
    stop: stop && { command: stop.command, longestMs: stop.longestMs },
  };
}

function confirmTyped(confirm: DriverCommand['confirm']): OwnConfirm | undefined {
  if (confirm === undefined) return { by: 'device' };
  if (confirm.by === 'answer') return undefined;
  const [first, ...more] = confirm.all;
  if (!first || more.length > 0 || first.equals === undefined || first.index !== undefined) return undefined;
  const { reading, equals } = first;
  const { withinMs } = confirm;
  if (typeof equals !== 'object') return { by: 'reading', reading, equals: { fixed: equals }, withinMs };
  return 'param' in equals ? { by: 'reading', reading, equals: { name: equals.param }, withinMs } : undefined;
}

/**
 * The device's additions with this command, in place of the one with the id or as a new one. Fails with the field at fault, or with what
 * would not work.
 */
export function putCommand(
  document: DriverDocument,
  additions: DriverAdditions = noAdditions,
  id: string | undefined,
  own: OwnCommand,
): Result<DriverAdditions, readonly Problem[]> {
  const names = own.values.map(({ name }) => name);
  const twice = names.find((name, n) => names.indexOf(name) !== n);
  if (own.title.trim() === '') return fail([{ path: 'title', message: 'Enter a name.' }]);
  const wrong = names.find((name) => nameProblem(name) !== undefined);
  if (wrong !== undefined)
    return fail([{ path: 'values', message: `“${wrong}” cannot be the name of a value. ${nameProblem(wrong)}` }]);
  if (twice !== undefined) return fail([{ path: 'values', message: `Two values are called “${twice}”.` }]);
  const send = messageOf(own.message, names, document);
  if (!send.ok) return fail([send.error]);
  const params: Record<string, DriverParameter> = {};
  for (const { name, title, value, default: fallback, step, computed } of own.values) {
    const base = { title: title.trim() || name, value, sends: 'index' as const, optional: false };
    if (step) params[name] = { ...base, step: { from: step.reading, by: step.by, wrap: step.wrap } };
    else if (computed !== undefined) params[name] = { ...base, computed: computed.trim() };
    else params[name] = fallback === undefined ? base : { ...base, default: fallback };
  }
  const command: DriverCommand = {
    title: own.title.trim(),
    ...(names.length > 0 ? { says: saysOf(own.title.trim(), own.values) } : {}),
    params,
    send: send.value,
    risky: own.risky,
    harmless: false,
    class: own.stop ? 'urgent' : 'ordinary',
    ...(own.again ? { again: true as const } : {}),
    ...(own.stop ? { stop: { ...own.stop, params: {} } } : {}),
    ...confirmOf(own),
  };
  const at = id ?? freeName('own', { ...document.commands, ...additions.commands });
  const unknown = own.sameAs && commandAsProblem(own.sameAs.role, own.sameAs.name, params);
  if (unknown) return fail([unknown]);
  const all = { ...additions, commands: { ...additions.commands, [at]: command } };
  return checked(document, withCommandAs(all, at, own.sameAs, params));
}

/** “Level {level}”: what a button says. */
const saysOf = (title: string, values: readonly OwnValue[]): string =>
  [title, ...values.filter(({ step, computed }) => !step && computed === undefined).map(({ name }) => `{${name}}`)]
    .join(' ')
    .slice(0, 120);

function confirmOf({ confirm }: OwnCommand): Pick<DriverCommand, 'confirm'> {
  if (confirm.by === 'device') return {};
  const { reading, equals, withinMs } = confirm;
  const value = 'name' in equals ? { param: equals.name } : equals.fixed;
  return { confirm: { by: 'readings', all: [{ reading, equals: value }], withinMs, ask: [], askEveryMs: 200 } };
}

/** True where a device of this driver can be sent a command again: it says when and how often. */
export const canSendAgain = ({ link }: DriverDocument): boolean => link.again !== undefined && link.again.times > 0;

/** What confirms a command after its values have changed: one that was renamed is still the same, one that is gone confirms nothing. */
export function confirmAfter(confirm: OwnConfirm, before: readonly OwnValue[], after: readonly OwnValue[]): OwnConfirm {
  if (confirm.by === 'device' || 'fixed' in confirm.equals) return confirm;
  const { name } = confirm.equals;
  if (after.some((value) => value.name === name)) return confirm;
  const renamed = before.length === after.length ? after[before.findIndex((value) => value.name === name)] : undefined;
  return renamed ? { ...confirm, equals: { name: renamed.name } } : { by: 'device' };
}

export const nameProblem = (name: string): string | undefined =>
  /^[a-z][A-Za-z0-9]*$/.test(name) ? undefined : 'A small letter, then letters and digits.';
