const windowMs = 2000;
/** A device whose frames wait for more than this part of the time reports more than is read. */
const floodsAbove = 0.5;

/** Notices a device that is held back most of the time: it reports faster than its reports can be read. */
export class FloodWatch {
  private from = 0;
  private heldFrom: number | undefined;
  private heldMs = 0;
  private at = 0;

  /** When it was noticed last, in milliseconds since 1970; 0: never. */
  get floodedAt(): number {
    return this.at;
  }

  /** Frames begin to wait, or none wait any more. */
  onHold(on: boolean, now = performance.now()): void {
    if (this.heldFrom !== undefined) this.heldMs += now - this.heldFrom;
    this.heldFrom = on ? now : undefined;
    if (now - this.from < windowMs) return;
    if (this.heldMs > (now - this.from) * floodsAbove) this.at = Date.now();
    this.from = now;
    this.heldMs = 0;
  }

  /** Frames were dropped: datagrams cannot be held back. */
  onDropped(): void {
    this.at = Date.now();
  }
}
