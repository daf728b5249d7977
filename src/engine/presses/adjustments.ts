import { steer, type CompiledDriver } from '../../core/driver';
import { fitted } from '../../core/lamp';
import type { Aim, AsRunSend, PressReport, TurnMessage } from '../../core/live';
import { barredReason, type Why, type FinalOutcome } from '../../core/press';
import type { Scalar } from '../../core/result';
import {
  isLive,
  menuKeyOf,
  resolveArgument,
  stickSettings,
  zoomKeyOf,
  zoomPart,
  type ControlRecord,
  type DeviceRecord,
} from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { PageContexts } from '../pages/page-contexts';
import type { AsRun } from '../record/as-run';
import type { DeadMan, StopReason } from './dead-man';
import type { Dispatcher, Order } from './dispatcher';
import { prepare } from '../devices/prepare';
import type { Aims } from '../aim/aims';
import { lookUpIn } from '../devices/look-up';
import type { RunningShow } from '../show/running-show';

/** What a hand does on a fader, a dial or a stick, from touching it to letting go. */
interface Adjustment {
  readonly request: Omit<TurnMessage, 't' | 'x' | 'y' | 'slow'> & { readonly who: string };
  readonly control: ControlRecord;
  readonly device: DeviceRecord;
  readonly driver: CompiledDriver;
  readonly aim: Aim;
  readonly startedAt: number;
  readonly tell: (report: PressReport) => void;
  /** The panel whose screen it is on. */
  readonly panel: string | undefined;
  x: number;
  y: number;
  slow: boolean;
  sentAt: number;
  /** What was sent last, so that the same is not sent again. */
  sent: string;
  count: number;
  text: string;
  /** What was sent last, as it can be sent again. */
  call: AsRunSend['call'];
  outcome: FinalOutcome | undefined;
  reason: string | undefined;
  why: Why | undefined;
  ms: number;
  over: boolean;
  next: NodeJS.Timeout | undefined;
  idle: NodeJS.Timeout | undefined;
}

type Drive = NonNullable<ControlRecord['data']['drive']>;

/** Whose hand it is. */
interface Who {
  readonly who: string;
  readonly panel?: string | undefined;
}

interface AdjustmentSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly dispatcher: Dispatcher;
  readonly asRun: AsRun;
  readonly deadMan: DeadMan;
  readonly aims: Aims;
  readonly labelOf: (control: ControlRecord) => string;
  readonly pages: PageContexts;
}

/** The shortest interval between two positions of a stick; the newest wins and the last is always sent. */
const steerEveryMs = 50;
const unconfirmable = 'Guarded: this control cannot be confirmed, so it sends nothing risky.';
/** A hand that rests on a fader for this long has ended one adjustment; moving again begins another. */
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
    { who, panel }: Who,
    tell: (report: PressReport) => void,
  ): void {
    const known = this.open.get(message.id);
    const adjustment = known ?? this.begin(message, control, { who, panel }, tell);
    if (!adjustment) return;
    adjustment.x = message.x;
    adjustment.y = message.y ?? 0;
    adjustment.slow = message.slow ?? false;
    this.still(message.id);
    if (adjustment.control.data.drive) this.steerSoon(adjustment);
    else this.setRange(adjustment);
  }

  /** The hand is still there. */
  still(id: string): void {
    const adjustment = this.open.get(id);
    if (!adjustment) return;
    clearTimeout(adjustment.idle);
    adjustment.idle = setTimeout(() => this.release(id), restsAfterMs);
  }

  /** The dead man has stopped what this hand had moving. Where the hand is back, it begins anew with its next move. */
  private onReleased(id: string, why: StopReason): void {
    const adjustment = this.open.get(id);
    if (!adjustment || why === 'released') return;
    clearTimeout(adjustment.next);
    adjustment.sent = '';
  }

  /** The hand has let go, or its panel is gone. */
  release(id: string): void {
    const adjustment = this.open.get(id);
    if (!adjustment) return;
    clearTimeout(adjustment.next);
    if (adjustment.control.data.drive) this.halt(adjustment);
    this.end(adjustment);
  }

  stop(): void {
    for (const adjustment of this.open.values()) {
      clearTimeout(adjustment.next);
      clearTimeout(adjustment.idle);
    }
    this.open.clear();
  }

  private begin(
    message: TurnMessage,
    control: ControlRecord | undefined,
    { who, panel }: Who,
    tell: (report: PressReport) => void,
  ): Adjustment | undefined {
    const { show } = this.sources;
    const about = control?.data.range?.send.device ?? control?.data.drive?.device;
    const device = about === undefined ? undefined : show.deviceOf(about);
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
    const adjustment: Adjustment = {
      request: { id, page, control: controlId, guard, who },
      control,
      device,
      driver,
      aim: this.sources.aims.aim,
      startedAt: performance.now(),
      tell,
      panel,
      x: 0,
      y: 0,
      slow: false,
      sentAt: -Infinity,
      sent: '',
      count: 0,
      text: '',
      call: undefined,
      outcome: undefined,
      reason: undefined,
      why: undefined,
      ms: 0,
      over: false,
      next: undefined,
      idle: undefined,
    };
    this.open.set(id, adjustment);
    return adjustment;
  }

  private setRange(adjustment: Adjustment): void {
    const { range, values } = adjustment.control.data;
    if (!range) return;
    const params: Record<string, Scalar> = { [range.param]: Math.min(range.max, Math.max(range.min, adjustment.x)) };
    const { device, command } = range.send;
    const lookUp = lookUpIn(this.sources.show, this.sources.readings, values);
    for (const [name, argument] of Object.entries(range.send.params)) {
      const value = resolveArgument(argument, values, lookUp);
      const param = isLive(argument) ? this.sources.show.paramOf(device, command, name) : undefined;
      if (value !== undefined) params[name] = param ? fitted(value, param) : value;
    }
    this.send(adjustment, range.send.command, params, 'continuous');
  }

  private steerSoon(adjustment: Adjustment): void {
    clearTimeout(adjustment.next);
    const wait = adjustment.sentAt + steerEveryMs - performance.now();
    if (wait > 0) adjustment.next = setTimeout(() => this.steerNow(adjustment), wait);
    else this.steerNow(adjustment);
  }

  private steerNow(adjustment: Adjustment): void {
    const { drive } = adjustment.control.data;
    const { x, y, driver } = adjustment;
    const wanted = drive && steer(driver.document, drive.drive, x, y, this.settingsOf(adjustment, drive));
    if (!wanted) return this.halt(adjustment);
    this.send(adjustment, wanted.command, wanted.params, 'urgent');
  }

  /** How the stick handles now. The device as the show has it now is meant: its speeds may be set while it moves. */
  private settingsOf({ device, driver, slow, panel }: Adjustment, { drive, ...ofStick }: Drive) {
    const { show, readings } = this.sources;
    // An old value is nearer the truth than none.
    const valueOf = (of: string | undefined) =>
      of === undefined ? undefined : readings.get({ device: device.id, key: of })?.value;
    return stickSettings(ofStick, show.devices.get(device.id)?.data.steering?.[drive], {
      slow,
      panelTop: panel === undefined ? undefined : show.panels.get(panel)?.data.topSpeed,
      zoom: zoomPart(driver.document, drive, valueOf(zoomKeyOf(driver.document, drive))),
      inMenu: valueOf(menuKeyOf(driver.document, drive)) === true,
    });
  }

  /** A camera that is zoomed while it pans goes slower or faster at once. */
  onReadings(device: string, keys: readonly string[]): void {
    for (const adjustment of this.open.values()) {
      const { drive } = adjustment.control.data;
      if (!drive || adjustment.device.id !== device || adjustment.sent === '') continue;
      const { document } = adjustment.driver;
      const deciding = [zoomKeyOf(document, drive.drive), menuKeyOf(document, drive.drive)];
      if (deciding.some((key) => key !== undefined && keys.includes(key))) this.steerSoon(adjustment);
    }
  }

  /** Stops what the stick has set moving. */
  private halt(adjustment: Adjustment): void {
    adjustment.sent = '';
    this.sources.deadMan.release(adjustment.request.id, 'released');
  }

  private send(
    adjustment: Adjustment,
    command: string,
    params: Record<string, Scalar>,
    as: 'continuous' | 'urgent',
  ): void {
    const key = `${command} ${JSON.stringify(params)}`;
    const prepared = prepare(adjustment.driver, command, params);
    if (!prepared.ok) return this.note(adjustment, 'lost', 'bad-value', 0, prepared.error.message);
    const now = performance.now();
    if (key === adjustment.sent) return;
    adjustment.sent = key;
    adjustment.sentAt = now;
    adjustment.count += 1;
    adjustment.call = { command: prepared.value.id, params: prepared.value.given };
    adjustment.text = prepared.value.encoded?.text ?? prepared.value.command.title;
    const { id, who, guard } = adjustment.request;
    const order: Order = {
      device: adjustment.device,
      prepared: prepared.value,
      aim: adjustment.aim,
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
      this.note(adjustment, result.outcome, result.why, result.ms, reason);
    });
    // Sent again with the next movement. What was only shown, or held back, is not.
    if (!hasLeft && adjustment.outcome === 'lost') adjustment.sent = '';
  }

  private note(adjustment: Adjustment, outcome: FinalOutcome, why: Why, ms: number, reason?: string): void {
    adjustment.outcome = outcome;
    adjustment.reason = reason;
    adjustment.why = why;
    adjustment.ms = ms;
    const { id } = adjustment.request;
    if (adjustment.over) this.record(adjustment);
    adjustment.tell({ t: 'press', id, outcome, ms, ...(reason === undefined ? {} : { reason }), why });
  }

  private end(adjustment: Adjustment): void {
    this.open.delete(adjustment.request.id);
    clearTimeout(adjustment.idle);
    if (adjustment.count === 0) return;
    adjustment.over = true;
    // What was sent last may still be under way: then its outcome ends the adjustment.
    if (adjustment.outcome !== undefined) this.record(adjustment);
  }

  private record(adjustment: Adjustment): void {
    adjustment.over = false;
    const { request, control, device, aim, outcome = 'lost', ms, reason, why } = adjustment;
    const command = `${adjustment.count} sent`;
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
      sends: [
        {
          device: device.data.tag,
          command,
          text: adjustment.text,
          ...(adjustment.call ? { call: adjustment.call } : {}),
          outcome,
          ms,
          why,
          reason,
        },
      ],
    });
  }
}
