import { z } from 'zod';

/** How a stand-in can be told to misbehave. */
export const faultsSchema = z.strictObject({
  /** Its port is closed, as when the service is switched off. */
  refuse: z.boolean(),
  /** It takes everything and says nothing. */
  hang: z.boolean(),
  /** Delay of everything it says, in milliseconds. */
  delayMs: z.number().int().min(0).max(60_000),
  /** Percentage of messages that are lost, in and out. */
  lossPercent: z.number().min(0).max(100),
  /** It answers with bytes that mean nothing. */
  garbage: z.boolean(),
  /** It wants another password than it did. */
  otherPassword: z.boolean(),
  /** It is another model. */
  otherModel: z.boolean(),
  /** Another controller holds it. */
  taken: z.boolean(),
});

export type Faults = z.infer<typeof faultsSchema>;

export const noFaults: Faults = {
  refuse: false,
  hang: false,
  delayMs: 0,
  lossPercent: 0,
  garbage: false,
  otherPassword: false,
  otherModel: false,
  taken: false,
};

/** Bytes that mean nothing in any of the protocols: no line ending, no frame. */
const rubbish = Uint8Array.from([0x7f, 0x15, 0x0b, 0x7f, 0x1e, 0x15, 0x7f, 0x0b]);

/** What a stand-in says, on its way to one controller: the faults act here. What is late stays in order. */
export class Outlet {
  private lastAt = 0;

  constructor(
    private readonly faults: () => Faults,
    private readonly write: (bytes: Uint8Array) => void,
  ) {}

  send(bytes: Uint8Array): void {
    const { hang, delayMs, lossPercent, garbage } = this.faults();
    if (hang || isLost(lossPercent)) return;
    const said = garbage ? rubbish : bytes;
    if (delayMs === 0 && this.lastAt === 0) return this.write(said);
    const now = performance.now();
    const at = Math.max(this.lastAt, now + delayMs);
    this.lastAt = at;
    setTimeout(() => {
      if (this.lastAt === at) this.lastAt = 0;
      this.write(said);
    }, at - now).unref();
  }
}

export const isLost = (percent: number): boolean => percent > 0 && Math.random() * 100 < percent;
