/**
 * Raw bytes over a stream, cut in one of three ways.
 *
 * ```
 *  terminated   .. .. .. 03                 the terminator ends the frame
 *  fixed        02 .. .. .. ..              so many bytes, from a start byte where there is one
 *  prefixed     hh nn nn .. .. .. ..        header, length field, then what the length says
 * ```
 */
export type ByteFraming =
  | { readonly kind: 'terminated'; readonly terminator: Uint8Array }
  | { readonly kind: 'fixed'; readonly length: number; readonly start?: number }
  | {
      readonly kind: 'prefixed';
      /** Bytes before the length field. */
      readonly header: number;
      readonly width: 1 | 2 | 4;
      readonly endian: 'big' | 'little';
      /** What the length counts: what follows it, or the whole frame. */
      readonly counts: 'rest' | 'all';
    };

export type ByteFrame =
  | { readonly kind: 'frame'; readonly raw: Uint8Array }
  /** Bytes that belong to no frame, or to one that is too long. They are gone. */
  | { readonly kind: 'dropped'; readonly code: 'overlong' | 'garbage' };

/**
 * Cuts a byte stream into frames. Holds `maxFrameBytes` at the most; a longer frame is dropped and reported once. A
 * terminated stream goes on behind the next terminator, the others with the bytes that come next.
 */
export class ByteFramer {
  private held: Uint8Array;
  private length = 0;
  private dropping = false;
  /** Bytes of an overlong frame that are still to come and not wanted. */
  private skip = 0;

  constructor(
    private readonly framing: ByteFraming,
    private readonly maxFrameBytes: number,
  ) {
    this.held = new Uint8Array(Math.min(maxFrameBytes, 256));
  }

  push(chunk: Uint8Array): ByteFrame[] {
    const frames: ByteFrame[] = [];
    for (const byte of chunk) {
      if (this.skip > 0) this.skip -= 1;
      else this.take(byte, frames);
    }
    return frames;
  }

  /** What has come of a frame that is not complete. */
  rest(): Uint8Array {
    return this.held.slice(0, this.length);
  }

  private take(byte: number, frames: ByteFrame[]): void {
    const { framing } = this;
    if (framing.kind === 'fixed' && framing.start !== undefined && this.length === 0 && byte !== framing.start) {
      if (!this.dropping) frames.push({ kind: 'dropped', code: 'garbage' });
      this.dropping = true;
      return;
    }
    if (framing.kind === 'fixed') this.dropping = false;
    if (this.length >= this.maxFrameBytes) {
      // Only a terminated frame gets here: the others know their length before.
      if (!this.dropping) frames.push({ kind: 'dropped', code: 'overlong' });
      this.dropping = true;
      this.held.copyWithin(0, this.length - 4, this.length);
      this.length = Math.min(4, this.length);
    }
    this.keep(byte);
    if (!this.isComplete(frames)) return;
    if (this.dropping) this.dropping = false;
    else frames.push({ kind: 'frame', raw: this.rest() });
    this.length = 0;
  }

  private keep(byte: number): void {
    if (this.length === this.held.length) {
      const larger = new Uint8Array(Math.max(8, Math.min(this.maxFrameBytes, this.held.length * 2)));
      larger.set(this.held);
      this.held = larger;
    }
    this.held[this.length] = byte;
    this.length += 1;
  }

  private isComplete(frames: ByteFrame[]): boolean {
    const { framing, length } = this;
    switch (framing.kind) {
      case 'terminated': {
        const { terminator } = framing;
        if (length < terminator.length) return false;
        return terminator.every((byte, n) => this.held[length - terminator.length + n] === byte);
      }
      case 'fixed':
        return length === framing.length;
      case 'prefixed': {
        const head = framing.header + framing.width;
        if (length < head) return false;
        let declared = 0;
        for (let n = 0; n < framing.width; n += 1) {
          const at = framing.endian === 'big' ? n : framing.width - 1 - n;
          declared = declared * 256 + (this.held[framing.header + at] ?? 0);
        }
        const whole = framing.counts === 'rest' ? head + declared : Math.max(head, declared);
        if (whole <= this.maxFrameBytes) return length >= whole;
        frames.push({ kind: 'dropped', code: 'overlong' });
        this.skip = whole - length;
        this.length = 0;
        return false;
      }
    }
  }
}
