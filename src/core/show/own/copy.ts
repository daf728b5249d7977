import type { DriverAdditions, DriverDocument } from '../../driver';
import { fail, type Problem, type Result } from '../../result';
import { sameAsOf, withReadingAs } from './same-as';
import { asks, checked, freeName, noAdditions, withQuestions } from './additions';

/** One device that an addition is copied from or to. */
interface Side {
  /** The document of the device without additions. */
  readonly document: DriverDocument;
  readonly additions: DriverAdditions | undefined;
}

/**
 * The additions of another device with a copy of a command or reading. What a command rests on comes with it: the readings that confirm it
 * and from which its values step, the command that stops it. One that is there already by the same title is used instead of a second one.
 */
export function copyAddition(
  from: Side,
  kind: 'command' | 'reading',
  id: string,
  to: Side,
): Result<DriverAdditions, readonly Problem[]> {
  const { additions = noAdditions } = from;
  const copy = new Copy(additions, to.document, to.additions ?? noAdditions, from.document.id === to.document.id);
  const isCopied = kind === 'command' ? copy.command(id) : copy.reading(id);
  if (isCopied === undefined) return fail([{ path: '', message: 'It has been removed.' }]);
  return checked(to.document, copy.made);
}

class Copy {
  constructor(
    private readonly from: DriverAdditions,
    private readonly document: DriverDocument,
    public made: DriverAdditions,
    /** Both have the same driver, and so the same names for what they do. */
    private readonly isSameDriver: boolean,
  ) {}

  /** @returns the id of the copy; of a command of the driver its own */
  command(id: string): string | undefined {
    const command = this.from.commands[id];
    if (!command) return id in this.document.commands ? id : undefined;
    const known = Object.entries(this.made.commands).find(([, { title }]) => title === command.title);
    if (known) return known[0];
    const at = freeName('own', { ...this.document.commands, ...this.made.commands });
    // Entered first, so that a command that is its own stop ends here.
    this.made = { ...this.made, commands: { ...this.made.commands, [at]: command } };
    const { stop, confirm } = command;
    const stopAt = stop && this.command(stop.command);
    const params = Object.entries(command.params).map(([name, param]) => {
      const { step, computed } = param;
      const stepped = step ? { ...param, step: { ...step, from: this.reading(step.from) ?? step.from } } : param;
      return [name, computed === undefined ? stepped : { ...stepped, computed: this.expression(computed) }] as const;
    });
    const renamed = {
      ...command,
      params: Object.fromEntries(params),
      ...(stop && stopAt !== undefined ? { stop: { ...stop, command: stopAt } } : {}),
      ...(confirm?.by === 'readings'
        ? {
            confirm: {
              ...confirm,
              ask: confirm.ask.map((name) => this.reading(name) ?? name),
              all: confirm.all.map((each) => ({ ...each, reading: this.reading(each.reading) ?? each.reading })),
            },
          }
        : {}),
    };
    this.made = { ...this.made, commands: { ...this.made.commands, [at]: renamed } };
    this.nameCommand(id, at);
    return at;
  }

  reading(id: string): string | undefined {
    const reading = this.from.readings[id];
    if (!reading) return id in this.document.readings ? id : undefined;
    const known = Object.entries(this.made.readings).find(([, { title }]) => title === reading.title);
    if (known) return known[0];
    // The readings it uses are copied first: an expression may only name earlier ones.
    const copy = reading.computed === undefined ? reading : { ...reading, computed: this.expression(reading.computed) };
    const at = freeName('own', { ...this.document.readings, ...this.made.readings });
    const renamed = <T>(record: Readonly<Record<string, T>>): Record<string, T> =>
      Object.fromEntries(Object.entries(record).flatMap(([key, each]) => (key === id ? [[at, each]] : [])));
    const replies = this.from.replies
      .filter(({ set }) => id in (set ?? {}))
      .map((reply) => ({
        ...reply,
        set: renamed(reply.set ?? {}),
        ...(reply.to ? { to: reply.to.map((name) => (name === id ? at : name)) } : {}),
      }));
    const polls = (this.from.polls ?? []).filter((each) => asks(each, id));
    this.made = {
      ...this.made,
      readings: { ...this.made.readings, [at]: copy },
      replies: [...this.made.replies, ...replies],
      ...withQuestions({ ...this.made.questions, ...renamed(this.from.questions ?? {}) }, [
        ...(this.made.polls ?? []),
        ...polls.map((poll) => ({ ...poll, send: { ask: at } })),
      ]),
    };
    const name = this.isSameDriver ? sameAsOf(this.from, 'readings', id) : undefined;
    if (name !== undefined && this.made.contract?.readings[name] === undefined)
      this.made = withReadingAs(this.made, at, name);
    return at;
  }

  /** The copy is known to the contract of the role as the original is, unless another command is. */
  private nameCommand(id: string, at: string): void {
    const name = this.isSameDriver ? sameAsOf(this.from, 'commands', id) : undefined;
    const known = name === undefined ? undefined : this.from.contract?.commands[name];
    if (name === undefined || !known || this.made.contract?.commands[name]) return;
    const contract = this.made.contract ?? { commands: {}, readings: {}, drives: {}, stills: {} };
    const commands = { ...contract.commands, [name]: { ...known, command: at } };
    this.made = { ...this.made, contract: { ...contract, commands } };
  }

  /** Rewrites an expression to use the copied readings. */
  private expression(computed: string): string {
    return computed.replace(/\bown\d+\b/g, (name) => this.reading(name) ?? name);
  }
}
