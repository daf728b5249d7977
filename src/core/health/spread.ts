const firstMs = 0.1;
/** Each class is a fifth wider than the one before, so that a figure is right to about a tenth. */
const growth = 1.2;
const classes = 72;

/** How values between 0.1 ms and some minutes are spread, in a fixed number of classes. */
export class Spread {
  private readonly counts = new Array<number>(classes).fill(0);
  private total = 0;
  private most = 0;

  get count(): number {
    return this.total;
  }

  get longest(): number {
    return this.most;
  }

  add(ms: number): void {
    const at = ms <= firstMs ? 0 : Math.ceil(Math.log(ms / firstMs) / Math.log(growth));
    this.counts[Math.min(classes - 1, at)] = (this.counts[Math.min(classes - 1, at)] ?? 0) + 1;
    this.total += 1;
    this.most = Math.max(this.most, ms);
  }

  /** This share of the values, from 0 to 1, is not above the figure, in milliseconds; 0 without values. */
  within(share: number): number {
    const wanted = Math.max(1, Math.ceil(this.total * share));
    let seen = 0;
    for (const [at, count] of this.counts.entries()) {
      seen += count;
      if (seen >= wanted) return Math.min(this.most, firstMs * growth ** at);
    }
    return this.most;
  }
}
