import { actOf } from '../../core/driver';
import { sendsOfMacro } from '../../core/macro';
import { answered } from '../../core/page';
import { handlingOf, type Guard, type Why } from '../../core/press';
import { plainButton, snapshotCalled, type ControlRecord, type SendSpec } from '../../core/show';
import type { Aims } from '../aim/aims';
import { PressBook, type PressListener } from './press-book';
import type {
  ActRequest,
  ChooseRequest,
  CommandRequest,
  FireRequest,
  PressRequest,
  PressSubject,
  TrialRequest,
} from './press-request';
import { PressRun, type RunSources, type SentCommand } from './press-run';
import { SendMaker } from './send-maker';

export type { PressResult } from './press-book';
export type { CommandRequest } from './press-request';
export type { SentCommand } from './press-run';

interface PressSources extends Omit<RunSources, 'book' | 'maker' | 'guardOf' | 'repeat' | 'onSent' | 'onOver'> {
  readonly aims: Aims;
  readonly labelOf: (control: ControlRecord) => string;
}

/** From a press to the devices and back to its outcome. */
export class Presses {
  private readonly book = new PressBook();
  private readonly running = new Map<string, PressRun>();
  private readonly runSources: RunSources;
  private readonly listeners: ((sent: readonly SentCommand[]) => void)[] = [];

  constructor(private readonly sources: PressSources) {
    this.runSources = {
      ...sources,
      book: this.book,
      maker: new SendMaker(sources.show),
      guardOf: (control) => this.guardOf(control),
      repeat: (subject) => this.begin(subject),
      onSent: (sent) => this.listeners.forEach((listener) => listener(sent)),
      onOver: (run) => this.running.delete(run.id),
    };
    sources.deadMan.listen({
      onReleased: (id, why) => this.running.get(id)?.on({ type: 'released', by: why === 'released' ? 'hand' : 'loss' }),
    });
  }

  /** The listener hears of every command of a press that is over. It must be quick, and not throw. */
  listen(listener: (sent: readonly SentCommand[]) => void): void {
    this.listeners.push(listener);
  }

  /** Reports the state of a press and, if it is under way, its outcome. False if the press is unknown. */
  follow(id: string, listener: PressListener): boolean {
    return this.book.follow(id, listener);
  }

  /** The control of a press, if it is on that page, as it is in the context in which it was pressed. */
  find(page: string, control: string, context?: string): ControlRecord | undefined {
    const record = this.sources.show.controls.get(control);
    if (record?.data.page !== page) return undefined;
    // Usually, too, a zone may go with a reading: what is pressed is what the page shows.
    return this.sources.pages.controlIn(context ?? page, record);
  }

  /**
   * Acts on a press at once. The listener hears `taken` or `waiting` unless it ends at once, then the outcome. A press
   * whose id was used before acts no second time; its listener hears of the first.
   */
  press(request: PressRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { page, context } = request;
    const control = this.find(page, request.control, context);
    if (!control) return this.refuse(request.id, 'missing', 'This control no longer exists.', listener);
    const named = () => this.named(page, control);
    const { gesture, given } = request;
    const pressed = {
      page,
      control: control.id,
      gesture,
      ...(context === undefined ? {} : { context }),
      ...(given === undefined ? {} : { given }),
    };
    const { aim } = this.sources.aims;
    this.begin({ ...this.asPressed(request, control), context, pressed, aim, named, listener });
  }

  /**
   * Presses a control as it is in the editor, in every way like a press on a panel. It goes to the devices only when both the trial
   * and the engine aim live.
   */
  trial(request: TrialRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { control } = request;
    const named = () => ({ page: '', label: `${this.sources.labelOf(control)} (trial)` });
    const aim = request.aim === 'live' ? this.sources.aims.aim : request.aim;
    this.begin({ ...this.asPressed(request, control), context: undefined, aim, named, listener });
  }

  /** Carries out an act of a list, on one of its items or on the list itself. */
  choose(request: ChooseRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { page, context } = request;
    const control = this.find(page, request.control, context);
    const { show } = this.sources;
    const device = show.deviceOf(control?.data.list?.device ?? '');
    const document = device && show.driverOf(device)?.document;
    const name = control?.data.list?.list ?? '';
    const item = request.index === undefined ? undefined : { index: request.index, value: request.value ?? '' };
    const made = document && actOf(document, name, request.act, item, request.given);
    if (!control || !device || !made?.ok) {
      const reason = made && !made.ok ? made.error : 'The list of this control no longer exists.';
      return this.refuse(request.id, control && device ? 'bad-value' : 'missing', reason, listener);
    }
    const { command, params } = made.value;
    const named = () => this.named(page, control);
    const acting = sending(control, [{ device: device.id, command, params: { ...params } }]);
    const aim = this.sources.aims.aim;
    this.begin({ request, control: acting, context, isBarrable: true, aim, named, listener });
  }

  /** Sends commands in the name of a control, in the same way as a press of it. */
  act({ control, sends, guarded, label, ...request }: ActRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { page, context } = request;
    const acting = sending(control, sends, guarded);
    const named = () => ({ ...this.named(page, control), label });
    const { aim } = this.sources.aims;
    this.begin({ request, control: acting, context, isBarrable: true, aim, named, listener });
  }

  /** Acts on a command that was given by hand, in the same way as a press. */
  command(request: CommandRequest, listener: PressListener): void {
    if (this.follow(request.id, listener)) return;
    const { device, command, params } = request;
    const control = sending(byHand, [{ device: device.id, command, params: { ...params } }]);
    const named = () => ({ page: '', label: request.label ?? `${device.data.tag} by hand` });
    const aim = request.aim === 'dry' ? 'dry' : this.sources.aims.aim;
    this.begin({ request, control, context: undefined, isBarrable: false, aim, named, listener });
  }

  /** Does what a watch or an inlet does, in the same way as a press. */
  fire(request: FireRequest, listener: PressListener): void {
    const { control, page, label } = request;
    const named = () => ({ page, label });
    this.begin({
      request,
      control,
      context: undefined,
      isBarrable: false,
      aim: this.sources.aims.aim,
      named,
      listener,
    });
  }

  /** The engine stops: what still waits for its turn is lost, and says so. */
  stop(): void {
    for (const run of [...this.running.values()]) run.on({ type: 'stopped' });
  }

  private begin(subject: PressSubject): void {
    const run = new PressRun(this.runSources, subject);
    this.running.set(run.id, run);
    this.book.open(run.id, subject.listener);
    run.on({ type: 'begin' });
  }

  private guardOf({ data }: ControlRecord): Guard | undefined {
    const { show } = this.sources;
    return handlingOf(data, {
      isRisky: (send) => {
        if (this.runSources.maker.isRisky(send)) return true;
        const snapshot = snapshotCalled(send, data.values);
        return snapshot !== undefined && show.isBlack(snapshot);
      },
      sendsOfMacro: (macro) => sendsOfMacro(macro, (id) => show.macros.get(id)),
    }).guard;
  }

  /** The control with the answers that came with a press. */
  private asPressed(
    request: PressRequest | TrialRequest,
    control: ControlRecord,
  ): Pick<PressSubject, 'request' | 'control' | 'answers' | 'answered' | 'isBarrable'> {
    const base = { request, control, isBarrable: true };
    if (!control.data.responses.asks || !(request.given || request.alone)) return base;
    const checked = this.sources.questions.check(control, request.given ?? {});
    if (!checked.ok) return { ...base, answers: { ok: false, reason: checked.error.message } };
    return { ...base, answers: { ok: true }, answered: answered(control, checked.value) };
  }

  private refuse(id: string, why: Why, reason: string, listener: PressListener): void {
    this.book.open(id, listener);
    this.book.end({ t: 'press', id, outcome: 'lost', why, ms: 0, reason, sends: [] });
  }

  private named(page: string, control: ControlRecord): { readonly page: string; readonly label: string } {
    const { show, labelOf } = this.sources;
    return { page: show.pages.get(page)?.data.name ?? page, label: labelOf(control) };
  }
}

/** A control that does nothing but send commands when it is pressed. */
function sending(control: ControlRecord, sends: readonly SendSpec[], isGuarded = false): ControlRecord {
  const { range: _, drive: __, list: ___, sets: ____, ...rest } = control.data;
  return { ...control, data: { ...rest, responses: { tap: [...sends], ...(isGuarded ? { guard: 'hold' } : {}) } } };
}

/** Stands in for a control where a command is given by hand. */
const byHand: ControlRecord = { kind: 'control', id: 'by hand', version: 1, data: plainButton };
