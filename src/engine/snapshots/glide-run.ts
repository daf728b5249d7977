import {
  advanceGlide,
  beginGlide,
  fadeSends,
  glideWakeAt,
  holdGlide,
  isEmpty,
  reachedBy,
  resumeGlide,
  shareAt,
  stopGlide,
  keyOfTrack,
  turnGlide,
  withoutTracks,
  type Glide,
  type GlideSend,
  type PlannedTrack,
} from '../../core/snapshot';
import type { GlideView } from '../../core/live';
import { worstOutcome, type FinalOutcome, type Why } from '../../core/press';
import type { Scalar } from '../../core/result';
import type { GlideTime, SnapshotRecord } from '../../core/show';
import type { SendListener } from '../devices/send-book';
import type { Order } from '../presses/dispatcher';

/** How one command of it ended. */
export interface Ended {
  readonly outcome: FinalOutcome;
  readonly why: Why;
  readonly reason: string | undefined;
  /** Absent where it was ended before it was sent. */
  readonly send?: GlideSend;
  readonly ms?: number;
}

interface Ways {
  readonly send: (send: GlideSend, order: Order, listener: SendListener) => void;
  readonly fresh: (device: string, key: string) => Scalar | undefined;
  /** It has nothing more to send, and all that it has sent has ended. */
  readonly onOver: (run: GlideRun, result: Parameters<SendListener>[0], endings: readonly Ended[]) => void;
}

/** Values that were sent are kept this long: reports of them are no hand at the device. */
const recentMs = 1500;

/** A snapshot that is being called up: what it sends, and what becomes of it. */
export class GlideRun {
  private glide: Glide;
  private open = 0;
  private readonly endings: Ended[] = [];
  private readonly startedAt = performance.now();
  private readonly recent = new Map<
    string,
    { readonly at: number; readonly params: Readonly<Record<string, Scalar>> }[]
  >();
  private hasTold = false;
  /** Commands that wait until another one is carried out, by the track of that one. */
  private readonly waiting = new Map<string, GlideSend[]>();
  /** Tracks whose command was not carried out: what would follow it is left out. */
  private readonly failed = new Set<string>();

  constructor(
    readonly id: string,
    readonly snapshot: SnapshotRecord,
    private readonly order: Order,
    private readonly listener: SendListener,
    tracks: readonly PlannedTrack[],
    time: GlideTime,
    private readonly ways: Ways,
  ) {
    this.glide = beginGlide(tracks, time, this.startedAt);
    for (const planned of tracks) this.note(keyOfTrack(planned), planned.from);
  }

  get isOver(): boolean {
    return this.glide.phase.is === 'over';
  }

  get isHeld(): boolean {
    return this.glide.phase.is === 'held';
  }

  /** As screens are told. */
  get view(): GlideView {
    const { phase, ms } = this.glide;
    const { share } = this;
    const isBack = phase.is !== 'over' && phase.isBack;
    const at = Date.now();
    return {
      id: this.id,
      name: this.snapshot.data.name,
      who: this.order.who,
      aim: this.order.aim,
      share,
      at,
      isBack,
      ...(phase.is === 'running' ? { endsAt: at + (isBack ? share : 1 - share) * ms } : {}),
    };
  }

  get wakeAt(): number {
    return glideWakeAt(this.glide) ?? Number.POSITIVE_INFINITY;
  }

  /** How far it has come, 0 to 1. */
  get share(): number {
    return shareAt(this.glide, performance.now());
  }

  begin(): void {
    this.sendAll(fadeSends(this.glide, performance.now()));
    this.advance();
  }

  /** Sends what is due. */
  advance(): void {
    this.take(advanceGlide(this.glide, performance.now()));
  }

  hold(): void {
    this.take(holdGlide(this.glide, performance.now()));
  }

  goOn(): void {
    this.glide = resumeGlide(this.glide, performance.now());
    this.sendAll(fadeSends(this.glide, performance.now()));
  }

  turn(): void {
    this.glide = turnGlide(this.glide, performance.now());
    this.sendAll(fadeSends(this.glide, performance.now()));
    this.advance();
  }

  stop(reason: string): void {
    if (this.isOver) return;
    this.endings.push({ outcome: 'skipped', why: 'stopped', reason });
    this.waiting.clear();
    this.take(stopGlide(this.glide, performance.now()));
  }

  /** Another call-up has taken these tracks over. */
  giveUp(tracks: ReadonlySet<string>, reason: string): void {
    const isGone = (key: string) => tracks.has(key);
    for (const [first, sends] of this.waiting)
      this.waiting.set(
        first,
        sends.filter(({ track }) => !isGone(track)),
      );
    // What has been sent is waited for; where it brings a reading is no longer where that reading will be.
    if (this.isOver) this.glide = withoutTracks(this.glide, isGone);
    else this.drop(isGone, { outcome: 'skipped', why: 'overtaken', reason });
  }

  /** A device has gone: nothing more is sent to it. */
  lose(device: string, reason: string): void {
    this.drop((key) => key.startsWith(`${device} `), { outcome: 'lost', why: 'link-down', reason });
  }

  /** Where it has brought a reading; `undefined` for one that it does not move. */
  reached(device: string, key: string): Scalar | undefined {
    return reachedBy(this.glide, device, key);
  }

  /** The devices have reported this: what it does not come from itself is a hand's, and is left to it. */
  onReading(device: string, key: string, value: Scalar): void {
    if (this.snapshot.data.yields !== true || this.isOver) return;
    for (const { planned } of this.glide.moves) {
      const moved = planned.device === device && planned.track.values.find((each) => each.key === key);
      if (!moved) continue;
      const id = keyOfTrack(planned);
      const now = performance.now();
      const known = (this.recent.get(id) ?? []).filter(({ at }, n, all) => at > now - recentMs || n === all.length - 1);
      const isOurs = known.some(({ params }) => near(params[moved.param], value, moved.within));
      if (!isOurs) this.leaveToHand(planned);
    }
  }

  /** A frame that was under way may have gone over what the hand did: that is said once more. */
  private leaveToHand(planned: PlannedTrack): void {
    const { device, track } = planned;
    const id = keyOfTrack(planned);
    const params: Record<string, Scalar> = { ...track.fixed };
    for (const { param, key } of track.values) {
      const value = this.ways.fresh(device, key);
      if (value !== undefined) params[param] = value;
    }
    this.ways.send(
      { device, command: track.command, params, track: id, isLast: false, isFrame: true },
      this.order,
      ignore,
    );
    this.drop((other) => other === id, { outcome: 'skipped', why: 'overtaken', reason: touchedReason });
  }

  private drop(isGone: (key: string) => boolean, ending: Ended): void {
    if (this.isOver) return;
    const { moves, jumps } = this.glide;
    const rest = withoutTracks(this.glide, isGone);
    if (rest.moves.length === moves.length && rest.jumps.length === jumps.length) return;
    this.glide = rest;
    this.endings.push(ending);
    if (isEmpty(rest)) this.glide = { ...rest, phase: { is: 'over', how: 'stopped' } };
    this.settle();
  }

  private take({ glide, sends }: { readonly glide: Glide; readonly sends: readonly GlideSend[] }): void {
    this.glide = glide;
    if (glide.phase.is === 'over' && glide.phase.how === 'back' && !this.hasTold)
      this.endings.push({ outcome: 'skipped', why: 'stopped', reason: 'It ran back to where it began.' });
    this.sendAll(sends);
    this.settle();
  }

  private sendAll(sends: readonly GlideSend[]): void {
    this.open += 1;
    for (const send of sends) {
      this.note(send.track, send.params);
      if (!send.isLast) {
        this.ways.send(send, this.order, ignore);
        continue;
      }
      const { after = '' } = send;
      const before = this.waiting.get(after);
      if (before) before.push(send);
      else if (!this.failed.has(after)) this.sendLast(send);
    }
    this.open -= 1;
  }

  /** Sends the last value of a track. What waits for it follows when the device has carried it out, and is left out when it has not. */
  private sendLast(send: GlideSend): void {
    this.open += 1;
    this.waiting.set(send.track, []);
    this.failed.delete(send.track);
    this.ways.send(send, this.order, ({ outcome, why, ms, reason, note }) => {
      if (note) return;
      this.endings.push({ outcome, why, reason, send, ms });
      const next = this.waiting.get(send.track) ?? [];
      this.waiting.delete(send.track);
      if (outcome === 'confirmed' || outcome === 'sent') for (const each of next) this.sendLast(each);
      this.open -= 1;
      this.settle();
    });
  }

  private note(track: string, params: Readonly<Record<string, Scalar>>): void {
    const now = performance.now();
    const before = (this.recent.get(track) ?? []).filter(({ at }) => at > now - recentMs);
    this.recent.set(track, [...before, { at: now, params }]);
  }

  private settle(): void {
    if (this.hasTold || !this.isOver || this.open > 0) return;
    this.hasTold = true;
    const outcome = this.endings.length === 0 ? 'confirmed' : worstOutcome(this.endings.map((each) => each.outcome));
    const worst = this.endings.find((each) => each.outcome === outcome);
    const others = this.endings.filter((each) => each.outcome === outcome && each.reason !== undefined).length - 1;
    const reason = worst?.reason === undefined || others < 1 ? worst?.reason : `${worst.reason} (and ${others} more)`;
    const result = {
      outcome,
      why: worst?.why ?? ('already-so' as const),
      ms: performance.now() - this.startedAt,
      ...(reason === undefined ? {} : { reason }),
    };
    this.ways.onOver(this, result, this.endings);
    this.listener(result);
  }
}

const touchedReason = 'It was changed at the device meanwhile.';

/** Some devices report what they were told a step off. */
const near = (sent: Scalar | undefined, value: Scalar, within: number): boolean =>
  sent === value || (typeof sent === 'number' && typeof value === 'number' && Math.abs(sent - value) <= within + 0.5);

const ignore: SendListener = () => undefined;
