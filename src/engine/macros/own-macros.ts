import { isNamed } from '../../core/inlet';
import { macrosOf } from '../../core/macro';
import { ownId } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import type { ShowChange } from '../parts';
import type { Order } from '../presses/dispatcher';
import type { OwnOrders } from '../presses/own-orders';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly own: OwnOrders;
  /** The macros that run now, by id. */
  readonly running: () => ReadonlySet<string>;
  /** Ends every run of a macro. */
  readonly end: (macro: string, way: 'stop' | 'way out', who: string) => void;
}

/** Lets buttons, watches, macros and inlets end macros, and says which ones run. */
export class OwnMacros {
  private listed = 0;
  private telling: NodeJS.Immediate | undefined;

  constructor(private readonly sources: Sources) {
    const { own } = sources;
    own.serve(['stopMacro'], (order, listener) => this.end(order, listener, 'stop'));
    own.serve(['leaveMacro'], (order, listener) => this.end(order, listener, 'way out'));
  }

  onShow({ kind }: ShowChange): void {
    if (kind === 'macro') this.soon();
  }

  /** A whole show, and a macro that begins others, change many at once. */
  soon(): void {
    this.telling ??= setImmediate(() => this.tell());
  }

  stop(): void {
    clearImmediate(this.telling);
  }

  private tell(): void {
    this.telling = undefined;
    const { show, readings } = this.sources;
    const running = this.sources.running();
    const macros = macrosOf([...show.macros.values()]);
    const news = macros.flatMap(({ id, data: { name } }, n) => [
      { key: `macro[${n + 1}].name`, value: name },
      { key: `macro[${n + 1}].running`, value: running.has(id) },
    ]);
    const gone = Array.from({ length: Math.max(0, this.listed - macros.length) }, (_, n) => macros.length + n + 1);
    this.listed = macros.length;
    const changed = news.filter(({ key, value }) => readings.fresh(ownId, key) !== value);
    if (changed.length + gone.length === 0) return;
    const clears = gone.flatMap((n) => [`macro[${n}].name`, `macro[${n}].running`]);
    readings.report(ownId, changed, Date.now(), clears);
  }

  private end({ prepared: { given }, who }: Order, listener: SendListener, way: 'stop' | 'way out'): boolean {
    const { show, running, end } = this.sources;
    const named = String(given.macro);
    const macro = show.macros.get(named) ?? [...show.macros.values()].find(({ data }) => isNamed(data.name, named));
    if (!macro) {
      listener({ outcome: 'lost', why: 'missing', ms: 0, reason: `There is no macro “${named}”.` });
      return false;
    }
    const runs = running().has(macro.id);
    // A macro that ends itself, or the one that began it, hears of its end once this is done.
    if (runs) queueMicrotask(() => end(macro.id, way, who));
    listener({ outcome: 'confirmed', why: runs ? 'accepted' : 'already-so', ms: 0 });
    return true;
  }
}
