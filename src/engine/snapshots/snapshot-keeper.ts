import type { SnapshotChange } from '../../core/live';
import type { Scalar } from '../../core/result';
import { ownId, tintSchema, type SnapshotRecord } from '../../core/show';
import { groupsNamed, groupsOf, stillOf, take } from '../../core/snapshot';
import type { Log } from '../../log';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import type { Stills } from '../pages/stills';
import type { Order } from '../presses/dispatcher';
import type { OwnOrders } from '../presses/own-orders';
import type { RunningShow } from '../show/running-show';
import type { WriteLive } from '../show/write-live';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly own: OwnOrders;
  /** Without it no pictures are fetched. */
  readonly stills: Stills | undefined;
  /** Without it the show keeps nothing. */
  readonly write: WriteLive | undefined;
  /** Proofs beside the show: it is worked out what would be kept, and nothing is written. */
  readonly isPrivate: boolean;
  readonly log: Log;
}

/** What is to be written, and what is missing in it, as a sentence. */
interface Planned {
  readonly change: SnapshotChange;
  readonly lacks?: string | undefined;
}

type Given = Readonly<Record<string, Scalar | undefined>>;

/** Takes and overwrites snapshots by command, from panels, macros, hand gear and other programs. */
export class SnapshotKeeper {
  private isStopped = false;
  /** Changes are written in the order of their commands, however long their pictures take. */
  private writing: Promise<unknown> = Promise.resolve();

  constructor(private readonly sources: Sources) {
    const { own } = sources;
    own.serve(['overwriteSnapshot', 'getBackSnapshot', 'takeSnapshot', 'takeGroups'], (order, listener) =>
      this.do(order, listener),
    );
  }

  /** What is being written is written; nobody waits for it any more. */
  stop(): void {
    this.isStopped = true;
  }

  private do(order: Order, listener: SendListener): boolean {
    const began = performance.now();
    const end = (failure: string | undefined, lacks?: string) => {
      const ms = performance.now() - began;
      if (failure !== undefined) listener({ outcome: 'lost', why: 'not-kept', ms, reason: failure });
      else listener({ outcome: 'confirmed', why: 'accepted', ms, ...(lacks === undefined ? {} : { reason: lacks }) });
      return failure === undefined;
    };
    const { id, given } = order.prepared;
    const number = Number(given.snapshot ?? given.like);
    const snapshot = [...this.sources.show.snapshots.values()].find(({ data }) => data.number === number);
    if (!snapshot && id !== 'takeGroups') {
      listener({ outcome: 'lost', why: 'missing', ms: 0, reason: `There is no snapshot ${number}.` });
      return false;
    }
    if (order.aim !== 'live' && !this.sources.isPrivate)
      return end('Rehearsing: the snapshots of the show stay as they are.');
    const planned = snapshot ? this.changeOf(snapshot, order) : this.takeGroups(given);
    if (typeof planned === 'string') return end(planned);
    if (this.sources.isPrivate) return end(undefined, planned.lacks);
    void this.keep(planned).then(({ failure, lacks }) => this.isStopped || end(failure, lacks));
    return true;
  }

  /** What is to be written about a snapshot, or why nothing is. */
  private changeOf(snapshot: SnapshotRecord, { prepared: { id, given } }: Order): Planned | string {
    const { parts: kept } = snapshot.data;
    if (id === 'getBackSnapshot') return { change: { do: 'getBack', id: snapshot.id } };
    const { show } = this.sources;
    const { parts, unknown } = this.takeNow(kept);
    const takenAt = new Date().toISOString();
    if (id === 'takeSnapshot') {
      if (parts.length === 0) return `None of the values that “${snapshot.data.name}” keeps are known now.`;
      const change = {
        do: 'take' as const,
        like: snapshot.id,
        name: String(given.name ?? ''),
        parts: [...parts],
        takenAt,
      };
      return { change, lacks: leftOut(unknown.length) };
    }
    // Half a layout in place of a whole one would be a loss that nobody sees.
    const first = unknown.find(({ device, key }) => kept.some((part) => part.device === device && key in part.values));
    if (parts.length < kept.length || first) {
      const device = show.devices.get(first?.device ?? '')?.data.tag;
      const where = device === undefined ? '' : ` on ${device}`;
      return `Some values that “${snapshot.data.name}” keeps${where} are not known now, so it was not overwritten. Check the links of its devices.`;
    }
    return { change: { do: 'overwrite', id: snapshot.id, parts: [...parts], takenAt } };
  }

  /** A new snapshot of groups that are named, or why there is none. */
  private takeGroups({ groups, name, folder, tint, note }: Given): Planned | string {
    const { show } = this.sources;
    const wanted = groupsNamed(String(groups ?? ''), groupsOf(show.devices.values(), show.documentOf));
    if (!wanted.ok) return wanted.error;
    const { parts, unknown } = this.takeNow(wanted.value);
    if (parts.length === 0) return 'No value in these groups is known now. Check the links of the devices.';
    const tinted = tintSchema.safeParse(tint);
    const change = {
      do: 'takeNew' as const,
      name: String(name ?? '').trim(),
      folder: String(folder ?? '').trim(),
      note: String(note ?? ''),
      ...(tinted.success ? { tint: tinted.data } : {}),
      parts: [...parts],
      takenAt: new Date().toISOString(),
    };
    return { change, lacks: leftOut(unknown.length) };
  }

  private takeNow(groups: Parameters<typeof take>[0]): ReturnType<typeof take> {
    const { show, readings } = this.sources;
    const fresh = (device: string, key: string) => readings.fresh(device, key);
    return take(groups, { documentOf: show.documentOf, fresh });
  }

  /** Fetches the picture and writes the change. Resolves with why it was not written, or what is missing in it. */
  private keep({ change, lacks }: Planned): Promise<{ readonly failure?: string; readonly lacks?: string }> {
    const fetched = this.withPicture(change);
    const written = this.writing.then(async () => {
      const { change: whole, lacks: noPicture } = await fetched;
      const failure = await this.write(whole);
      if (failure !== undefined) return { failure };
      const all = [lacks, noPicture].filter((each) => each !== undefined).join(' ');
      return all === '' ? {} : { lacks: all };
    });
    this.writing = written;
    return written;
  }

  /** The change with the picture that a device hands out, where the driver of a group says which. */
  private async withPicture(change: SnapshotChange): Promise<Planned> {
    const { show, stills } = this.sources;
    if (!('parts' in change) || !stills) return { change };
    const from = stillOf(change.parts, show.documentOf);
    const device = show.devices.get(from?.device ?? '');
    if (!from || !device) return { change };
    const taken = await stills.take(device, from.still);
    return taken.ok
      ? { change: { ...change, picture: taken.value.bytes.toString('base64') } }
      : { change, lacks: `It has no picture. ${taken.error}` };
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

const leftOut = (count: number): string | undefined =>
  count === 0
    ? undefined
    : `${count === 1 ? '1 value was' : `${count} values were`} not known and ${count === 1 ? 'is' : 'are'} left out.`;
