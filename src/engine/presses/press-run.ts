import type { Aim, AsRunSend } from '../../core/live';
import { answered } from '../../core/page';
import { newPress, originalOf, stepPress } from '../../core/press';
import type { Ending, FinalOutcome, Guard, PressEffect, PressEvent, PressTimer, Why } from '../../core/press';
import type { Scalar } from '../../core/result';
import { resolveParams, type ControlRecord, type SendSpec } from '../../core/show';
import { sendText } from '../devices/send-text';
import type { ReadingStore } from '../devices/readings';
import type { PageContexts } from '../pages/page-contexts';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { DeadMan } from './dead-man';
import type { Dispatcher, Order } from './dispatcher';
import type { MacroRequests } from './macro-request';
import type { PressBook } from './press-book';
import { offOwnerOf, type PressDebt, type PressDebts } from './press-debts';
import { RunContext } from './press-context';
import type { Pressed, PressSubject } from './press-request';
import { SendTrace, type PressTrace } from './press-trace';
import type { Questions } from './questions';
import type { MadeSend, SendMaker } from './send-maker';
import type { TraceBook } from './trace-book';
import type { TurnMemory } from './turn-memory';

export interface RunSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly dispatcher: Dispatcher;
  readonly asRun: AsRun;
  readonly deadMan: DeadMan;
  readonly debts: PressDebts;
  readonly turns: TurnMemory;
  readonly maker: SendMaker;
  readonly questions: Questions;
  readonly book: PressBook;
  readonly traces: TraceBook;
  readonly macros: MacroRequests;
  readonly guardOf: (control: ControlRecord) => Guard | undefined;
  readonly pages: PageContexts;
  /** Presses once more what a press repeats. */
  readonly repeat: (subject: PressSubject) => void;
  /** Every command of a press that is over, with what came of it. */
  readonly onSent: (sent: readonly SentCommand[]) => void;
  /** Nothing more will come of it. */
  readonly onOver: (run: PressRun) => void;
}

/** A command of a press, and what came of it. */
export interface SentCommand {
  readonly device: string;
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
  readonly outcome: FinalOutcome;
  readonly ms: number;
  readonly reason?: string | undefined;
  readonly press: string;
  readonly who: string;
  readonly aim: Aim;
}

interface ListedSend {
  readonly made: MadeSend | undefined;
  readonly entry: Omit<AsRunSend, 'outcome' | 'ms'> & { bytes?: string };
}

/** Carries out what the account of one press decides: it owns the timers, and hands sends to the dispatcher. */
export class PressRun {
  private state = newPress;
  private readonly events: PressEvent[] = [];
  private isStepping = false;
  private readonly timers = new Map<PressTimer, NodeJS.Timeout>();
  private readonly list: ListedSend[] = [];
  private readonly context: RunContext;
  private debt: PressDebt | undefined;
  private isOver = false;
  private isCleared = false;
  private readonly trace: PressTrace;

  constructor(
    private readonly sources: RunSources,
    private readonly subject: PressSubject,
  ) {
    this.context = new RunContext(sources, subject);
    this.trace = sources.traces.begin(subject);
    this.trace.follow(() => this.list.map(({ entry }) => entry));
  }

  get id(): string {
    return this.subject.request.id;
  }

  /** Takes an event into account. One that an effect brings about waits until the effects before it are carried out. */
  on(event: PressEvent): void {
    this.events.push(event);
    if (this.isStepping) return;
    this.isStepping = true;
    try {
      for (let next = this.events.shift(); next; next = this.events.shift()) {
        const { state, effects } = stepPress(this.context, this.state, next);
        this.state = state;
        for (const effect of effects) this.carryOut(effect);
      }
    } finally {
      this.isStepping = false;
    }
    if (this.isOver || this.state.at !== 'ended' || this.state.repeats) return;
    this.isOver = true;
    this.sources.onOver(this);
  }

  private carryOut(effect: PressEffect): void {
    const { deadMan, debts, book } = this.sources;
    switch (effect.do) {
      case 'ask':
        return this.ask();
      case 'owe': {
        const onReleased = (n: number, ending: Ending) => this.on({ type: 'ended', n, ending });
        this.debt = debts.owe(this.id, this.context.control, { ...effect, ...(effect.tells ? { onReleased } : {}) });
        return;
      }
      case 'settle':
        if (effect.sent) this.debt?.sent();
        else this.debt?.strike();
        return;
      case 'list':
        this.listed(effect.n, effect.spec);
        return;
      case 'send':
        this.cleared();
        return this.send(effect.n, this.listed(effect.n, effect.spec));
      case 'begin macro':
        this.cleared();
        return this.beginMacro(effect.n);
      case 'list macro':
        this.list[effect.n] = { made: undefined, entry: { device: 'macro', command: '', text: '' } };
        return;
      case 'count turn':
        return this.context.taken?.count();
      case 'turn off':
        return debts.turnOff(this.context.control);
      case 'hold':
        return deadMan.hold(this.id);
      case 'let go':
        return deadMan.release(this.id, 'released');
      case 'repeat':
        return this.repeat(effect.n, effect.sends);
      case 'start timer':
        return this.startTimer(effect.timer, effect.afterMs);
      case 'stop timers':
        for (const timer of this.timers.values()) clearTimeout(timer);
        return this.timers.clear();
      case 'issued':
        return this.on({ type: 'issued' });
      case 'waiting':
        return book.tell({ t: 'press', id: this.id, outcome: 'waiting', ms: 0 });
      case 'end':
        return this.end(effect, effect.sends);
    }
  }

  /** Nothing keeps the press back. */
  private cleared(): void {
    if (this.isCleared) return;
    this.isCleared = true;
    const { lamps } = this.context.control.data;
    const bars = this.subject.isBarrable ? lamps.filter((rule) => rule.bars).length : 0;
    this.trace.note({ is: 'cleared', isConfirmed: this.subject.request.guard, bars });
  }

  private ask(): void {
    const { questions, book } = this.sources;
    this.trace.note({ is: 'asked' });
    const { control } = this.context;
    questions.ask(
      this.id,
      control,
      (asks) => book.tell({ t: 'press', id: this.id, outcome: 'waiting', ms: 0, asks }),
      (answers, reason) => {
        if (answers) {
          this.context.answer(answered(control, answers));
          this.trace.note({ is: 'answered' });
        }
        this.on(answers ? { type: 'answered' } : { type: 'unanswered', reason });
      },
    );
  }

  private listed(n: number, spec: SendSpec): ListedSend {
    const known = this.list[n];
    if (known) return known;
    const made = this.sources.maker.make(spec, this.context.control.data.values);
    const send = made.prepared?.ok ? made.prepared.value : undefined;
    const command = send?.command.title ?? spec.command;
    const text = send ? (send.encoded?.text ?? command) : '';
    const listed = { made, entry: { device: made.device?.data.tag ?? '?', command, text } };
    this.list[n] = listed;
    return listed;
  }

  private send(n: number, { made, entry }: ListedSend): void {
    const ended = (outcome: FinalOutcome, why: Why, ms: number, reason?: string) =>
      this.on({ type: 'ended', n, ending: { outcome, why, ms, ...(reason === undefined ? {} : { reason }) } });
    if (!made?.device || !made.prepared) return ended('lost', 'missing', 0, noDevice);
    if (!made.prepared.ok) return ended('lost', 'bad-value', 0, made.prepared.error.message);
    const { request, aim } = this.subject;
    const { run, owners = [] } = request;
    const off = offOwnerOf(this.context.control);
    const order: Order = {
      device: made.device,
      prepared: made.prepared.value,
      aim,
      who: request.who,
      ...(run === undefined ? {} : { run }),
      isConfirmed: true,
      owners: off === undefined ? [request.id, ...owners] : [request.id, off, ...owners],
      stopOwner: run === undefined ? request.id : runOwner(run),
      watch: new SendTrace(request.id, this.trace, n, entry, request.onLeft),
    };
    this.sources.dispatcher.dispatch(order, ({ note, outcome, why, ms, reason }) => {
      if (!note) this.trace.note({ is: 'send ended', send: n, outcome, why, ...(reason ? { reason } : {}) });
      if (note) this.note(`${entry.device}: the report came after ${(ms / 1000).toFixed(1)} s.`);
      else ended(outcome, why, ms, reason);
    });
  }

  /** The macro that a press begins: the press ends when that has ended. */
  private beginMacro(n: number): void {
    const { show, macros } = this.sources;
    const { request, aim } = this.subject;
    const { responses, values } = this.context.control.data;
    const { runs } = responses;
    if (!runs) return;
    const name = show.macros.get(runs.macro)?.data.name ?? '?';
    this.list[n] = { made: undefined, entry: { device: 'macro', command: name, text: name } };
    this.trace.note({ is: 'macro began', macro: name });
    const params = resolveParams(runs.params, values);
    macros.ask({ macro: runs.macro, params, who: request.who, aim }, (outcome, why, ms, reason) =>
      this.on({ type: 'ended', n, ending: { outcome, why, ms, ...(reason === undefined ? {} : { reason }) } }),
    );
  }

  private repeat(n: number, sends: readonly SendSpec[]): void {
    const { request, ...rest } = this.subject;
    const {
      held: _,
      repeat: __,
      long: ___,
      turns: ____,
      runs: _____,
      ...responses
    } = this.context.control.data.responses;
    // What it looks up is looked up anew each time.
    const data = { ...this.context.control.data, responses: { ...responses, tap: sends.map(originalOf) } };
    const again: Pressed = { ...request, id: `${request.id.slice(0, 30)}-${n}`, gesture: 'tap' };
    this.sources.repeat({ ...rest, request: again, control: { ...this.context.control, data }, isBarrable: false });
  }

  private startTimer(timer: PressTimer, afterMs: number): void {
    const run = () => {
      this.timers.delete(timer);
      this.on({ type: 'timer', timer });
    };
    this.timers.set(timer, setTimeout(run, afterMs));
  }

  private end({ outcome, why, ms, reason }: Ending, endings: readonly Ending[]): void {
    const { request, aim, named, pressed } = this.subject;
    const { id, who, run } = request;
    const sends = endings.flatMap((ending, n): AsRunSend[] => {
      const listed = this.list[n];
      return listed ? [{ ...listed.entry, ...this.sentenceOf(listed), ...ending }] : [];
    });
    const name = named();
    this.trace.end({ outcome, why, ms, ...(reason === undefined ? {} : { reason }) }, name, sends);
    // What is shown is in the record by then.
    this.sources.asRun.record({
      kind: 'press',
      press: id,
      ...(run === undefined ? {} : { run }),
      who,
      ...name,
      aim,
      outcome,
      ms,
      reason,
      why,
      sends,
      ...(pressed ? { pressed } : {}),
    });
    this.sources.book.end({ t: 'press', id, outcome, ms, why, reason, sends });
    this.sources.onSent(endings.flatMap((ending, n) => this.sentOf(ending, this.list[n]?.made)));
  }

  private sentOf({ outcome, ms, reason }: Ending, made: MadeSend | undefined): readonly SentCommand[] {
    if (!made?.device || !made.prepared?.ok) return [];
    const { id: command, given: params } = made.prepared.value;
    const { request, aim } = this.subject;
    const { id: press, who } = request;
    return [{ device: made.device.id, command, params, outcome, ms, reason, press, who, aim }];
  }

  /** The command in words, with the names that its device lists now, and as it can be sent again. */
  private sentenceOf({ made }: ListedSend): Pick<AsRunSend, 'says' | 'call'> {
    if (!made?.device || !made.prepared?.ok) return {};
    const { id: command, given: params } = made.prepared.value;
    const says = sendText(made.prepared.value, made.device.id, this.sources.readings);
    return { says, call: { command, params } };
  }

  /** A report that came after `late` had been given. */
  private note(note: string): void {
    const { book, asRun } = this.sources;
    const { named, listener } = this.subject;
    if (book.note(this.id, note, listener)) asRun.record({ kind: 'note', text: `${named().label}: ${note}` });
  }
}

/** Who owes the stops of what the steps of a run have started. */
export const runOwner = (run: string): string => `run ${run}`;

const noDevice = 'The device of this command is not in the rig, or its driver is not installed here.';
