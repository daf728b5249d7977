import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { initialTimers, leftMsOf, withList, type TimerEntry, type TimersState } from '../../core/timers';
import type { Log } from '../../log';
import type { ShowChange } from '../parts';
import { replaceFile } from '../record/replace-file';
import { TimerService } from './timer-service';

/** Changes that come at once are written once. */
const writeAfterMs = 20;

const keptSchema = z.record(
  z.string(),
  z.strictObject({
    current: z.string().optional(),
    next: z.string().optional(),
    leftMs: z.number(),
    isRunning: z.boolean(),
    addedMs: z.number(),
    message: z.string(),
    /** In milliseconds since 1970. */
    at: z.number(),
  }),
);
type Kept = z.infer<typeof keptSchema>[string];

interface Sources {
  readonly dataDir: string;
  readonly log: Log;
}

/**
 * The timers of the program itself: one list for each device of the rig that is one. Their lists belong to the show; what has begun is kept beside it, so
 * that a countdown goes on over a restart.
 */
export class Timers {
  private readonly services = new Map<string, TimerService>();
  /** Rehearsals have timers of their own. */
  private readonly rehearsed = new Map<string, TimerService>();
  private readonly lists = new Map<string, readonly TimerEntry[]>();
  private readonly path: string;
  private readonly kept: Record<string, Kept>;
  private writing: NodeJS.Timeout | undefined;

  constructor(private readonly sources: Sources) {
    this.path = join(sources.dataDir, 'timers.json');
    this.kept = this.read();
  }

  onShow(change: ShowChange): void {
    if (change.kind !== 'device') return;
    const { id, now } = change;
    if (!now) return this.forget(id);
    const list = now.data.timers ?? [];
    if (JSON.stringify(list) === JSON.stringify(this.lists.get(id) ?? [])) return;
    this.lists.set(id, list);
    for (const service of [this.services.get(id), this.rehearsed.get(id)])
      service?.change((state, at) => withList(state, list, at));
  }

  /** The timers of a device. */
  service(device: string, isRehearsed: boolean): TimerService {
    const services = isRehearsed ? this.rehearsed : this.services;
    const known = services.get(device);
    if (known) return known;
    const list = this.lists.get(device) ?? [];
    const fresh = initialTimers(list);
    const kept = isRehearsed ? undefined : this.kept[device];
    const made = new TimerService(kept ? recalled(kept, list) : fresh, () => isRehearsed || this.write());
    services.set(device, made);
    return made;
  }

  /** A rehearsal is over: its timers are, too. */
  endRehearsal(): void {
    for (const service of this.rehearsed.values()) service.stop();
    this.rehearsed.clear();
  }

  async stop(): Promise<void> {
    for (const service of this.services.values()) service.stop();
    this.endRehearsal();
    if (this.writing) await this.writeNow();
  }

  private forget(device: string): void {
    this.services.get(device)?.stop();
    this.services.delete(device);
    this.lists.delete(device);
    if (!(device in this.kept)) return;
    delete this.kept[device];
    this.write();
  }

  private write(): void {
    this.writing ??= setTimeout(() => void this.writeNow(), writeAfterMs);
  }

  private async writeNow(): Promise<void> {
    clearTimeout(this.writing);
    this.writing = undefined;
    for (const [device, { state }] of this.services) this.kept[device] = keptOf(state);
    try {
      await replaceFile(this.path, JSON.stringify(this.kept));
    } catch (cause) {
      this.sources.log.warn({ cause }, 'The timers could not be saved. They will be lost if the program restarts.');
    }
  }

  private read(): Record<string, Kept> {
    let text: string;
    try {
      text = readFileSync(this.path, 'utf8');
    } catch {
      // There is none before the first timer begins.
      return {};
    }
    try {
      return keptSchema.parse(JSON.parse(text));
    } catch (cause) {
      this.sources.log.warn({ cause }, 'The file of the timers cannot be read; they begin anew.');
      return {};
    }
  }
}

function keptOf(state: TimersState): Kept {
  const { current, next, isRunning, addedMs, message } = state;
  const leftMs = leftMsOf(state, performance.now());
  return {
    ...(current === undefined ? {} : { current }),
    ...(next === undefined ? {} : { next }),
    leftMs,
    isRunning,
    addedMs,
    message,
    at: Date.now(),
  };
}

/** As it was kept; what ran has gone on meanwhile. */
function recalled(kept: Kept, list: readonly TimerEntry[]): TimersState {
  const { current, next, leftMs, isRunning, addedMs, message, at } = kept;
  const goneMs = isRunning ? Math.max(0, Date.now() - at) : 0;
  const known = (id: string | undefined) => (list.some((each) => each.id === id) ? id : undefined);
  const begun = known(current);
  return {
    ...initialTimers(list),
    ...(begun === undefined ? {} : { current: begun, leftMs: leftMs - goneMs, isRunning, addedMs }),
    next: known(next) ?? (begun === undefined ? list[0]?.id : undefined),
    at: performance.now(),
    message,
  };
}
