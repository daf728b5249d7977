import { settled, type Guard, type PressContext } from '../../core/press';
import type { ControlRecord, SendSpec } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { PageContexts } from '../pages/page-contexts';
import { lookUpIn } from '../devices/look-up';
import type { RunningShow } from '../show/running-show';
import type { PressDebts } from './press-debts';
import type { PressSubject } from './press-request';
import type { TakenTurn, TurnMemory } from './turn-memory';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly debts: PressDebts;
  readonly turns: TurnMemory;
  readonly pages: PageContexts;
  readonly guardOf: (control: ControlRecord) => Guard | undefined;
}

/** What a press goes by, looked up when the account asks for it. One is made for each press, since every press comes by here. */
export class RunContext implements PressContext {
  /** With the answers, once they have come. */
  control: ControlRecord;
  /** The turn that was taken. */
  taken: TakenTurn | undefined;
  readonly isHeld: boolean;
  readonly isDry: boolean;
  readonly missingGuard: Guard | undefined;
  readonly answers: PressContext['answers'];

  constructor(
    private readonly sources: Sources,
    private readonly subject: PressSubject,
  ) {
    const { request, control, aim, answers, answered: withAnswers } = subject;
    // What is asked for first may be part of what is looked up.
    this.control = withAnswers || !control.data.responses.asks ? this.settled(withAnswers ?? control) : control;
    this.isHeld = request.gesture === 'hold';
    this.isDry = aim === 'dry';
    this.missingGuard = request.guard ? undefined : sources.guardOf(control);
    this.answers = answers;
  }

  /** The control with the answers, and with what it looks up as it is now. */
  answer(control: ControlRecord): void {
    this.control = this.settled(control);
  }

  private settled(control: ControlRecord): ControlRecord {
    const { readings, show } = this.sources;
    const lookUp = lookUpIn(show, readings, control.data.values);
    return settled(control, lookUp, (device, command, param) => show.paramOf(device, command, param));
  }

  get now(): number {
    return performance.now();
  }

  get responses(): PressContext['responses'] {
    return this.control.data.responses;
  }

  isBarred(): boolean {
    return this.subject.isBarrable && this.sources.pages.isBarred(this.subject.context, this.control);
  }

  isOn(): boolean {
    return this.sources.debts.isOn(this.control);
  }

  isOwedOff(): boolean {
    return this.sources.debts.owesOff(this.control);
  }

  turn(): readonly SendSpec[] {
    this.taken = this.sources.turns.take(this.control);
    return this.taken.sends;
  }
}
