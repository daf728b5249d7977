import { maxSlots } from './wire';

/** What a command changes in a universe. Channels count from 1. */
export type DmxChange =
  | {
      readonly do: 'levels';
      readonly channel: number;
      /** The last channel; the levels repeat until there. */
      readonly last: number;
      /** 0 to 255; with two bytes a channel 0 to 65,535, the high byte on the first of two channels. */
      readonly levels: readonly number[];
      readonly bytes: 1 | 2;
      readonly fadeMs: number;
    }
  | { readonly do: 'blackout'; readonly on: boolean }
  /** Nothing more is sent until the next level. */
  | { readonly do: 'end' };

interface Fade {
  readonly bytes: 1 | 2;
  readonly from: number;
  readonly to: number;
  readonly startAt: number;
  readonly ms: number;
}

/** The levels of one universe, and how they move. It reads no clock: every call says what time it is, in milliseconds. */
export class DmxOutput {
  private readonly levels = new Uint8Array(maxSlots);
  /** By the index of their first slot. */
  private readonly fades = new Map<number, Fade>();
  private blackout = false;
  private isOn = false;

  change(change: DmxChange, now: number): void {
    this.isOn = change.do !== 'end';
    if (change.do === 'blackout') this.blackout = change.on;
    if (change.do !== 'levels') return;
    this.advance(now);
    const { channel, last, levels, bytes, fadeMs } = change;
    for (let at = channel - 1, n = 0; at + bytes <= last; at += bytes, n += 1) {
      const to = levels[n % levels.length] ?? 0;
      // Whatever moved these slots before is over, also a fade of two bytes that ends here.
      for (let slot = at; slot < at + bytes; slot += 1) this.fades.delete(slot);
      if (this.fades.get(at - 1)?.bytes === 2) this.fades.delete(at - 1);
      const from = bytes === 1 ? (this.levels[at] ?? 0) : ((this.levels[at] ?? 0) << 8) | (this.levels[at + 1] ?? 0);
      if (fadeMs > 0 && from !== to) this.fades.set(at, { bytes, from, to, startAt: now, ms: fadeMs });
      else this.put(at, bytes, to);
    }
  }

  /** True while a level moves. */
  get isFading(): boolean {
    return this.fades.size > 0;
  }

  get isBlackedOut(): boolean {
    return this.blackout;
  }

  /** From the first change to the end of the output: otherwise nothing is sent. */
  get isUsed(): boolean {
    return this.isOn;
  }

  /** Sends the levels as they are. */
  begin(): void {
    this.isOn = true;
  }

  /** What goes out at this time: nothing but zeros in a blackout. */
  slotsAt(now: number): Uint8Array {
    this.advance(now);
    return this.blackout ? new Uint8Array(maxSlots) : this.levels.slice();
  }

  /** The levels, whether or not they are blacked out. The first is that of channel 1. */
  levelsAt(now: number): Uint8Array {
    this.advance(now);
    return this.levels.slice();
  }

  private advance(now: number): void {
    for (const [at, { bytes, from, to, startAt, ms }] of this.fades) {
      const share = Math.min(1, Math.max(0, (now - startAt) / ms));
      this.put(at, bytes, Math.round(from + (to - from) * share));
      if (share === 1) this.fades.delete(at);
    }
  }

  private put(at: number, bytes: 1 | 2, value: number): void {
    if (bytes === 1) this.levels[at] = value;
    else {
      this.levels[at] = value >> 8;
      this.levels[at + 1] = value & 0xff;
    }
  }
}
