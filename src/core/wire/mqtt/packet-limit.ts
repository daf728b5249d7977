/**
 * Watches the packets of one MQTT connection (fixed header: MQTT 3.1.1 and 5.0, 2.2 and 2.1) for one that declares to be longer than what
 * is taken, before its bytes are gathered. It holds no bytes of the packets themselves.
 *
 *     byte 1      type and flags
 *     byte 2 …    remaining length, 7 bits in each byte, least significant first, at most four bytes; bit 7: another follows
 */
export class PacketLimit {
  /** Bytes that are still to come of the packet at hand. */
  private left = 0;
  private header = 0;
  private length = 0;

  constructor(private readonly mostBytes: number) {}

  /** Returns false when a packet is too long, or has no length at all. The connection must end then. */
  takes(chunk: Uint8Array): boolean {
    let at = 0;
    while (at < chunk.length) {
      if (this.left > 0) {
        const passed = Math.min(this.left, chunk.length - at);
        this.left -= passed;
        at += passed;
        continue;
      }
      const byte = chunk[at] ?? 0;
      at += 1;
      this.header += 1;
      if (this.header === 1) continue;
      this.length += (byte & 0x7f) * 128 ** (this.header - 2);
      if (this.length > this.mostBytes) return false;
      if (byte & 0x80) {
        if (this.header > 4) return false;
        continue;
      }
      this.left = this.length;
      this.header = 0;
      this.length = 0;
    }
    return true;
  }
}
