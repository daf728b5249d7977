/** What waits for its turn within a press. */
export class DelayedSends {
  private readonly open = new Map<NodeJS.Timeout, () => void>();

  /** Runs after so many milliseconds; `dropped` is told instead when everything that waits is given up before. */
  after(ms: number, run: () => void, dropped: () => void): void {
    const timer = setTimeout(() => {
      this.open.delete(timer);
      run();
    }, ms);
    this.open.set(timer, dropped);
  }

  stop(): void {
    for (const [timer, dropped] of this.open) {
      clearTimeout(timer);
      dropped();
    }
    this.open.clear();
  }
}
