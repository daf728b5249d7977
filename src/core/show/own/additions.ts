import {
  additionsSchema,
  compileDriver,
  type DriverAdditions,
  type DriverCommand,
  type DriverDocument,
} from '../../driver';
import { fail, ok, type Problem, type Result } from '../../result';
import { withCommandAs, withReadingAs } from './same-as';

/** What a show adds to a device beside what its driver has. */

export const noAdditions: DriverAdditions = { commands: {}, readings: {}, replies: [] };

/**
 * These additions, if the driver works with them. What confirms a command is asked for at once where it has a question of its own.
 *
 * @param document that of the device, without additions
 */
export function checked(
  document: DriverDocument,
  additions: DriverAdditions,
): Result<DriverAdditions, readonly Problem[]> {
  const asking = { ...additions, commands: mapped(additions.commands, (each) => withAsks(each, additions)) };
  const parsed = additionsSchema.safeParse(asking);
  if (!parsed.success) {
    return fail(parsed.error.issues.map(({ path, message }) => ({ path: path.map(String).join('.'), message })));
  }
  const compiled = compileDriver(document, { additions: asking });
  return compiled.ok ? ok(asking) : fail(compiled.error);
}

function withAsks(command: DriverCommand, { readings, questions = {} }: DriverAdditions): DriverCommand {
  const { confirm } = command;
  if (confirm?.by !== 'readings') return command;
  const others = confirm.ask.filter((name) => !(name in readings));
  const own = confirm.all.map(({ reading }) => reading).filter((reading) => reading in questions);
  return { ...command, confirm: { ...confirm, ask: [...others, ...own] } };
}

export function freeName(base: string, taken: Readonly<Record<string, unknown>>): string {
  for (let n = 1; ; n += 1) if (!(`${base}${n}` in taken)) return `${base}${n}`;
}

/**
 * The additions without one of their commands or readings; `undefined` when nothing is left. A command that it confirmed or stopped, or whose
 * value stepped from it, stays without that; readings that are computed from it go with it.
 */
export function withoutAddition(
  additions: DriverAdditions,
  kind: 'command' | 'reading',
  id: string,
): DriverAdditions | undefined {
  const gone = kind === 'reading' ? [id, ...computedFromOwn(additions, id)] : [];
  const left =
    kind === 'command'
      ? { ...additions, commands: mapped(without(additions.commands, id), (each) => unstopped(each, id)) }
      : {
          ...gone.reduce(withoutSource, additions),
          readings: Object.fromEntries(Object.entries(additions.readings).filter(([key]) => !gone.includes(key))),
          commands: mapped(additions.commands, (each) =>
            gone.reduce((command, key) => unstepped(unconfirmed(command, key), key), each),
          ),
        };
  if (Object.keys(left.commands).length + Object.keys(left.readings).length === 0) return undefined;
  return kind === 'command'
    ? withCommandAs(left, id, undefined, {})
    : gone.reduce((each, key) => withReadingAs(each, key, undefined), left);
}

/** The readings of a show that are computed from this one, also by way of others. */
export function computedFromOwn(additions: DriverAdditions, id: string): string[] {
  const found = [id];
  for (const [key, { computed }] of Object.entries(additions.readings))
    if (computed !== undefined && found.some((each) => names(computed, each))) found.push(key);
  return found.slice(1);
}

const names = (expression: string, reading: string): boolean => new RegExp(`\\b${reading}\\b`).test(expression);

function unstopped(command: DriverCommand, id: string): DriverCommand {
  if (command.stop?.command !== id) return command;
  const { stop: _, ...rest } = command;
  return rest;
}

function unconfirmed(command: DriverCommand, id: string): DriverCommand {
  const { confirm, ...rest } = command;
  const rests = confirm?.by === 'readings' && confirm.all.some(({ reading }) => reading === id);
  return rests ? rest : command;
}

function unstepped(command: DriverCommand, id: string): DriverCommand {
  const params = mapped(command.params, (param) => {
    if (param.step?.from === id) {
      const { step: _, ...rest } = param;
      return rest;
    }
    if (param.computed === undefined || !names(param.computed, id)) return param;
    const { computed: _, ...rest } = param;
    return rest;
  });
  return { ...command, params };
}

/** The additions without that by which a reading is known: its replies, its question and its poll. */
export function withoutSource(additions: DriverAdditions, reading: string): DriverAdditions {
  const { questions = {}, polls = [], ...rest } = additions;
  return {
    ...rest,
    replies: additions.replies.filter((reply) => !(reading in (reply.set ?? {}))),
    ...withQuestions(
      without(questions, reading),
      polls.filter((poll) => !asks(poll, reading)),
    ),
  };
}

type Questions = NonNullable<DriverAdditions['questions']>;
type Polls = NonNullable<DriverAdditions['polls']>;

/** What is asked; nothing where nothing is, so that additions without questions are what they always were. */
export const withQuestions = (questions: Questions, polls: Polls): Pick<DriverAdditions, 'questions' | 'polls'> =>
  Object.keys(questions).length === 0 ? {} : { questions, polls };

export const asks = ({ send }: Polls[number], question: string): boolean =>
  typeof send === 'object' && 'ask' in send && send.ask === question;

const without = <T>(record: Readonly<Record<string, T>>, id: string): Record<string, T> => {
  const { [id]: _gone, ...others } = record;
  return others;
};

const mapped = <T>(record: Readonly<Record<string, T>>, change: (each: T) => T): Record<string, T> =>
  Object.fromEntries(Object.entries(record).map(([id, each]) => [id, change(each)]));
