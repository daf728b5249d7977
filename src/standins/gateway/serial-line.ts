/** A serial line between the gateway's port and one device: bytes take the time that they take at its speed. */
export class SerialLine {
  private device: ((bytes: Uint8Array) => void) | undefined;
  private readonly listeners = new Set<(bytes: Uint8Array) => void>();
  private freeAt = 0;

  /** @param baud bits a second; a byte has ten with start and stop bit */
  constructor(private readonly baud: number) {}

  /** Plugs a device in, or pulls it out. */
  plug(device: ((bytes: Uint8Array) => void) | undefined): void {
    this.device = device;
  }

  /** Somebody at the gateway wants to hear what the device says. */
  listen(listener: (bytes: Uint8Array) => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  get listening(): number {
    return this.listeners.size;
  }

  toDevice(bytes: Uint8Array): void {
    this.later(bytes, (all) => this.device?.(all));
  }

  fromDevice(bytes: Uint8Array): void {
    this.later(bytes, (all) => {
      for (const listener of this.listeners) listener(all);
    });
  }

  private later(bytes: Uint8Array, arrive: (bytes: Uint8Array) => void): void {
    const now = performance.now();
    this.freeAt = Math.max(now, this.freeAt) + (bytes.length * 10_000) / this.baud;
    setTimeout(() => arrive(bytes), this.freeAt - now).unref();
  }
}
