/** A token bucket: it fills at a steady rate up to a limit, and what is used is taken out. */
export class Budget {
  private left: number;
  private filledAt = performance.now();

  constructor(
    private readonly perSecond: number,
    private readonly most: number,
  ) {
    this.left = most;
  }

  /** Takes `cost` tokens. Returns false, and takes none, when there are fewer. */
  take(cost: number, now = performance.now()): boolean {
    this.left = Math.min(this.most, this.left + ((now - this.filledAt) / 1000) * this.perSecond);
    this.filledAt = now;
    if (this.left < cost) return false;
    this.left -= cost;
    return true;
  }
}
