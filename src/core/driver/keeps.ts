import type { DriverCommand, DriverDocument } from './schema';
import type { DriverKeepSend } from './schema-keeps';

/** The parameter that chooses the member of a family; two of them where the member is ten times the one and the other besides. */
type MemberIndex = NonNullable<DriverKeepSend['index']>;

interface KeepMapping {
  /** The parameters that choose the member, where the readings are families. */
  readonly index: MemberIndex | undefined;
  readonly reads: readonly { readonly param: string; readonly family: string; readonly within: number }[];
}

/** Which reading each parameter of a command takes: as the keep says, else as the readings that confirm the command say. */
export function keepMapping({ reads, index }: DriverKeepSend, { confirm }: DriverCommand): KeepMapping {
  if (reads) {
    return { index, reads: Object.entries(reads).map(([param, family]) => ({ param, family, within: 0 })) };
  }
  const conditions = confirm?.by === 'readings' ? confirm.all : [];
  return {
    index: index ?? conditions.find((condition) => condition.index !== undefined)?.index,
    reads: conditions.flatMap(({ reading, equals, within = 0 }) =>
      typeof equals === 'object' && 'param' in equals ? [{ param: equals.param, family: reading, within }] : [],
    ),
  };
}

/** What is wrong with a command of a keep; `undefined` when it can send its readings back. */
export function keepSendProblem(document: DriverDocument, send: DriverKeepSend): string | undefined {
  const command = document.commands[send.command];
  if (!command) return `There is no command “${send.command}”.`;
  if (command.risky) return `“${command.title}” is risky: calling up a snapshot asks nobody, so it cannot send it.`;
  if (command.stop) return `“${command.title}” goes on until it is stopped, so it brings no reading back.`;
  const { index, reads } = keepMapping(send, command);
  if (reads.length === 0)
    return `No reading says what “${command.title}” has set. Name it in "reads", or let readings confirm the command.`;
  for (const { param, family } of reads) {
    if (!command.params[param]) return `“${command.title}” has no parameter “${param}”.`;
    const reading = document.readings[family];
    if (!reading) return `There is no reading “${family}”.`;
    if ((reading.index === undefined) !== (index === undefined))
      return 'The readings are either all families with an "index" parameter, or none of them is.';
  }
  const chosen = choosers(index);
  const unknown = chosen.find((name) => !command.params[name]);
  if (unknown !== undefined) return `“${command.title}” has no parameter “${unknown}”.`;
  const given = new Set([...chosen, ...reads.map(({ param }) => param)]);
  const missing = Object.entries(command.params).find(
    ([name, { optional, default: usual }]) => !given.has(name) && !optional && usual === undefined,
  );
  if (missing) return `No reading says what “${missing[1].title}” of “${command.title}” is.`;
  if (send.when) {
    const reading = document.readings[send.when.reading];
    if (!reading) return `There is no reading “${send.when.reading}”.`;
    const { index: member } = send.when;
    if (reading.index === undefined && member !== undefined)
      return `“${send.when.reading}” is a single reading: "when" takes no "index".`;
    if (reading.index !== undefined && (member === undefined || !chosen.includes(member)))
      return `“${send.when.reading}” is a family: "index" in "when" has to name a parameter that chooses the member.`;
  }
  if (send.fade && !document.commands[send.fade.command]?.params[send.fade.param])
    return `There is no command “${send.fade.command}” with a parameter “${send.fade.param}”.`;
  return undefined;
}

/** The parameters that choose a member. */
const choosers = (index: MemberIndex | undefined): readonly string[] =>
  index === undefined ? [] : typeof index === 'string' ? [index] : [index.tens, index.ones];

/** The parameters that choose this member, each with its value. */
export const chosenBy = (index: MemberIndex, member: number): Readonly<Record<string, number>> =>
  typeof index === 'string'
    ? { [index]: member }
    : { [index.tens]: Math.floor(member / 10), [index.ones]: member % 10 };
