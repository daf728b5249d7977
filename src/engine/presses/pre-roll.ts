import { keyOrderOf } from '../../core/watch';
import { Clockwork } from '../devices/clockwork';
import type { SendListener } from '../devices/send-book';
import type { PreparedSend } from '../devices/session-types';
import type { Aims } from '../aim/aims';
import type { Order } from './dispatcher';

/** What has to begin before a command leaves. */
export interface Ahead {
  /** How long the command waits, in milliseconds. */
  readonly ms: number;
  /** What it waits for, in words. */
  readonly says: string;
  /** The command has ended without switching anything: what was begun for it is in vain. */
  readonly onFailed: () => void;
}

interface Held {
  readonly order: Order;
  readonly listener: SendListener;
  readonly leave: () => void;
  /** By `performance.now()`. */
  readonly at: number;
}

/** Says what begins before a command, and begins it. */
type Begin = (order: Order) => Ahead | undefined;

/**
 * Holds a key back while the graphics that come with it begin. It leaves on time, unless the key is switched again before: then only that
 * counts.
 */
export class PreRoll {
  private readonly held = new Set<Held>();
  private readonly clock = new Clockwork(() => this.onTime());
  private begin: Begin = () => undefined;

  constructor(aims: Aims) {
    // What was on its way to the devices does not go to the stand-ins, nor the other way round.
    aims.listen({ onLeaving: () => this.dropAll('Presses go elsewhere now.') });
  }

  /** The one who knows what begins before a command. */
  serve(begin: Begin): void {
    this.begin = begin;
  }

  /** Lets go of what still waits to switch the same key the other way. */
  replace(device: string, prepared: PreparedSend): void {
    if (this.held.size === 0) return;
    const now = keyOrderOf(prepared.id, prepared.given);
    for (const each of this.held) {
      const before = this.keyOf(each, device);
      if (now && before && before.key === now.key && before.on !== now.on)
        this.drop(each, 'overtaken', `Key ${now.key} was switched again before its pre-roll was over.`);
    }
  }

  private keyOf({ order: { device, prepared } }: Held, of: string) {
    return device.id === of ? keyOrderOf(prepared.id, prepared.given) : undefined;
  }

  /**
   * Begins what comes before a command. Returns false when it need not wait.
   * @param leave sends it, with this listener
   */
  holds(order: Order, listener: SendListener, leave: (listener: SendListener) => void): boolean {
    const { device, prepared } = order;
    const key = this.held.size === 0 ? undefined : keyOrderOf(prepared.id, prepared.given)?.key;
    const same =
      key === undefined ? undefined : [...this.held].find((each) => this.keyOf(each, device.id)?.key === key);
    if (same) {
      // What comes before it has begun already: both leave together.
      this.held.add({ order, listener, leave: () => leave(listener), at: same.at });
      return true;
    }
    const ahead = this.begin(order);
    if (!ahead) return false;
    const watched: SendListener = (result) => {
      if (failed.has(result.outcome) && !result.note) ahead.onFailed();
      listener(result);
    };
    if (ahead.ms <= 0) {
      leave(watched);
      return true;
    }
    order.watch?.onHeld?.(ahead.ms, ahead.says);
    this.held.add({ order, listener: watched, leave: () => leave(watched), at: performance.now() + ahead.ms });
    this.sleep();
    return true;
  }

  /** The engine stops. */
  stop(): void {
    this.dropAll('The program was stopped.');
  }

  private dropAll(reason: string): void {
    for (const each of this.held) this.drop(each, 'stopped', reason);
  }

  private drop(held: Held, why: 'overtaken' | 'stopped', reason: string): void {
    this.held.delete(held);
    this.sleep();
    held.listener({ outcome: 'skipped', why, ms: 0, reason });
  }

  private onTime(): void {
    const now = performance.now();
    for (const each of [...this.held].sort((a, b) => a.at - b.at)) {
      if (each.at > now || !this.held.delete(each)) continue;
      each.leave();
    }
    this.sleep();
  }

  private sleep(): void {
    let next = Infinity;
    for (const { at } of this.held) next = Math.min(next, at);
    this.clock.set(next, Infinity);
  }
}

const failed: ReadonlySet<string> = new Set(['lost', 'refused', 'skipped']);
