import { steer, type CompiledDriver } from '../../core/driver';
import type { Aim, PressReport, TurnMessage } from '../../core/live';
import { barredReason, type Why, type FinalOutcome } from '../../core/press';
import type { Scalar } from '../../core/result';
import { resolveArgument, type ControlRecord, type DeviceRecord } from '../../core/show';
import type { PageContexts } from '../pages/page-contexts';
import type { AsRun } from '../record/as-run';
import type { DeadMan, StopReason } from './dead-man';
import type { Dispatcher, Order } from './dispatcher';
import { prepare } from '../devices/prepare';
import type { Aims } from '../aim/aims';
import type { RunningShow } from '../show/running-show';

/** What a hand does on a fader, a dial or a stick, from touching it to letting go. */
interface Adjustment {
  readonly request: Omit<TurnMessage, 't' | 'x' | 'y'> & { readonly who: string };
  readonly control: ControlRecord;
  readonly device: DeviceRecord;
  readonly driver: CompiledDriver;
  readonly aim: Aim;
  readonly startedAt: number;
  readonly tell: (report: PressReport) => void;
  x: number;
  y: number;
  sentAt: number;
  /** What was sent last, so that the same is not sent again. */
  sent: string;
  count: number;
  text: string;
  outcome: FinalOutcome | undefined;
  reason: string | undefined;
  why: Why | undefined;
  ms: number;
  over: boolean;
  next: NodeJS.Timeout | undefined;
  idle: NodeJS.Timeout | undefined;
}

interface AdjustmentSources {
  readonly show: RunningShow;
  readonly dispatcher: Dispatcher;
  readonly asRun: AsRun;
  readonly deadMan: DeadMan;
  readonly aims: Aims;
  readonly labelOf: (control: ControlRecord) => string;
  readonly pages: PageContexts;
}

/** A stick is sent so often at the most; the newest position wins and the last always goes out. */
const steerEveryMs = 50;
const unconfirmable = 'Guarded: this control cannot be confirmed, so it sends nothing risky.';
/** A hand that rests on a fader for so long has ended one turn; moving again begins another. */
const restsAfterMs = 2000;

/**
 * Continuous values from panels. A fader's values go out as the device takes them: the session keeps only the newest that waits.
 * A stick moves its device until it is back in the middle, let go, or its panel is gone.
 */
export class Adjustments {
  private readonly open = new Map<string, Adjustment>();

  constructor(private readonly sources: AdjustmentSources) {
    sources.deadMan.listen({ onReleased: (id, why) => this.onReleased(id, why) });
  }

  turn(
    message: TurnMessage,
    control: ControlRecord | undefined,
    who: string,
    tell: (report: PressReport) => void,
  ): void {
    const known = this.open.get(message.id);
    const turn = known ?? this.begin(message, control, who, tell);
    if (!turn) return;
    turn.x = message.x;
    turn.y = message.y ?? 0;
    this.still(message.id);
    if (turn.control.data.drive) this.steerSoon(turn);
    else this.setRange(turn);
  }

  /** The hand is still there. */
  still(id: string): void {
    const turn = this.open.get(id);
    if (!turn) return;
    clearTimeout(turn.idle);
    turn.idle = setTimeout(() => this.release(id), restsAfterMs);
  }

  /** The dead man has stopped what this hand had moving. Where the hand is back, it begins anew with its next move. */
  private onReleased(id: string, why: StopReason): void {
    const turn = this.open.get(id);
    if (!turn || why === 'released') return;
    clearTimeout(turn.next);
    turn.sent = '';
  }

  /** The hand has let go, or its panel is gone. */
  release(id: string): void {
    const turn = this.open.get(id);
    if (!turn) return;
    clearTimeout(turn.next);
    if (turn.control.data.drive) this.halt(turn);
    this.end(turn);
  }

  stop(): void {
    for (const turn of this.open.values()) {
      clearTimeout(turn.next);
      clearTimeout(turn.idle);
    }
    this.open.clear();
  }

  private begin(
    message: TurnMessage,
    control: ControlRecord | undefined,
    who: string,
    tell: (report: PressReport) => void,
  ): Adjustment | undefined {
    const { show } = this.sources;
    const about = control?.data.range?.send.device ?? control?.data.drive?.device;
    const device = about === undefined ? undefined : show.devices.get(about);
    const driver = device && show.driverOf(device);
    if (!control || !device || !driver) {
      const reason = control ? 'Its device is not in the rig.' : 'This control no longer exists.';
      tell({ t: 'press', id: message.id, outcome: 'lost', why: 'missing', ms: 0, reason });
      return undefined;
    }
    const { id, page, control: controlId, guard } = message;
    if (this.sources.pages.isBarred(message.context, control)) {
      tell({ t: 'press', id, outcome: 'skipped', ms: 0, reason: barredReason, why: 'barred' });
      return undefined;
    }
    const turn: Adjustment = {
      request: { id, page, control: controlId, guard, who },
      control,
      device,
      driver,
      aim: this.sources.aims.aim,
      startedAt: performance.now(),
      tell,
      x: 0,
      y: 0,
      sentAt: -Infinity,
      sent: '',
      count: 0,
      text: '',
      outcome: undefined,
      reason: undefined,
      why: undefined,
      ms: 0,
      over: false,
      next: undefined,
      idle: undefined,
    };
    this.open.set(id, turn);
    return turn;
  }

  private setRange(turn: Adjustment): void {
    const { range, values } = turn.control.data;
    if (!range) return;
    const params: Record<string, Scalar> = { [range.param]: Math.min(range.max, Math.max(range.min, turn.x)) };
    for (const [name, argument] of Object.entries(range.send.params)) {
      const value = resolveArgument(argument, values);
      if (value !== undefined) params[name] = value;
    }
    this.send(turn, range.send.command, params, 'continuous');
  }

  private steerSoon(turn: Adjustment): void {
    clearTimeout(turn.next);
    const wait = turn.sentAt + steerEveryMs - performance.now();
    if (wait > 0) turn.next = setTimeout(() => this.steerNow(turn), wait);
    else this.steerNow(turn);
  }

  private steerNow(turn: Adjustment): void {
    const { drive } = turn.control.data;
    const wanted = drive && steer(turn.driver.document, drive.drive, turn.x, turn.y, drive);
    if (!wanted) return this.halt(turn);
    this.send(turn, wanted.command, wanted.params, 'urgent');
  }

  /** Stops what the stick has set moving. */
  private halt(turn: Adjustment): void {
    turn.sent = '';
    this.sources.deadMan.release(turn.request.id, 'released');
  }

  private send(turn: Adjustment, command: string, params: Record<string, Scalar>, as: 'continuous' | 'urgent'): void {
    const key = `${command} ${JSON.stringify(params)}`;
    const prepared = prepare(turn.driver, command, params);
    if (!prepared.ok) return this.note(turn, 'lost', 'bad-value', 0, prepared.error.message);
    const now = performance.now();
    if (key === turn.sent) return;
    turn.sent = key;
    turn.sentAt = now;
    turn.count += 1;
    turn.text = prepared.value.encoded?.text ?? prepared.value.command.title;
    const { id, who, guard } = turn.request;
    const order: Order = {
      device: turn.device,
      prepared: prepared.value,
      aim: turn.aim,
      who,
      isConfirmed: guard === true,
      class: as,
      owners: [id],
      stopOwner: id,
      isMovement: true,
    };
    const hasLeft = this.sources.dispatcher.dispatch(order, (result) => {
      // A value that was overtaken says nothing of how the movement ends.
      if (result.note || result.why === 'overtaken' || result.why === 'released') return;
      const reason = result.why === 'guarded' ? unconfirmable : result.reason;
      this.note(turn, result.outcome, result.why, result.ms, reason);
    });
    // Sent again with the next movement. What was only shown, or held back, is not.
    if (!hasLeft && turn.outcome === 'lost') turn.sent = '';
  }

  private note(turn: Adjustment, outcome: FinalOutcome, why: Why, ms: number, reason?: string): void {
    turn.outcome = outcome;
    turn.reason = reason;
    turn.why = why;
    turn.ms = ms;
    const { id } = turn.request;
    if (turn.over) this.record(turn);
    turn.tell({ t: 'press', id, outcome, ms, ...(reason === undefined ? {} : { reason }), why });
  }

  private end(turn: Adjustment): void {
    this.open.delete(turn.request.id);
    clearTimeout(turn.idle);
    if (turn.count === 0) return;
    turn.over = true;
    // What was sent last may still be under way: then its outcome ends the turn.
    if (turn.outcome !== undefined) this.record(turn);
  }

  private record(turn: Adjustment): void {
    turn.over = false;
    const { request, control, device, aim, outcome = 'lost', ms, reason, why } = turn;
    const command = `${turn.count} sent`;
    this.sources.asRun.record({
      kind: 'press',
      press: request.id,
      who: request.who,
      page: this.sources.show.pages.get(request.page)?.data.name ?? request.page,
      label: this.sources.labelOf(control),
      aim,
      outcome,
      ms,
      reason,
      ...(why ? { why } : {}),
      sends: [{ device: device.data.tag, command, text: turn.text, outcome, ms, why, reason }],
    });
  }
}
