import { actOf } from '../../core/driver';
import type { Aim } from '../../core/live';
import { sendsOfMacro } from '../../core/macro';
import { answered } from '../../core/page';
import { barredReason, guardedReason, type Why } from '../../core/press';
import type { Scalar } from '../../core/result';
import type { FinalOutcome } from '../../core/session';
import { sendsOfControl, type ControlRecord, type DeviceRecord, type SendSpec } from '../../core/show';
import type { StopReason } from './dead-man';
import { prepare } from '../devices/prepare';
import { PressBook, type PressListener } from './press-book';
import { PressSender, type Pressed, type SenderSources } from './press-sender';
import type { Questions } from './questions';

export type { PressResult } from './press-book';

/** What may come with a press of a control. */
interface PressWays extends Pressed {
  /** What it would ask, answered beforehand. */
  readonly given?: Readonly<Record<string, Scalar>>;
  /** Nobody is there to answer. */
  readonly alone?: boolean;
}

interface PressRequest extends PressWays {
  readonly page: string;
  readonly control: string;
  /** How the panel looks at the page, where that is not the usual way. */
  readonly context?: string;
}

/** An act of a list. */
interface ChooseRequest extends Omit<PressRequest, 'gesture' | 'given'> {
  readonly gesture: 'tap';
  readonly act: number;
  readonly index: number | undefined;
  /** What the item is called now. */
  readonly value: Scalar | undefined;
  readonly given: Scalar | undefined;
}

/** A command by hand, without a control. */
export interface CommandRequest extends Pressed {
  readonly device: DeviceRecord;
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
  /** What the record calls it; by hand unless said otherwise. */
  readonly label?: string;
  /** Where it goes, unless the engine aims dry; as the engine aims when absent. */
  readonly aim?: Aim;
}

/** A control pressed as it is in the editor, stored or not. */
interface TrialRequest extends PressWays {
  readonly control: ControlRecord;
  readonly aim: Aim;
}

interface PressSources extends Omit<SenderSources, 'isRisky'> {
  readonly questions: Questions;
  readonly aim: () => Aim;
  readonly labelOf: (control: ControlRecord) => string;
  /** The control with the context's shift level and picks applied. */
  readonly inContext: (context: string, control: ControlRecord) => ControlRecord;
  /** True while one of its rules bars a control, as it is looked at in a context. */
  readonly isBarred: (context: string | undefined, control: ControlRecord) => boolean;
}

/** A press of a control on its way: what is pressed, by whom, and where it goes. */
interface Handling {
  readonly request: PressWays;
  readonly control: ControlRecord;
  readonly context: string | undefined;
  readonly aim: Aim;
  readonly named: () => { readonly page: string; readonly label: string };
  readonly listener: PressListener;
}

/** From a press to the devices and back to its outcome. */
export class Presses {
  private readonly book = new PressBook();
  private readonly sender: PressSender;

  constructor(private readonly sources: PressSources) {
    this.sender = new PressSender({ ...sources, isRisky: (control) => this.isRisky(control) }, this.book);
  }

  /** Tells how a press stands and, if it is under way, how it ends. False when no such press is known here. */
  follow(id: string, listener: PressListener): boolean {
    return this.book.follow(id, listener);
  }

  /** The control of a press, if it is on that page, as it is in the context in which it was pressed. */
  find(page: string, control: string, context?: string): ControlRecord | undefined {
    const record = this.sources.show.controls.get(control);
    if (record?.data.page !== page) return undefined;
    // Usually, too, a zone may go with a reading: what is pressed is what the page shows.
    return this.sources.inContext(context ?? page, record);
  }

  /** True when anything that a control sends can spoil a show, with the macros that it begins, or when it has to be confirmed. */
  isRisky({ data }: ControlRecord): boolean {
    const { show } = this.sources;
    if (data.responses.guard) return true;
    const { runs } = data.responses;
    const steps = runs ? sendsOfMacro(runs.macro, (id) => show.macros.get(id)) : [];
    return [...sendsOfControl(data), ...steps].some((spec) => {
      const device = show.devices.get(spec.device);
      return device && show.driverOf(device)?.commands.get(spec.command)?.command.risky;
    });
  }

  /**
   * Acts on a press at once. The listener hears `taken` or `waiting` unless it ends at once, then the outcome. A press
   * whose id was used before acts no second time; its listener hears of the first.
   */
  press(request: PressRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { page, context } = request;
    const control = this.find(page, request.control, context);
    if (!control) return this.refuse(request.id, 'missing', 'There is no such control any more.', listener);
    const named = () => this.named(page, control);
    this.handle({ request, control, context, aim: this.sources.aim(), named, listener });
  }

  /**
   * Presses a control as it is in the editor, in every way like a press on a panel. It goes to the devices only when both the trial
   * and the engine aim live.
   */
  trial(request: TrialRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { control } = request;
    const named = () => ({ page: '', label: `${this.sources.labelOf(control)} (trial)` });
    const aim = request.aim === 'live' ? this.sources.aim() : request.aim;
    this.handle({ request, control, context: undefined, aim, named, listener });
  }

  /** Carries out an act of a list, on one of its items or on the list itself. */
  choose(request: ChooseRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const control = this.find(request.page, request.control, request.context);
    const { show } = this.sources;
    const device = show.devices.get(control?.data.list?.device ?? '');
    const document = device && show.driverOf(device)?.document;
    const name = control?.data.list?.list ?? '';
    const item = request.index === undefined ? undefined : { index: request.index, value: request.value ?? '' };
    const made = document && actOf(document, name, request.act, item, request.given);
    if (!control || !device || !made?.ok) {
      const reason = made && !made.ok ? made.error : 'The list of this control is not there any more.';
      return this.refuse(request.id, control && device ? 'bad-value' : 'missing', reason, listener);
    }
    const aim = this.sources.aim();
    const named = () => this.named(request.page, control);
    if (this.sources.isBarred(request.context, control))
      return this.skip({ request, aim, named, listener }, barredReason, 'barred');
    const { command, params } = made.value;
    const parts = [this.sender.partOf(control, { device: device.id, command, params })];
    this.sender.act({ request, parts, aim, named }, listener);
  }

  /** Acts on a command that was given by hand, in the same way as a press. */
  command(request: CommandRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { device, command } = request;
    const driver = this.sources.show.driverOf(device);
    const part = { device, command, waitMs: 0, prepared: driver && prepare(driver, command, request.params) };
    const named = () => ({ page: '', label: request.label ?? `${device.data.tag} by hand` });
    const aim = request.aim === 'dry' ? 'dry' : this.sources.aim();
    this.sender.act({ request, parts: [part], aim, named }, listener);
  }

  /** Nobody holds this press any more. */
  onReleased(id: string, why: StopReason): void {
    this.sources.gestures.onReleased(id, why);
  }

  /** The engine stops: what still waits for its turn is lost, and says so. */
  stop(): void {
    this.sender.stop();
  }

  private handle(handling: Handling): void {
    const { request, control, context } = handling;
    if (this.sources.isBarred(context, control)) return this.skip(handling, barredReason, 'barred');
    if (this.sources.gestures.endEarly(control))
      return this.endAtOnce(handling, 'sent', 'Turned off before its time.', 'stopped');
    // What is asked first cannot be held.
    if (control.data.responses.asks) return this.ask({ ...handling, request: { ...request, gesture: 'tap' } });
    this.carryOut(handling);
  }

  /** What has to be answered first: with the answers it is a press of the control as they make it. */
  private ask(handling: Handling): void {
    const { request, control, context, listener } = handling;
    const { questions, isBarred } = this.sources;
    if (!request.guard && this.isRisky(control))
      return this.skip(handling, guardedReason(control.data.responses.guard), 'guarded');
    if (request.given || request.alone) {
      const checked = questions.check(control, request.given ?? {});
      if (checked.ok) return this.carryOut({ ...handling, control: answered(control, checked.value) });
      return this.skip(handling, checked.error.message, 'unanswered');
    }
    this.book.open(request.id, listener);
    questions.ask(
      request.id,
      control,
      (asks) => this.book.tell({ t: 'press', id: request.id, outcome: 'waiting', ms: 0, asks }),
      (answers, reason) => {
        if (!answers) return this.skip(handling, reason, 'unanswered');
        // A rule may have barred it while somebody was typing.
        if (isBarred(context, control)) return this.skip(handling, barredReason, 'barred');
        this.carryOut({ ...handling, control: answered(control, answers) });
      },
    );
  }

  /** What the gesture does: see docs/architecture.md, "What a press does". */
  private carryOut(handling: Handling): void {
    const { request, control, listener } = handling;
    const { gestures } = this.sources;
    const { held = [], long, repeat, release = [] } = control.data.responses;
    const { id } = request;
    if (request.gesture === 'tap') return void this.tap(handling);
    if (held.length > 0) return this.tap(handling, held);
    if (long) {
      this.book.open(id, listener);
      this.book.tell({ t: 'press', id, outcome: 'waiting', ms: 0 });
      // Let go before its time, it is a tap whose release follows at once.
      const short = () => {
        this.tap(handling);
        this.sources.deadMan.release(id, 'released');
      };
      const decided = release.length > 0 ? handling : { ...handling, request: { ...request, gesture: 'tap' as const } };
      return gestures.decide(
        id,
        long.afterMs,
        () => this.send(decided, long.sends, false),
        release.length > 0 ? short : () => this.tap(decided),
        () => this.skip(handling, 'Disconnected before the long-press time; nothing was sent.', 'released'),
      );
    }
    const sends = gestures.tapOf(control);
    this.tapOnce(handling, sends);
    if (!repeat) return;
    let n = 0;
    const again = () => {
      const one = { ...request, id: `${id.slice(0, 30)}-${(n += 1)}`, gesture: 'tap' as const };
      this.send({ ...handling, request: one }, sends.sends, false);
    };
    gestures.repeat(id, control, again);
  }

  /** A tap: the next turn, what is sent while held where the press is held, and the macro. */
  private tap(handling: Handling, held: readonly SendSpec[] = []): void {
    this.tapOnce(handling, this.sources.gestures.tapOf(handling.control), held);
  }

  private tapOnce(
    handling: Handling,
    { sends, count }: ReturnType<PressSources['gestures']['tapOf']>,
    held: readonly SendSpec[] = [],
  ): void {
    this.send(handling, [...sends, ...held], handling.control.data.responses.runs !== undefined, count);
  }

  private send(
    { request, control, aim, named, listener }: Handling,
    sends: readonly SendSpec[],
    begins: boolean,
    onCounted?: () => void,
  ): void {
    const parts = sends.map((spec) => this.sender.partOf(control, spec));
    this.sender.act({ request, parts, aim, named, control, begins, ...(onCounted ? { onCounted } : {}) }, listener);
  }

  private refuse(id: string, why: Why, reason: string, listener: PressListener): void {
    this.book.open(id, listener);
    this.book.end({ t: 'press', id, outcome: 'lost', why, ms: 0, reason, sends: [] });
  }

  private named(page: string, control: ControlRecord): { readonly page: string; readonly label: string } {
    const { show, labelOf } = this.sources;
    return { page: show.pages.get(page)?.data.name ?? page, label: labelOf(control) };
  }

  private skip(handling: Ending, reason: string, why: Why): void {
    this.endAtOnce(handling, 'skipped', reason, why);
  }

  /** A press that ends without anything sent for it; that is recorded. */
  private endAtOnce(
    { request: { id, who }, aim, named, listener }: Ending,
    outcome: FinalOutcome,
    reason: string,
    why: Why,
  ): void {
    this.sources.asRun.record({
      kind: 'press',
      press: id,
      who,
      ...named(),
      aim,
      outcome,
      ms: 0,
      reason,
      why,
      sends: [],
    });
    this.book.open(id, listener);
    this.book.end({ t: 'press', id, outcome, ms: 0, reason, why, sends: [] });
  }
}

type Ending = Pick<Handling, 'aim' | 'named' | 'listener'> & {
  readonly request: { readonly id: string; readonly who: string };
};
