/** The gateway's relays and what hangs on them: a horn, two on-air lights, and a lift for the start flag. */

export const coils = ['horn', 'lightBoat', 'lightTower', 'flagUp', 'flagDown'] as const;

interface GatewayState {
  readonly coils: readonly boolean[];
  /** In per cent of the mast. */
  readonly flagHeight: number;
  readonly doorClosed: boolean;
  /** Holding registers: how long the horn may sound, in tenths of a second, and a free one. */
  readonly holding: readonly number[];
  readonly hornTenths: number;
}

const firmware = 14;
const framesPerSecond = 25;
/** The lift needs four seconds from bottom to top. */
const perFrame = 100 / (4 * framesPerSecond);

export class GatewayModel {
  private current: GatewayState = {
    coils: coils.map(() => false),
    flagHeight: 0,
    doorClosed: true,
    holding: [300, 0],
    hornTenths: 0,
  };
  private frames = 0;

  constructor(private readonly onChange: () => void) {}

  get state(): GatewayState {
    return this.current;
  }

  /** Discrete inputs: flag at the top, flag at the bottom, door closed. */
  get inputs(): boolean[] {
    const { flagHeight, doorClosed } = this.current;
    return [flagHeight >= 100, flagHeight <= 0, doorClosed];
  }

  /** Input registers: height of the flag, model number, firmware times ten. */
  registers(otherModel: boolean): number[] {
    return [Math.round(this.current.flagHeight), otherModel ? 410 : 308, firmware];
  }

  setCoil(n: number, on: boolean): void {
    const next = this.current.coils.map((each, at) => (at === n ? on : each));
    // The lift cannot go both ways: the later one wins.
    if (on && n === 3) next[4] = false;
    if (on && n === 4) next[3] = false;
    this.change({ coils: next, ...(n === 0 && on ? { hornTenths: 0 } : {}) });
  }

  setHolding(n: number, value: number): void {
    this.change({ holding: this.current.holding.map((each, at) => (at === n ? value : each)) });
  }

  setDoor(doorClosed: boolean): void {
    this.change({ doorClosed });
  }

  frame(): void {
    const { coils: now, flagHeight, holding, hornTenths } = this.current;
    this.frames += 1;
    const [horn, , , up, down] = now;
    const moved = Math.max(0, Math.min(100, flagHeight + (up ? perFrame : 0) - (down ? perFrame : 0)));
    if (moved !== flagHeight) this.change({ flagHeight: moved });
    if (!horn || this.frames % 5 !== 0) return;
    const sounded = hornTenths + 2;
    // The horn's own limit, so that nobody is deafened by a forgotten relay.
    if (sounded >= (holding[0] ?? 300))
      this.change({ coils: now.map((on, n) => (n === 0 ? false : on)), hornTenths: 0 });
    else this.change({ hornTenths: sounded });
  }

  private change(change: Partial<GatewayState>): void {
    this.current = { ...this.current, ...change };
    this.onChange();
  }
}
