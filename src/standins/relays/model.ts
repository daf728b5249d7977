/** A box of relays, of which some move blinds and a lift by a pulse. */

export const relayNames = [
  'House lights',
  'Work lights',
  'Podium light',
  'Flag light',
  'Coffee machine',
  'Spare 6',
  'Spare 7',
  'Spare 8',
] as const;

/** Pulse coils behind the relays: written 1 they do it once and fall back. */
export const pulses = ['blindsOpen', 'blindsClose', 'blindsHalt', 'liftUp', 'liftDown', 'liftHalt'] as const;
type Pulse = (typeof pulses)[number];

interface RelaysState {
  readonly relays: readonly boolean[];
  /** Pulses that are on for a moment. */
  readonly pulses: readonly boolean[];
  /** In per cent: how far the blinds are open, how high the lift is. */
  readonly blinds: number;
  readonly lift: number;
  readonly moving: { readonly blinds: -1 | 0 | 1; readonly lift: -1 | 0 | 1 };
  readonly doorClosed: boolean;
  readonly bell: boolean;
}

const framesPerSecond = 25;
/** The blinds need three seconds from end to end, the lift two and a half. */
const perFrame = { blinds: 100 / (3 * framesPerSecond), lift: 100 / (2.5 * framesPerSecond) };
const pulseFrames = 8;

export class RelaysModel {
  private current: RelaysState = {
    relays: relayNames.map(() => false),
    pulses: pulses.map(() => false),
    blinds: 100,
    lift: 0,
    moving: { blinds: 0, lift: 0 },
    doorClosed: true,
    bell: false,
  };
  private pulseLeft = 0;

  constructor(private readonly onChange: () => void) {}

  get state(): RelaysState {
    return this.current;
  }

  /** Relays first, then the pulses. */
  get coils(): boolean[] {
    return [...this.current.relays, ...this.current.pulses];
  }

  /** Blinds open, blinds closed, lift at the top, lift at the bottom, door closed, bell. */
  get inputs(): boolean[] {
    const { blinds, lift, doorClosed, bell } = this.current;
    return [blinds >= 100, blinds <= 0, lift >= 100, lift <= 0, doorClosed, bell];
  }

  /** How far the blinds are open and how high the lift is, in per cent, the model, its firmware times ten. */
  registers(otherModel: boolean): number[] {
    return [Math.round(this.current.blinds), Math.round(this.current.lift), otherModel ? 16 : 8, 21];
  }

  setCoil(n: number, on: boolean): void {
    const { relays } = this.current;
    if (n < relays.length) return this.change({ relays: relays.map((each, at) => (at === n ? on : each)) });
    const pulse = pulses[n - relays.length];
    if (pulse !== undefined && on) this.pulse(pulse);
  }

  setDoor(doorClosed: boolean): void {
    this.change({ doorClosed });
  }

  setBell(bell: boolean): void {
    this.change({ bell });
  }

  frame(): void {
    if (this.pulseLeft > 0) {
      this.pulseLeft -= 1;
      if (this.pulseLeft === 0) this.change({ pulses: pulses.map(() => false) });
    }
    const { blinds, lift, moving } = this.current;
    if (moving.blinds === 0 && moving.lift === 0) return;
    const moved = (at: number, way: number, step: number) => Math.max(0, Math.min(100, at + way * step));
    const next = {
      blinds: moved(blinds, moving.blinds, perFrame.blinds),
      lift: moved(lift, moving.lift, perFrame.lift),
    };
    const isAtEnd = (at: number) => at <= 0 || at >= 100;
    this.change({
      ...next,
      moving: {
        blinds: isAtEnd(next.blinds) ? 0 : moving.blinds,
        lift: isAtEnd(next.lift) ? 0 : moving.lift,
      },
    });
  }

  private pulse(pulse: Pulse): void {
    const { moving } = this.current;
    const ways = { Open: 1, Close: -1, Halt: 0, Up: 1, Down: -1 } as const;
    const [, what, way] = /^(blinds|lift)(\w+)$/.exec(pulse) ?? [];
    if (what === undefined || way === undefined) return;
    this.pulseLeft = pulseFrames;
    this.change({
      pulses: pulses.map((each) => each === pulse),
      moving: { ...moving, [what]: ways[way as keyof typeof ways] },
    });
  }

  private change(change: Partial<RelaysState>): void {
    this.current = { ...this.current, ...change };
    this.onChange();
  }
}
