/** What somebody may use up: it fills at a steady rate, up to a limit. */
export class Budget {
  private left: number;
  private filledAt = performance.now();

  constructor(
    private readonly perSecond: number,
    private readonly most: number,
  ) {
    this.left = most;
  }

  /** Takes so much out of it; false, and nothing taken, when there is less than that. */
  take(cost: number, now = performance.now()): boolean {
    this.left = Math.min(this.most, this.left + ((now - this.filledAt) / 1000) * this.perSecond);
    this.filledAt = now;
    if (this.left < cost) return false;
    this.left -= cost;
    return true;
  }
}
