import { actOf, type CompiledDriver } from '../core/driver';
import type { Aim, AsRunSend, Gesture, PressReport } from '../core/live';
import type { Problem, Result, Scalar } from '../core/result';
import { sendsOfStep } from '../core/macro';
import { answered } from '../core/page';
import { worstOutcome, type FinalOutcome } from '../core/session';
import { resolveParams, sendsOfControl, type ControlRecord, type DeviceRecord, type SendSpec } from '../core/show';
import type { AsRun } from './as-run';
import type { DeadMan, StopReason } from './dead-man';
import type { DeviceSession } from './device-session';
import type { Gestures } from './gestures';
import type { Questions } from './questions';
import { hexOf, prepare, stopParams } from './prepare';
import type { PreparedSend } from './session-types';
import type { RunningShow } from './running-show';
import type { RunDone, RunRequest } from './macro-run';
import { Waits } from './waits';

/** What every press has, whatever it is a press of. */
interface Pressed {
  readonly id: string;
  readonly gesture: Gesture;
  /** The person meant it: held it down, said yes. Risky commands are not sent without. */
  readonly guard: boolean;
  readonly who: string;
  /** The run of a macro that it is a step of. */
  readonly run?: string;
  /** Told when its bytes leave. */
  readonly onLeft?: () => void;
}

export interface PressRequest extends Pressed {
  readonly page: string;
  readonly control: string;
  /** How the panel looks at the page, where that is not the usual way. */
  readonly context?: string;
  /** What it would ask, answered beforehand. */
  readonly given?: Readonly<Record<string, Scalar>>;
  /** Nobody is there to answer. */
  readonly alone?: boolean;
}

/** An act of a list. */
export interface ChooseRequest extends Omit<PressRequest, 'gesture' | 'given'> {
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

/** A control pressed as it stands in the editor, stored or not. */
export interface TrialRequest extends Pressed {
  readonly control: ControlRecord;
  readonly aim: Aim;
}

/** How a press ended, with each of its sends. */
export interface PressResult extends PressReport {
  readonly outcome: FinalOutcome;
  readonly sends: readonly AsRunSend[];
}

interface OpenSend extends Omit<AsRunSend, 'outcome'> {
  outcome: FinalOutcome | undefined;
  ms: number;
  reason?: string;
  bytes?: string;
}

/** One command of a press. */
interface Part {
  readonly device: DeviceRecord | undefined;
  readonly command: string;
  /** How long after the one before it, in milliseconds. */
  readonly waitMs: number;
  readonly prepared: Result<PreparedSend, Problem> | undefined;
}

/** What the sends of one press share. */
interface SendWays {
  readonly aim: Aim;
  readonly barred: boolean;
  readonly sends: OpenSend[];
  readonly finished: () => void;
  readonly onNote: (text: string) => void;
}

type Listener = (report: PressReport | PressResult) => void;

const rememberedPresses = 2000;
/** Why nothing was sent. */
const guardedReason = 'Guarded: hold it until the bar is full to send it.';
const endedEarly = 'Ended before its time.';
export const barredReason = 'One of its rules bars it now.';

export interface PressSources {
  readonly show: RunningShow;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
  readonly asRun: AsRun;
  readonly deadMan: () => DeadMan;
  readonly gestures: Gestures;
  readonly questions: Questions;
  /** Something leaves for a device because of somebody. */
  readonly onSent: (device: string, who: string) => void;
  /** A command has left for a device, or would have if the aim were not dry. */
  readonly onCommand: (device: string, prepared: PreparedSend, who: string, run?: string) => void;
  readonly aim: () => Aim;
  readonly beginMacro: (request: Omit<RunRequest, 'id'>, done: RunDone) => void;
  readonly labelOf: (control: ControlRecord) => string;
  /** A control as it is in a context. */
  readonly inContext: (context: string, control: ControlRecord) => ControlRecord;
  /** True while one of its rules bars a control, as it is looked at in a context. */
  readonly isBarred: (context: string | undefined, control: ControlRecord) => boolean;
}

/** From a press to the devices and back to its outcome. */
export class Presses {
  /** The last presses by id, so that each acts once and its end can be asked for. */
  private readonly known = new Map<string, PressReport | PressResult>();
  /** Who waits for the end of a press that is under way. */
  private readonly waiting = new Map<string, Listener[]>();
  private readonly prepared = new WeakMap<
    SendSpec,
    {
      readonly driver: CompiledDriver;
      /** On a shift level the same command may stand beside other values. */
      readonly values: ControlRecord['data']['values'];
      readonly result: Result<PreparedSend, Problem>;
    }
  >();
  private readonly waits = new Waits();

  constructor(private readonly sources: PressSources) {}

  /** Tells how a press stands and, if it is under way, how it ends. False when no such press is known here. */
  follow(id: string, listener: Listener): boolean {
    const known = this.known.get(id);
    if (!known) return false;
    this.waiting.get(id)?.push(listener);
    listener(known);
    return true;
  }

  /** The control of a press, if it is on that page, as it is in the context in which it was pressed. */
  find(page: string, control: string, context?: string): ControlRecord | undefined {
    const record = this.sources.show.controls.get(control);
    if (record?.data.page !== page) return undefined;
    // Usually, too, a zone may go with a reading: what is pressed is what the page shows.
    return this.sources.inContext(context ?? page, record);
  }

  /** True when anything that a control sends can spoil a show. */
  isRisky({ data }: ControlRecord): boolean {
    const { show } = this.sources;
    if (data.responses.guard) return true;
    const steps = show.macros.get(data.responses.runs?.macro ?? '')?.data.segments.flatMap((each) => each.steps) ?? [];
    return [...sendsOfControl(data), ...steps.flatMap(sendsOfStep)].some((spec) => {
      const device = show.devices.get(spec.device);
      return device && show.driverOf(device)?.commands.get(spec.command)?.command.risky;
    });
  }

  /**
   * Acts on a press at once. The listener hears `taken` or `waiting` unless it ends at once, then the outcome. A press
   * whose id was used before acts no second time; its listener hears of the first.
   */
  press(request: PressRequest, listener: Listener): void {
    if (this.follow(request.id, listener)) return;
    const control = this.find(request.page, request.control, request.context);
    if (!control) return this.refuse(request.id, 'There is no such control any more.', listener);
    if (this.sources.isBarred(request.context, control))
      return this.end(request, control, listener, 'skipped', barredReason);
    if (control.data.responses.asks) return this.pressAsking({ ...request, gesture: 'tap' }, control, listener);
    this.pressControl(request, control, listener);
  }

  /** What has to be answered first: with the answers it is a press of the control as they make it. */
  private pressAsking(request: PressRequest, control: ControlRecord, listener: Listener): void {
    const { questions, gestures } = this.sources;
    if (gestures.endEarly(control)) return this.end(request, control, listener, 'sent', endedEarly);
    if (!request.guard && this.isRisky(control)) return this.end(request, control, listener, 'skipped', guardedReason);
    if (request.given || request.alone) {
      const checked = questions.check(control, request.given ?? {});
      if (checked.ok) return this.pressControl(request, answered(control, checked.value), listener);
      return this.end(request, control, listener, 'skipped', checked.error.message);
    }
    const listeners = [listener];
    this.waiting.set(request.id, listeners);
    const all: Listener = (report) => {
      for (const each of listeners) each(report);
    };
    questions.ask(
      request.id,
      control,
      (asks) => {
        const waiting = { t: 'press', id: request.id, outcome: 'waiting', ms: 0, asks } as const;
        this.remember(waiting);
        all(waiting);
      },
      (answers, reason) => {
        this.waiting.delete(request.id);
        if (!answers) return this.end(request, control, all, 'skipped', reason);
        // A rule may have barred it while somebody was typing.
        if (this.sources.isBarred(request.context, control))
          return this.end(request, control, all, 'skipped', barredReason);
        this.pressControl(request, answered(control, answers), all);
      },
    );
  }

  private pressControl(request: PressRequest, control: ControlRecord, listener: Listener): void {
    const { gestures } = this.sources;
    const { held = [], long } = control.data.responses;
    const act = (as: PressRequest, sends: readonly SendSpec[]) =>
      this.act(
        as,
        sends.map((spec) => this.partOf(control, spec)),
        () => this.named(request.page, control),
        listener,
        this.sources.aim(),
        control,
      );
    if (request.gesture === 'tap') {
      if (gestures.endEarly(control)) return this.end(request, control, listener, 'sent', endedEarly);
      return act(request, gestures.tapOf(control));
    }
    if (held.length > 0) return act(request, held);
    if (long) {
      const waiting = { t: 'press', id: request.id, outcome: 'waiting', ms: 0 } as const;
      this.remember(waiting);
      listener(waiting);
      // Whatever it becomes, it acts once.
      const tapped = { ...request, gesture: 'tap' } as const;
      return gestures.decide(
        request.id,
        long.afterMs,
        () => act(tapped, long.sends),
        () => act(tapped, gestures.tapOf(control)),
        () => this.end(request, control, listener, 'skipped', 'Whoever held it was gone before it was decided.'),
      );
    }
    act(request, gestures.tapOf(control));
    let n = 0;
    const again = () =>
      act({ ...request, id: `${request.id.slice(0, 30)}-${(n += 1)}`, gesture: 'tap' }, control.data.responses.tap);
    gestures.repeat(request.id, control, again);
  }

  /** Nobody holds this press any more. */
  onReleased(id: string, why: StopReason): void {
    this.sources.gestures.onReleased(id, why);
  }

  /** Carries out an act of a list, on one of its items or on the list as it stands. */
  choose(request: ChooseRequest, listener: Listener): void {
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
      return this.refuse(request.id, reason, listener);
    }
    if (this.sources.isBarred(request.context, control))
      return this.end(request, control, listener, 'skipped', barredReason);
    const { command, params } = made.value;
    this.act(
      request,
      [this.partOf(control, { device: device.id, command, params })],
      () => this.named(request.page, control),
      listener,
      this.sources.aim(),
    );
  }

  /** Presses a control as it stands in the editor. It goes to the devices only when both the trial and the engine aim live. */
  trial(request: TrialRequest, listener: Listener): void {
    if (this.follow(request.id, listener)) return;
    const { control, gesture } = request;
    const aim = request.aim === 'live' ? this.sources.aim() : request.aim;
    const named = () => ({ page: '', label: `${this.sources.labelOf(control)} (trial)` });
    this.act(request, this.partsOf(control, gesture), named, listener, aim);
  }

  private partsOf(control: ControlRecord, gesture: Gesture): Part[] {
    const { tap, held = [] } = control.data.responses;
    return (gesture === 'hold' ? held : tap).map((spec) => this.partOf(control, spec));
  }

  /** Acts on a command that was given by hand, in the same way as a press. */
  command(request: CommandRequest, listener: Listener): void {
    if (this.follow(request.id, listener)) return;
    const { device, command } = request;
    const driver = this.sources.show.driverOf(device);
    const part = { device, command, waitMs: 0, prepared: driver && prepare(driver, command, request.params) };
    const named = () => ({ page: '', label: request.label ?? `${device.data.tag} by hand` });
    this.act(request, [part], named, listener, request.aim === 'dry' ? 'dry' : this.sources.aim());
  }

  /** Whoever held this press has let go. */
  release(id: string, why: StopReason): void {
    this.sources.deadMan().release(id, why);
  }

  private refuse(id: string, reason: string, listener: Listener): void {
    const missing = { t: 'press', id, outcome: 'lost', ms: 0, reason, sends: [] } as const;
    this.remember(missing);
    listener(missing);
  }

  private named(page: string, control: ControlRecord): { readonly page: string; readonly label: string } {
    const { show, labelOf } = this.sources;
    return { page: show.pages.get(page)?.data.name ?? page, label: labelOf(control) };
  }

  /** A press that ends at once, without anything sent for it; that is recorded. */
  private end(
    { id, page, who }: Pick<PressRequest, 'id' | 'page' | 'who'>,
    control: ControlRecord,
    listener: Listener,
    outcome: FinalOutcome,
    reason: string,
  ): void {
    const result = { t: 'press', id, outcome, ms: 0, reason, sends: [] } as const;
    this.remember(result);
    listener(result);
    const { ms, sends } = result;
    const aim = this.sources.aim();
    this.sources.asRun.record({
      kind: 'press',
      press: id,
      who,
      ...this.named(page, control),
      aim,
      outcome,
      ms,
      reason,
      sends,
    });
  }

  private act(
    request: Pressed,
    parts: readonly Part[],
    named: () => { readonly page: string; readonly label: string },
    listener: Listener,
    aim: Aim,
    control?: ControlRecord,
  ): void {
    const begins = request.gesture === 'tap' ? control : undefined;
    const startedAt = performance.now();
    const sends: OpenSend[] = [];
    const listeners = [listener];
    const tell = (report: PressReport | PressResult) => {
      this.remember(report);
      for (const each of listeners) each(report);
    };
    let open = 1;
    const finished = () => {
      open -= 1;
      if (open > 0) return;
      const final = sends.map((send): AsRunSend => ({ ...send, outcome: send.outcome ?? 'lost' }));
      const worst = worstOutcome(final.map((send) => send.outcome));
      const ms = performance.now() - startedAt;
      const reason = final.find((send) => send.outcome === worst)?.reason;
      const result: PressResult = { t: 'press', id: request.id, outcome: worst, ms, reason, sends: final };
      this.waiting.delete(request.id);
      tell(result);
      const { id: press, who, run } = request;
      this.sources.asRun.record({
        kind: 'press',
        press,
        ...(run === undefined ? {} : { run }),
        who,
        ...named(),
        aim,
        outcome: worst,
        ms,
        reason,
        sends: final,
      });
    };
    // One risky command holds the whole press back: half of it would be worse than none.
    const barred =
      !request.guard &&
      (parts.some(({ prepared }) => prepared?.ok && prepared.value.command.risky) ||
        control?.data.responses.guard !== undefined ||
        (begins !== undefined && this.isRisky(begins)));
    const owes = control !== undefined && !barred && aim !== 'dry';
    if (owes) this.sources.gestures.owe(request.id, request.gesture === 'hold', control);
    let afterMs = 0;
    for (const part of parts) {
      open += 1;
      afterMs += part.waitMs;
      const ways: SendWays = {
        aim,
        barred,
        sends,
        finished,
        onNote: (note) => this.note(request.id, named().label, note, tell),
      };
      this.send(request, part, afterMs, ways);
    }
    if (begins?.data.responses.runs && barred && parts.length === 0) {
      sends.push({ device: 'macro', command: '', text: '', outcome: 'skipped', ms: 0, reason: guardedReason });
    } else if (begins?.data.responses.runs && !barred) {
      open += 1;
      this.beginMacro(request, begins.data, aim, sends, finished);
    }
    if (owes && sends.length > 0 && sends.every(({ outcome }) => outcome === 'lost' || outcome === 'skipped'))
      this.sources.gestures.owesNothing(request.id, control);
    if (request.gesture === 'hold' && !barred) this.sources.deadMan().hold(request.id);
    if (open > 1) {
      this.waiting.set(request.id, listeners);
      tell({ t: 'press', id: request.id, outcome: 'waiting', ms: performance.now() - startedAt });
    }
    finished();
  }

  /** The macro that a press begins: the press ends when that has ended. */
  private beginMacro(
    { who }: Pressed,
    { responses: { runs }, values }: ControlRecord['data'],
    aim: Aim,
    sends: OpenSend[],
    finished: () => void,
  ): void {
    if (!runs) return;
    const name = this.sources.show.macros.get(runs.macro)?.data.name ?? '?';
    const entry: OpenSend = { device: 'macro', command: name, text: name, outcome: undefined, ms: 0 };
    sends.push(entry);
    const params = resolveParams(runs.params, values);
    this.sources.beginMacro({ macro: runs.macro, params, who, aim }, (outcome, ms, reason) => {
      Object.assign(entry, { outcome, ms, reason });
      finished();
    });
  }

  /** Sends one command of a press, when its turn has come. */
  private send(
    request: Pressed,
    part: Part,
    afterMs: number,
    { aim, barred, sends, finished, onNote }: SendWays,
  ): void {
    const { device, command: commandId, prepared } = part;
    const entry: OpenSend = {
      device: device?.data.tag ?? '?',
      command: prepared?.ok ? prepared.value.command.title : commandId,
      text: prepared?.ok ? (prepared.value.encoded?.text ?? prepared.value.command.title) : '',
      outcome: undefined,
      ms: 0,
    };
    sends.push(entry);
    const end = (outcome: FinalOutcome, ms: number, reason?: string) => {
      entry.outcome = outcome;
      entry.ms = ms;
      entry.reason = reason;
      finished();
    };
    if (!device || !prepared)
      return end('lost', 0, 'The device of this command is not in the rig, or its driver is not installed here.');
    if (!prepared.ok) return end('lost', 0, prepared.error.message);
    if (barred) return end('skipped', 0, guardedReason);
    const tell = () => this.sources.onCommand(device.id, prepared.value, request.who, request.run);
    if (aim === 'dry') {
      tell();
      return end('skipped', 0, 'Dry: shown and recorded, not sent.');
    }
    const go = () => {
      const session = this.sources.sessions.get(device.id);
      if (!session) return end('lost', 0, 'The device is switched off in the rig.');
      this.sources.onSent(device.id, request.who);
      const strike = this.enterStop(request.id, device, prepared.value);
      const gone = session.send(
        prepared.value,
        (result) => {
          if (result.note) onNote(`${entry.device}: the report came after ${(result.ms / 1000).toFixed(1)} s.`);
          else end(result.outcome, result.ms, result.reason);
        },
        undefined,
        (bytes) => {
          entry.bytes = hexOf(bytes);
          request.onLeft?.();
        },
      );
      if (gone) tell();
      if (!gone) strike?.();
      else if (prepared.value.command.class === 'stop') {
        this.sources.deadMan().onSent(device.id, prepared.value.id, prepared.value.given);
      }
    };
    if (afterMs === 0) return go();
    this.waits.after(
      afterMs,
      () => {
        if (request.gesture === 'hold' && !this.sources.deadMan().isHeld(request.id))
          return end('skipped', 0, 'Let go before its turn came.');
        go();
      },
      () => end('lost', 0, 'The engine was stopped before its turn came.'),
    );
  }

  /** The engine stops: what still waits for its turn is lost, and says so. */
  stop(): void {
    this.waits.stop();
  }

  /** What goes on until it is stopped is entered in the ledger before its first byte goes out. */
  private enterStop(press: string, device: DeviceRecord, { command, given }: PreparedSend): (() => void) | undefined {
    const { stop } = command;
    if (!stop) return undefined;
    const params = stopParams(this.sources.show.driverOf(device), stop, given);
    return this.sources.deadMan().enter(press, { device: device.id, command: stop.command, params }, stop.longestMs);
  }

  /** The command with its bytes. Records never change, so that what was made once for a send stays good for it. */
  private partOf(control: ControlRecord, spec: SendSpec): Part {
    const { show } = this.sources;
    const device = show.devices.get(spec.device);
    const driver = device && show.driverOf(device);
    const base = { device, command: spec.command, waitMs: spec.waitMs ?? 0 };
    if (!driver) return { ...base, prepared: undefined };
    const known = this.prepared.get(spec);
    if (known?.driver === driver && known.values === control.data.values) return { ...base, prepared: known.result };
    const result = prepare(driver, spec.command, resolveParams(spec.params, control.data.values));
    this.prepared.set(spec, { driver, values: control.data.values, result });
    return { ...base, prepared: result };
  }

  /** A report that came after `late` had been given. */
  private note(id: string, label: string, note: string, tell: Listener): void {
    const known = this.known.get(id);
    if (!known) return;
    tell({ ...known, note });
    this.sources.asRun.record({ kind: 'note', text: `${label}: ${note}` });
  }

  private remember(report: PressReport | PressResult): void {
    this.known.set(report.id, report);
    if (this.known.size > rememberedPresses) {
      const oldest = this.known.keys().next().value;
      if (oldest !== undefined) this.known.delete(oldest);
    }
  }
}
