import { packetMs } from '../../../core/wire';
import { Clockwork } from '../clockwork';

/** A packet that goes out so much after its turn still belongs to it. */
const lateMs = 5;

interface Due {
  readonly at: number;
  readonly run: () => void;
}

/**
 * One clock for all universes: those that move send in the same turns, 44 times a second, so that the clock is looked at closely once for all of
 * them.
 */
class LevelClock {
  private readonly exact = new Map<object, Due>();
  private readonly about = new Map<object, Due>();
  private readonly clockwork = new Clockwork(() => this.run());
  private readonly startAt = performance.now();

  /** The turn in which a packet goes out after one that went out at this time. */
  turnAfter(at: number): number {
    const turns = (at - this.startAt) / packetMs;
    const isInTurn = (turns % 1) * packetMs < lateMs;
    return this.startAt + ((isInTurn ? Math.floor(turns) : Math.ceil(turns)) + 1) * packetMs;
  }

  /** @param isExact false where a millisecond more does not matter */
  set(owner: object, at: number, isExact: boolean, run: () => void): void {
    this.clear(owner);
    (isExact ? this.exact : this.about).set(owner, { at, run });
    this.plan();
  }

  stop(owner: object): void {
    this.clear(owner);
    this.plan();
  }

  private clear(owner: object): void {
    this.exact.delete(owner);
    this.about.delete(owner);
  }

  private run(): void {
    const now = performance.now();
    for (const dues of [this.exact, this.about])
      for (const [owner, { at, run }] of [...dues])
        if (at <= now) {
          dues.delete(owner);
          run();
        }
    this.plan();
  }

  private plan(): void {
    const next = (dues: ReadonlyMap<object, Due>) => Math.min(Infinity, ...Array.from(dues.values(), ({ at }) => at));
    this.clockwork.set(next(this.exact), next(this.about));
  }
}

export const levelClock = new LevelClock();
