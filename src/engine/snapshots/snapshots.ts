import type { Scalar } from '../../core/result';
import { msOfFrame, rateOf } from '../../core/macro';
import { acceptsPresses } from '../../core/session';
import {
  glideCurves,
  longestGlideMs,
  ownId,
  type FrameRate,
  type GlideTime,
  type SnapshotPart,
  type SnapshotRecord,
} from '../../core/show';
import { morphSends, planCall, stepInFolder } from '../../core/snapshot';
import type { Aims } from '../aim/aims';
import { Clockwork } from '../devices/clockwork';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import type { LinkChange, ShowChange } from '../parts';
import type { Dispatcher, Order } from '../presses/dispatcher';
import type { OwnOrders } from '../presses/own-orders';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';
import { rowOfCall } from './call-record';
import { GlideRun } from './glide-run';
import { sendGlide } from './send-glide';
import { SnapshotReadings } from './snapshot-readings';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly dispatcher: Dispatcher;
  readonly own: OwnOrders;
  readonly aims: Aims;
  readonly status: StatusBoard;
  readonly asRun: AsRun;
  readonly newId: () => string;
  /** Proofs beside the show: what arrives counts, and nobody sees how long it takes. */
  readonly isPrivate: boolean;
}

const cut: GlideTime = { ms: 0, curve: 'linear' };
/** More at once is a mistake, and each costs time. */
const runsMost = 60;
/** The longest glide where nobody sees it. */
const mostPrivateMs = 200;

/** Calls snapshots up, as a cut or over time, and says how each of them stands to its devices. */
export class Snapshots {
  private readonly runs = new Map<string, GlideRun>();
  private readonly clock = new Clockwork(() => this.onTime());
  private readonly board: SnapshotReadings;
  private readonly byNumber = new Map<number, SnapshotRecord>();
  private isOnTime = false;
  /** The screens were told of something that glides. */
  private areTold = false;

  constructor(private readonly sources: Sources) {
    const { own, aims } = sources;
    this.board = new SnapshotReadings({ ...sources, runs: this.runs });
    own.serve(['callUp', 'cutTo', 'glideTo', 'glideInFrames'], (order, listener) => this.callUp(order, listener));
    own.serve(['stepFolder'], (order, listener) => this.stepFolder(order, listener));
    own.serve(['morph'], (order, listener) => this.morph(order, listener));
    own.serve(['holdGlides', 'turnGlides', 'stopGlides'], (order, listener) => this.onAll(order, listener));
    aims.listen({
      goesOn: () => (this.runs.size > 0 ? 'a snapshot glides. Stop it, or wait for its end.' : undefined),
      onCurtain: () => this.stopAll('The rehearsal ended.'),
    });
  }

  onShow({ kind }: ShowChange): void {
    if (kind !== 'snapshot' && kind !== 'device') return;
    if (kind === 'snapshot') {
      this.byNumber.clear();
      for (const record of this.sources.show.snapshots.values()) this.byNumber.set(record.data.number, record);
    }
    this.board.onShow();
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (device === ownId) return;
    this.board.onReadings(device, keys);
    if (this.runs.size === 0) return;
    for (const key of keys) {
      const value = this.sources.readings.fresh(device, key);
      if (value === undefined) continue;
      for (const run of this.runs.values()) run.onReading(device, key, value);
    }
  }

  onLink({ device, status, before }: LinkChange): void {
    if (acceptsPresses(status.link.word) || !acceptsPresses(before)) return;
    for (const run of [...this.runs.values()]) run.lose(device, `${status.tag} went ${status.link.word} on the way.`);
    this.sleep();
  }

  stop(): void {
    this.stopAll('The engine was stopped.');
    this.clock.stop();
    this.board.stop();
  }

  /** Who called a snapshot up that glides; `undefined` when that is over, or was none. */
  whoBegan(id: string | undefined): string | undefined {
    return id === undefined ? undefined : this.runs.get(id)?.view.who;
  }

  /** Ends one glide, or all. */
  end(id: string | undefined, who: string): void {
    if (id === undefined) return this.stopAll(`Stopped by ${who}.`);
    this.runs.get(id)?.stop(`Stopped by ${who}.`);
    this.sleep();
  }

  /** What glides for longer than a moment is in the strip of what runs. */
  private tellRuns(): void {
    // A cut is over at once: nobody is told of it.
    const glides = [...this.runs.values()].filter((run) => !run.isOver).map((run) => run.view);
    if (glides.length === 0 && !this.areTold) return;
    this.areTold = glides.length > 0;
    this.sources.status.set({ glides });
  }

  private stopAll(reason: string): void {
    for (const run of [...this.runs.values()]) run.stop(reason);
    this.sleep();
  }

  private callUp(order: Order, listener: SendListener): boolean {
    const { given, id } = order.prepared;
    const snapshot = this.byNumber.get(Number(given.snapshot));
    if (!snapshot) return refuse(listener, `There is no snapshot ${String(given.snapshot)}.`);
    const usual = snapshot.data.glide ?? this.sources.show.glide ?? cut;
    const time =
      id === 'cutTo' ? cut : id === 'glideTo' || id === 'glideInFrames' ? timeOf(given, this.sources.show.rate) : usual;
    return this.begin(snapshot, time, order, listener);
  }

  private stepFolder(order: Order, listener: SendListener): boolean {
    const { folder = '', by = 1 } = order.prepared.given;
    const all = [...this.sources.show.snapshots.values()];
    const snapshot = stepInFolder(all, String(folder), this.board.lastNumber, Number(by));
    if (!snapshot) return refuse(listener, `There is no snapshot in the folder “${String(folder)}”.`);
    return this.begin(snapshot, snapshot.data.glide ?? this.sources.show.glide ?? cut, order, listener);
  }

  private begin(snapshot: SnapshotRecord, time: GlideTime, order: Order, listener: SendListener): boolean {
    if (this.runs.size >= runsMost) {
      listener({ outcome: 'skipped', why: 'too-many', ms: 0, reason: `${runsMost} snapshots glide already.` });
      return false;
    }
    const { tracks, covers, gone } = this.plan(snapshot.data.parts);
    if (gone.length === snapshot.data.parts.length)
      return refuse(listener, this.goneReason(gone) ?? 'The snapshot is empty: there is nothing to send.');
    for (const run of [...this.runs.values()]) run.giveUp(covers, `“${snapshot.data.name}” was called up over it.`);
    this.board.onCalled(snapshot);
    const told: SendListener = (result) => listener(this.withGone(result, gone));
    if (tracks.length === 0) {
      told({ outcome: 'confirmed', why: 'already-so', ms: 0 });
      return true;
    }
    const ms = this.sources.isPrivate ? Math.min(time.ms, mostPrivateMs) : time.ms;
    const run = new GlideRun(
      this.sources.newId(),
      snapshot,
      order,
      told,
      tracks,
      { ...time, ms },
      {
        send: (send, by, heard) => sendGlide(this.sources, send, by, heard),
        fresh: (of, key) => this.sources.readings.fresh(of, key),
        onOver: (over, result, endings) => {
          this.sources.asRun.record(rowOfCall(this.sources, over.view, result, endings));
          this.runs.delete(over.id);
          this.board.touch(over.snapshot);
          this.tellRuns();
        },
      },
    );
    this.runs.set(run.id, run);
    run.begin();
    this.tellRuns();
    this.sleep();
    return true;
  }

  private plan(parts: readonly SnapshotPart[]) {
    const { show, readings } = this.sources;
    return planCall(parts, {
      documentOf: show.documentOf,
      now: (device, key) => this.reached(device, key) ?? readings.fresh(device, key),
    });
  }

  /** Where something that glides has brought a reading. */
  private reached(device: string, key: string): Scalar | undefined {
    for (const run of this.runs.values()) {
      const value = run.reached(device, key);
      if (value !== undefined) return value;
    }
    return undefined;
  }

  private goneReason(gone: readonly SnapshotPart[]): string | undefined {
    const [first] = gone;
    if (!first) return undefined;
    const device = this.sources.show.devices.get(first.device);
    return device
      ? `The driver of ${device.data.tag} no longer keeps “${first.keep}”.`
      : 'A device of this snapshot is no longer in the rig.';
  }

  /** What could not be sent at all makes the outcome `lost`; the rest has been sent. */
  private withGone(result: Parameters<SendListener>[0], gone: readonly SnapshotPart[]): Parameters<SendListener>[0] {
    const reason = this.goneReason(gone);
    return reason === undefined || result.outcome === 'lost'
      ? result
      : { ...result, outcome: 'lost', why: 'missing', reason };
  }

  private morph(order: Order, listener: SendListener): boolean {
    const { from, to, at } = order.prepared.given;
    const [first, second] = [this.byNumber.get(Number(from)), this.byNumber.get(Number(to))];
    if (!first || !second) return refuse(listener, `There is no snapshot ${String(first ? to : from)}.`);
    const { tracks, covers } = this.between(first, second);
    if (tracks.length === 0) return refuse(listener, 'The two snapshots have nothing in common that differs.');
    for (const run of [...this.runs.values()]) run.giveUp(covers, 'A fader between two snapshots has taken it over.');
    this.board.setToward(second, Number(at));
    const sends = morphSends(tracks, Number(at) / 100);
    let open = sends.length;
    let worst: Parameters<SendListener>[0] | undefined;
    for (const send of sends)
      sendGlide(this.sources, send, order, (result) => {
        if (result.note) return;
        open -= 1;
        if (!worst || (result.outcome !== 'confirmed' && worst.outcome === 'confirmed')) worst = result;
        if (open === 0) listener(worst);
      });
    return true;
  }

  /** The tracks of the first snapshot that end at the second, for a fader between them. */
  private between(first: SnapshotRecord, second: SnapshotRecord) {
    const kept = new Map(
      first.data.parts.flatMap(({ device, values }) =>
        Object.entries(values).map(([key, value]) => [`${device} ${key}`, value] as const),
      ),
    );
    const { documentOf } = this.sources.show;
    const shared = second.data.parts.filter(({ device, keep }) =>
      first.data.parts.some((part) => part.device === device && part.keep === keep),
    );
    return planCall(shared, { documentOf, now: (device, key) => kept.get(`${device} ${key}`) });
  }

  private onAll(order: Order, listener: SendListener): boolean {
    const { id, given } = order.prepared;
    const runs = [...this.runs.values()];
    if (runs.length === 0) {
      listener({ outcome: 'confirmed', why: 'already-so', ms: 0, reason: 'Nothing glides.' });
      return true;
    }
    for (const run of runs) {
      if (id === 'stopGlides') run.stop(`Stopped by ${order.who}.`);
      else if (id === 'turnGlides') run.turn();
      else if (given.on === false) run.goOn();
      else run.hold();
      this.board.touch(run.snapshot);
    }
    this.tellRuns();
    this.sleep();
    listener({ outcome: 'confirmed', why: 'accepted', ms: 0 });
    return true;
  }

  private onTime(): void {
    if (this.isOnTime) return;
    this.isOnTime = true;
    try {
      const now = performance.now();
      for (const run of [...this.runs.values()]) if (run.wakeAt <= now) run.advance();
    } finally {
      this.isOnTime = false;
      this.sleep();
    }
  }

  private sleep(): void {
    if (this.isOnTime) return;
    const times = [...this.runs.values()].map((run) => (run.isOver ? Number.POSITIVE_INFINITY : run.wakeAt));
    this.clock.set(Math.min(Number.POSITIVE_INFINITY, ...times), Number.POSITIVE_INFINITY);
  }
}

function timeOf(given: Readonly<Record<string, Scalar>>, rate: FrameRate): GlideTime {
  const asked = given.frames === undefined ? Number(given.ms ?? 0) : msOfFrame(Number(given.frames), rateOf(rate));
  const ms = Math.min(longestGlideMs, Math.round(asked));
  return { ms, curve: glideCurves.find((each) => each === given.curve) ?? 'smooth' };
}

function refuse(listener: SendListener, reason: string): false {
  listener({ outcome: 'lost', why: 'missing', ms: 0, reason });
  return false;
}
