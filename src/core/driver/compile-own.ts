import { compileMessage, listOf, type CompiledMessage, type ReportProblem } from './message';
import { indexesOf, memberText } from './members';
import type { DriverDocument } from './schema';
import type { Message } from './schema-messages';

/** Something that the document itself says; `ask` is the name of the question, if it is one. */
export interface OwnMessage {
  readonly ask: string | undefined;
  readonly message: CompiledMessage;
  /** Of a question that is asked for each member of a family: which one, and as the device writes it. */
  readonly member?: { readonly index: number; readonly text: string };
}

export interface CompiledPoll extends OwnMessage {
  readonly everyMs: number;
  readonly atOnce: boolean;
  readonly while: DriverDocument['polls'][number]['while'];
}

/** The messages of a document other than commands: questions, greeting, sync, polls and keep-alive. */
export class OwnMessages {
  /** The messages of each question: one, or one for each member of its family. */
  readonly asked = new Map<string, readonly OwnMessage[]>();

  constructor(
    private readonly document: DriverDocument,
    /** Names that every message may use in holes: options and readings. */
    private readonly holes: readonly string[],
    private readonly report: ReportProblem,
  ) {
    for (const [name, question] of Object.entries(document.questions)) this.addQuestion(name, question);
  }

  /** Compiles a message of `sync` or `polls`; a question with `each` gives one for each member. */
  messages(message: Message, path: string, known: readonly string[]): readonly OwnMessage[] {
    if (typeof message === 'string' || !('ask' in message)) {
      return [{ ask: undefined, message: this.compiled(message, path, known) }];
    }
    const asked = this.asked.get(message.ask);
    if (asked) return asked;
    if (!(message.ask in this.document.questions)) {
      const known = listOf(Object.keys(this.document.questions));
      this.report(`${path}.ask`, `There is no question “${message.ask}”. ${known}`);
    }
    return [];
  }

  /** Compiles a message where only one is allowed: a greeting, a keep-alive, a command. */
  single(message: Message, path: string, known: readonly string[]): OwnMessage {
    const [first, ...more] = this.messages(message, path, known);
    if (first?.member || more.length > 0)
      this.report(path, 'This question has "each", but only a single message is allowed here.');
    return first ?? { ask: undefined, message: nothingToSay };
  }

  get polls(): readonly CompiledPoll[] {
    return this.document.polls.flatMap(({ send, everyMs, atOnce, while: rule }, n) =>
      this.messages(send, `polls.${n}.send`, credentials).map((own) => ({ ...own, everyMs, atOnce, while: rule })),
    );
  }

  private addQuestion(name: string, { send, paging, each }: DriverDocument['questions'][string]): void {
    const path = `questions.${name}`;
    if (typeof send === 'object' && 'ask' in send)
      return this.report(`${path}.send`, 'A question cannot be another question.');
    const known = [...credentials, ...(paging ? ['from'] : []), ...(each === undefined ? [] : ['member'])];
    const message = this.compiled(send, `${path}.send`, known);
    const family = each === undefined ? undefined : this.document.readings[each];
    if (each !== undefined && !family?.index) this.report(`${path}.each`, `There is no family of readings “${each}”.`);
    if (each !== undefined && paging)
      this.report(`${path}.each`, 'A list that comes in pieces is asked for as a whole: leave out "each" or "paging".');
    const { index } = family ?? {};
    this.asked.set(
      name,
      index
        ? indexesOf(index).map((at) => ({ ask: name, message, member: { index: at, text: memberText(index, at) } }))
        : [{ ask: name, message }],
    );
  }

  private compiled(message: Exclude<Message, { ask: string }>, path: string, known: readonly string[]) {
    return compileMessage(message, this.document.framing, path, [...known, ...this.holes], this.report);
  }
}

export const credentials: readonly string[] = ['user', 'password'];

const nothingToSay: CompiledMessage = { kind: 'line', parts: [], reads: [] };
