import type { SnapshotChange } from '../../core/live';
import { ownId, type SnapshotRecord } from '../../core/show';
import { take } from '../../core/snapshot';
import type { Log } from '../../log';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import type { Order } from '../presses/dispatcher';
import type { OwnOrders } from '../presses/own-orders';
import type { RunningShow } from '../show/running-show';
import type { WriteLive } from '../show/write-live';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly own: OwnOrders;
  /** Without it the show keeps nothing. */
  readonly write: WriteLive | undefined;
  /** Proofs beside the show: it is worked out what would be kept, and nothing is written. */
  readonly isPrivate: boolean;
  readonly log: Log;
}

/** Takes and overwrites snapshots by command, from panels, macros, hand gear and other programs. */
export class SnapshotKeeper {
  private isStopped = false;

  constructor(private readonly sources: Sources) {
    const { own } = sources;
    own.serve(['overwriteSnapshot', 'getBackSnapshot', 'takeSnapshot'], (order, listener) => this.do(order, listener));
  }

  /** What is being written is written; nobody waits for it any more. */
  stop(): void {
    this.isStopped = true;
  }

  private do(order: Order, listener: SendListener): boolean {
    const began = performance.now();
    const end = (reason: string | undefined) => {
      const ms = performance.now() - began;
      if (reason === undefined) listener({ outcome: 'confirmed', why: 'accepted', ms });
      else listener({ outcome: 'lost', why: 'not-kept', ms, reason });
      return reason === undefined;
    };
    const { given } = order.prepared;
    const number = Number(given.snapshot ?? given.like);
    const snapshot = [...this.sources.show.snapshots.values()].find(({ data }) => data.number === number);
    if (!snapshot) {
      listener({ outcome: 'lost', why: 'missing', ms: 0, reason: `There is no snapshot ${number}.` });
      return false;
    }
    if (order.aim !== 'live' && !this.sources.isPrivate)
      return end('Rehearsing: the snapshots of the show stay as they are.');
    const change = this.changeFor(snapshot, order);
    if (typeof change === 'string') return end(change);
    if (this.sources.isPrivate) return end(undefined);
    void this.write(change).then((reason) => this.isStopped || end(reason));
    return true;
  }

  /** What is to be written, or why nothing is. */
  private changeFor(snapshot: SnapshotRecord, { prepared: { id, given } }: Order): SnapshotChange | string {
    const { parts: kept } = snapshot.data;
    if (id === 'getBackSnapshot') return { do: 'getBack', id: snapshot.id };
    const { show, readings } = this.sources;
    const { parts, unknown } = take(kept, {
      documentOf: show.documentOf,
      fresh: (device, key) => readings.fresh(device, key),
    });
    const takenAt = new Date().toISOString();
    if (id === 'takeSnapshot') {
      if (parts.length === 0) return `None of the values that “${snapshot.data.name}” keeps are known now.`;
      return { do: 'take', like: snapshot.id, name: String(given.name ?? ''), parts: [...parts], takenAt };
    }
    // Half a layout in place of a whole one would be a loss that nobody sees.
    const first = unknown.find(({ device, key }) => kept.some((part) => part.device === device && key in part.values));
    if (parts.length < kept.length || first) {
      const device = show.devices.get(first?.device ?? '')?.data.tag;
      const where = device === undefined ? '' : ` on ${device}`;
      return `Some values that “${snapshot.data.name}” keeps${where} are not known now, so it was not overwritten. Check the links of its devices.`;
    }
    return { do: 'overwrite', id: snapshot.id, parts: [...parts], takenAt };
  }

  private async write(change: SnapshotChange): Promise<string | undefined> {
    const { write, log } = this.sources;
    if (!write) return 'Snapshots cannot be saved here.';
    try {
      return await write({ snapshot: change });
    } catch (cause) {
      log.warn({ cause, device: ownId }, 'A snapshot could not be written.');
      return 'The snapshot could not be saved, because the part of the program that writes the show does not answer. Try again in a moment.';
    }
  }
}
