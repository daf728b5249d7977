/** Those who want to hear of something. */
export class Listeners<Told extends readonly unknown[]> {
  private readonly all = new Set<(...told: Told) => void>();

  /** Returns the function that takes the listener off again. */
  readonly add = (listener: (...told: Told) => void): (() => void) => {
    this.all.add(listener);
    return () => void this.all.delete(listener);
  };

  tell(...told: Told): void {
    for (const listener of this.all) listener(...told);
  }

  get size(): number {
    return this.all.size;
  }
}
