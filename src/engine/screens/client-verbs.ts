import type {
  Aim,
  CheckAnswer,
  ChooseMessage,
  PresetMessage,
  ClientMessage,
  PressMessage,
  PressReport,
  TrialMessage,
  TryMessage,
  TurnMessage,
} from '../../core/live';
import { itemName } from '../../core/face';
import type { Scalar } from '../../core/result';
import type { ControlRecord } from '../../core/show';
import type { DeviceSession } from '../devices/device-session';
import { Budget } from '../door/budget';
import type { HeldPresses } from '../presses/held-presses';
import type { HubClient } from './client-connection';
import type { RunDone } from '../presses/macro-request';
import type { Macros } from '../macros/macros';
import type { Snapshots } from '../snapshots/snapshots';
import type { PresetHand } from '../presets/preset-hand';
import type { Recorder } from '../macros/recorder';
import type { Questions } from '../presses/questions';
import type { Presses } from '../presses/presses';
import type { TraceBook } from '../presses/trace-book';
import type { ReadingStore } from '../devices/readings';
import type { GearBindingBook } from './gear-bindings';
import type { Panels } from './panels';
import type { Aims } from '../aim/aims';
import type { RunningShow } from '../show/running-show';
import type { Adjustments } from '../presses/adjustments';

interface VerbSources {
  readonly show: RunningShow;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
  readonly presses: Presses;
  readonly traces: TraceBook;
  readonly adjustments: Adjustments;
  readonly questions: Questions;
  readonly held: HeldPresses<HubClient>;
  readonly readings: ReadingStore;
  readonly panels: Panels;
  readonly macros: Macros;
  readonly snapshots: Snapshots;
  readonly presets: PresetHand;
  readonly gear: GearBindingBook;
  readonly recorder: Recorder;
  readonly aims: Aims;
  /** Takes an answer for the line check, or says why not. */
  readonly onSaw: (answer: CheckAnswer) => string | undefined;
}

/** What panels and desks ask the engine to do, and who may. */
export class ClientVerbs {
  private readonly writes = new WeakMap<HubClient, Budget>();

  constructor(private readonly sources: VerbSources) {}

  onMessage(client: HubClient, message: Exclude<ClientMessage, { t: 'sub' | 'unsub' | 'again' | 'ping' }>): void {
    const { panels } = this.sources;
    const { screens } = panels;
    if (message.t === 'press' || message.t === 'turn' || message.t === 'choose' || message.t === 'preset') {
      // Told to the desk's list once the press is on its way, never before.
      setImmediate(() => screens.onUsed(client));
      if (!panels.mayPress(client, message.page, message.control))
        return client.send({
          t: 'press',
          id: message.id,
          outcome: 'lost',
          why: 'not-allowed',
          ms: 0,
          reason: notYours,
        });
    }
    switch (message.t) {
      case 'here':
        return screens.onHere(client, message);
      case 'tell':
        return screens.tell(client, message);
      case 'seen':
        return screens.onSeen(client, message.note);
      case 'together':
        return screens.together(client, message);
      case 'invite':
        return screens.invite(client, message.panel);
      case 'throw out':
        return screens.throwOut(client, message.joined);
      case 'withdraw':
        return screens.withdraw(client, message.invite);
      case 'record':
        return this.record(client, message.do);
      case 'run':
        return this.runMacro(client, message);
      case 'end run':
        return this.endRun(client, message);
      case 'press':
        return this.press(client, message);
      case 'turn':
        return this.turn(client, message);
      case 'choose':
        return this.choose(client, message);
      case 'bind':
        return this.mayWrite(client) ? this.sources.gear.change(client, message.change) : undefined;
      case 'preset':
        return message.act.do === 'recall' || this.mayWrite(client) ? this.preset(client, message) : undefined;
      case 'still':
        // Nobody keeps or ends what another screen holds.
        if (!this.sources.held.isHeldBy(client, message.id)) return;
        this.sources.held.still(client, message.id);
        return this.sources.adjustments.still(message.id);
      case 'release':
        if (!this.sources.held.isHeldBy(client, message.id)) return;
        this.sources.adjustments.release(message.id);
        return this.sources.held.release(client, message.id);
      case 'saw':
        return this.saw(client, message);
      case 'answer':
        return this.answer(client, message);
      case 'ask':
        return this.answerAsk(client, message.id);
      case 'explain':
        return this.explain(client, message.id);
      case 'try':
        return this.tryCommand(client, message);
      case 'trial':
        return this.tryControl(client, message);
      case 'call':
        return this.callAgain(client, message.device);
      case 'aim':
        return this.setAim(client, message.aim);
    }
  }

  /** What is written into the show takes its time and leaves its trace: a hand does not need more than this. */
  private mayWrite(client: HubClient): boolean {
    const budget = this.writes.get(client) ?? new Budget(writesPerSecond, mostWrites);
    this.writes.set(client, budget);
    if (budget.take(1)) return true;
    client.send({ t: 'error', message: 'Too many changes of the show at once. Wait a moment, then try again.' });
    return false;
  }

  private saw(client: HubClient, { t: _, ...answer }: Extract<ClientMessage, { t: 'saw' }>): void {
    const { panels, onSaw } = this.sources;
    const why = panels.mayAnswerCheck(client) ? onSaw(answer) : 'This screen cannot answer for the line check.';
    if (why !== undefined) client.send({ t: 'error', message: why });
  }

  private press(client: HubClient, message: PressMessage): void {
    const { id, page, control, gesture, guard = false, context, given } = message;
    if (gesture === 'hold' && !this.holds(client, id, page)) return;
    this.sources.presses.press({ id, page, control, gesture, guard, context, given, who: client.who }, (report) =>
      client.send(shortReport(report)),
    );
  }

  /** Enters what a client holds from now on; false, and the client told, when it cannot. */
  private holds(client: HubClient, id: string, page: string): boolean {
    if (this.sources.held.begin(client, id, page)) return true;
    const reason =
      'Another screen is holding this control, or this screen is holding too many at once. Nothing was sent.';
    client.send({ t: 'press', id, outcome: 'lost', why: 'too-many', ms: 0, reason });
    return false;
  }

  /** Every screen that may press the control may answer: the screen may have come back on another connection. */
  private answer(client: HubClient, { id, given }: Extract<ClientMessage, { t: 'answer' }>): void {
    const control = this.sources.questions.controlOf(id);
    if (control && this.sources.panels.mayPress(client, control.data.page, control.id))
      this.sources.questions.answer(id, given);
  }

  /** A macro begun from the desk, without a control. */
  private runMacro(client: HubClient, { id, macro, params, aim }: Extract<ClientMessage, { t: 'run' }>): void {
    const answer: RunDone = (outcome, why, ms, reason) =>
      client.send({
        t: 'press',
        id,
        outcome,
        ms,
        ...(reason === undefined ? {} : { reason }),
        why,
      });
    if (client.principal.kind !== 'desk')
      return answer('lost', 'not-allowed', 0, 'Only the desk can begin a macro without a control.');
    client.send({ t: 'press', id, outcome: 'waiting', ms: 0 });
    const where = aim === 'dry' ? aim : this.sources.aims.aim;
    this.sources.macros.begin({ id, macro, params, who: client.who, aim: where }, answer);
  }

  private record(client: HubClient, what: 'begin' | 'take' | 'forget'): void {
    const { recorder } = this.sources;
    if (client.principal.kind !== 'desk')
      return client.send({ t: 'error', message: 'Only the desk can record a macro.' });
    if (what === 'take') client.send(recorder.take());
    else if (what === 'forget') recorder.forget();
    else if (!recorder.begin(client.who)) client.send({ t: 'error', message: 'A macro is being recorded already.' });
  }

  private endRun(client: HubClient, { run, way }: Extract<ClientMessage, { t: 'end run' }>): void {
    const { macros, snapshots, panels } = this.sources;
    if (run === undefined && client.principal.kind !== 'desk')
      return client.send({ t: 'error', message: 'Only the desk can stop everything.' });
    const macro = macros.macroOf(run);
    if (macro !== undefined && !panels.mayEnd(client, macro))
      return client.send({ t: 'error', message: 'This panel has no control that begins this macro.' });
    const by = snapshots.whoBegan(run);
    if (by !== undefined && by !== client.who && client.principal.kind !== 'desk')
      return client.send({
        t: 'error',
        message: 'Only the desk, or the panel that called this snapshot up, can stop it.',
      });
    macros.end(run, way, client.who);
    if (run === undefined || by !== undefined) snapshots.end(run, client.who);
  }

  /** A hand on a fader, a dial or a stick. */
  private turn(client: HubClient, message: TurnMessage): void {
    const control = this.sources.presses.find(message.page, message.control, message.context);
    if (control?.data.drive) {
      if (!this.holds(client, message.id, message.page)) return;
      // A hand that moves is a hand that is heard.
      this.sources.held.still(client, message.id);
    }
    const { adjustments, panels } = this.sources;
    const hand = { who: client.who, panel: panels.screens.panelOf(client) };
    adjustments.turn(message, control, hand, (report) => client.send(report));
  }

  /** An act of a list. */
  private choose(client: HubClient, message: ChooseMessage): void {
    const { id, page, control, act, index, given, guard = false, context } = message;
    const record = this.sources.presses.find(page, control, context);
    const value = record && index !== undefined ? this.nameOfItem(record, index) : undefined;
    const base = { id, page, control, context, gesture: 'tap', guard, who: client.who } as const;
    const request = { ...base, act, index, value, given };
    this.sources.presses.choose(request, (report) => client.send(shortReport(report)));
  }

  /** What a hand does with a preset. */
  private preset(client: HubClient, message: PresetMessage): void {
    this.sources.presets.act(message, {
      who: client.who,
      report: (report) => client.send(shortReport(report)),
      tell: (text) => client.send({ t: 'error', message: text }),
    });
  }

  /** What an item of a control's list is called now. */
  private nameOfItem({ data }: ControlRecord, index: number): Scalar | undefined {
    const { readings, show } = this.sources;
    return itemName(data.list, index, (ref) => readings.get(ref), show.documentOf);
  }

  /** A command by hand: a press without a control. */
  private tryCommand(client: HubClient, message: TryMessage): void {
    const { id, command, params, gesture, guard = false } = message;
    const device = this.sources.show.deviceOf(message.device);
    if (client.principal.kind !== 'desk' || !device) {
      const reason = device ? 'Only the desk can try commands.' : 'The device is no longer in the rig.';
      const why = device ? 'not-allowed' : 'missing';
      return client.send({ t: 'press', id, outcome: 'lost', why, ms: 0, reason });
    }
    if (gesture === 'hold' && !this.holds(client, id, 'by hand')) return;
    this.sources.presses.command({ id, device, command, params, guard, gesture, who: client.who }, (report) =>
      client.send(shortReport(report)),
    );
  }

  /** A control pressed as it is in the editor. */
  private tryControl(client: HubClient, { id, control, gesture, guard = false, aim, of }: TrialMessage): void {
    if (client.principal.kind !== 'desk')
      return client.send({
        t: 'press',
        id,
        outcome: 'lost',
        why: 'not-allowed',
        ms: 0,
        reason: 'Only the desk can try controls.',
      });
    if (gesture === 'hold' && !this.holds(client, id, 'trial')) return;
    // Its turns and what it has on are its own, not those of the control on the page.
    const record: ControlRecord = { kind: 'control', id: `trial-${of ?? ''}`, version: 1, data: control };
    this.sources.presses.trial({ id, control: record, gesture, guard, aim, who: client.who }, (report) =>
      client.send({ ...shortReport(report), ...('sends' in report ? { tried: report.sends } : {}) }),
    );
  }

  private callAgain(client: HubClient, device: string): void {
    if (client.principal.kind !== 'desk') return client.send({ t: 'error', message: 'Only the desk can do that.' });
    this.sources.sessions.get(device)?.callAgain();
  }

  private answerAsk(client: HubClient, id: string): void {
    if (this.sources.presses.follow(id, (report) => client.send(shortReport(report)))) return;
    const reason = 'The press did not reach the engine, or the engine was restarted.';
    client.send({ t: 'press', id, outcome: 'lost', why: 'cut-off', ms: 0, reason });
  }

  /** The desk reads every account, another screen those of its own presses. */
  private explain(client: HubClient, id: string): void {
    const explanation = this.sources.traces.explain(id);
    const isTheirs = client.principal.kind === 'desk' || explanation?.who === client.who;
    client.send({ t: 'explained', id, ...(explanation && isTheirs ? { explanation } : {}) });
  }

  private setAim(client: HubClient, aim: Aim): void {
    if (client.principal.kind !== 'desk')
      return client.send({ t: 'error', message: 'Only the desk can change the aim.' });
    void this.sources.aims.set(aim, client.who).then((message) => {
      if (message !== undefined) client.send({ t: 'error', message });
    });
  }
}

const writesPerSecond = 2;
const mostWrites = 200;

const notYours = 'This panel does not have that control. Nothing was sent.';

const shortReport = ({ t, id, outcome, ms, reason, why, note, asks }: PressReport): PressReport => ({
  t,
  id,
  outcome,
  ms,
  reason,
  why,
  note,
  asks,
});
