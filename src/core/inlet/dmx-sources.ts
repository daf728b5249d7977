import type { SacnPacket } from '../wire';

/** ANSI E1.31-2018, 6.7.1: a source that has said nothing for so long is gone. */
export const sourceLostMs = 2500;
/** 6.7.2: a packet that is so little behind the last one came out of order. */
const outOfOrder = 20;
const mostSources = 16;

interface Source {
  priority: number;
  sequence: number;
  slots: Uint8Array;
  /** When it was heard last, in milliseconds. */
  at: number;
}

/** The levels of one universe, from all who send it: those of the highest priority, of several the one that was heard last (ANSI E1.31, 6.2.3). */
export class DmxSources {
  private readonly sources = new Map<string, Source>();

  constructor(private readonly universe: number) {}

  /** Takes a packet. Returns false for one that changes nothing: of another universe, a preview, other data than levels, or out of order. */
  take(packet: SacnPacket, now: number): boolean {
    const { cid, universe, isPreview, isTerminated, startCode, sequence, priority, slots } = packet;
    if (universe !== this.universe || isPreview || startCode !== 0) return false;
    const id = cid.join('.');
    const before = this.sources.get(id);
    // 6.2.6: it ends at once, whatever its number.
    if (isTerminated) return this.sources.delete(id);
    if (before) {
      const step = ((sequence - before.sequence + 128) & 0xff) - 128;
      if (step <= 0 && step > -outOfOrder) return false;
    } else if (this.sources.size >= mostSources) return false;
    this.sources.delete(id);
    this.sources.set(id, { priority, sequence, slots, at: now });
    return true;
  }

  /** The levels now, from channel 1; `undefined` while nobody sends. */
  levels(now: number): Uint8Array | undefined {
    for (const [id, { at }] of this.sources) if (now - at > sourceLostMs) this.sources.delete(id);
    let best: Source | undefined;
    // The one that was heard last is the last in the map.
    for (const source of this.sources.values()) if (!best || source.priority >= best.priority) best = source;
    return best?.slots;
  }
}
