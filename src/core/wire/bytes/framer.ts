import { isIntact, type ByteFraming } from './layout';

export type ByteFrame =
  | { readonly kind: 'frame'; readonly raw: Uint8Array }
  /** Bytes that belong to no frame, or to one that is too long. They are gone. */
  | { readonly kind: 'dropped'; readonly code: 'overlong' | 'garbage' }
  /** A frame with a wrong checksum. What follows its first byte is looked through for the beginning of another. */
  | { readonly kind: 'dropped'; readonly code: 'checksum'; readonly raw: Uint8Array };

/** What the bytes that are held amount to. */
type Verdict =
  | { readonly is: 'incomplete' }
  | { readonly is: 'whole'; readonly length: number }
  | { readonly is: 'overlong'; readonly length: number }
  /** No frame begins here. */
  | { readonly is: 'garbage' };

const incomplete: Verdict = { is: 'incomplete' };
const garbage: Verdict = { is: 'garbage' };

/** How many bytes may be looked at again for each byte that comes, so that a hostile stream costs no more than a long one. */
const mostLooksPerByte = 16;
const mostLooksSaved = 65_536;

/**
 * Cuts a byte stream into frames. Holds `maxFrameBytes` at the most; a longer frame is dropped and reported once. A
 * terminated stream goes on behind the next terminator, the others with the bytes that come next.
 *
 * Where frames have marks, it finds its way back after garbage, a wrong length and a wrong checksum: it goes on at the next place
 * within what it holds where a frame can begin. Where only an end or a checksum can tell, it tries every byte.
 */
export class ByteFramer {
  private held: Uint8Array;
  private length = 0;
  /** What is being dropped was reported; not again before the next frame. */
  private dropping = false;
  /** An overlong terminated frame, until its terminator. */
  private overrun = false;
  /** Bytes of an overlong frame that are still to come and not wanted. */
  private skip = 0;
  private looks = 0;
  private isLastWrong = false;
  /** What is held did not come byte by byte since the last look: the rest of something that was no frame. */
  private stepped = false;

  constructor(
    private readonly framing: ByteFraming,
    private readonly maxFrameBytes: number,
  ) {
    this.held = new Uint8Array(Math.min(maxFrameBytes, 256));
  }

  push(chunk: Uint8Array): ByteFrame[] {
    const frames: ByteFrame[] = [];
    this.looks = Math.min(mostLooksSaved + this.maxFrameBytes, this.looks + chunk.length * mostLooksPerByte);
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
    if (this.length >= this.maxFrameBytes) this.makeRoom(frames);
    this.keep(byte);
    for (;;) {
      const verdict = this.judge(this.length);
      if (verdict.is === 'incomplete') return;
      if (verdict.is === 'garbage') this.dropGarbage(frames);
      else if (verdict.is === 'overlong') this.dropOverlong(verdict.length, frames);
      else this.finish(verdict.length, frames);
      if (this.length === 0) return;
    }
  }

  /** Only a terminated frame gets here: the others know their length before. */
  private makeRoom(frames: ByteFrame[]): void {
    this.report({ kind: 'dropped', code: 'overlong' }, frames);
    this.overrun = true;
    const { framing } = this;
    const tail = framing.kind === 'terminated' ? framing.terminator.length + (framing.after ?? 0) - 1 : 0;
    this.shift(this.length - Math.min(this.length - 1, tail));
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

  private judge(length: number): Verdict {
    const { framing, held } = this;
    const { start } = framing;
    if (start && !this.overrun) {
      for (let n = 0; n < Math.min(start.length, length); n += 1) if (held[n] !== start[n]) return garbage;
    }
    switch (framing.kind) {
      case 'terminated':
        return this.judgeTerminated(framing.terminator, framing.after ?? 0, start?.length ?? 0);
      case 'fixed':
        if (framing.length > this.maxFrameBytes) return { is: 'overlong', length: framing.length };
        return length >= framing.length ? this.ending(framing.length, framing.end) : incomplete;
      case 'prefixed': {
        const head = framing.header + framing.width;
        if (length < head) return incomplete;
        const least = Math.max(head + (framing.end?.length ?? 0), 1);
        const counted = this.declared(framing) + (framing.uncounted ?? 0);
        const whole = Math.max(least, framing.counts === 'rest' ? head + counted : counted);
        if (whole > this.maxFrameBytes) return { is: 'overlong', length: whole };
        return length >= whole ? this.ending(whole, framing.end) : incomplete;
      }
    }
  }

  private judgeTerminated(terminator: Uint8Array, after: number, from: number): Verdict {
    // Bytes come one by one, but after a step on a terminator can be anywhere in what is held.
    const first = this.stepped ? from : Math.max(this.overrun ? 0 : from, this.length - terminator.length - after);
    for (let at = first; at + terminator.length + after <= this.length; at += 1) {
      if (terminator.every((byte, n) => this.held[at + n] === byte)) {
        return { is: 'whole', length: at + terminator.length + after };
      }
    }
    this.stepped = false;
    return incomplete;
  }

  private declared({ header, width, endian }: Extract<ByteFraming, { kind: 'prefixed' }>): number {
    let declared = 0;
    for (let n = 0; n < width; n += 1) {
      const at = endian === 'big' ? n : width - 1 - n;
      declared = declared * 256 + (this.held[header + at] ?? 0);
    }
    return declared;
  }

  private ending(length: number, end: Uint8Array | undefined): Verdict {
    const { held } = this;
    const isRight = end?.every((byte, n) => held[length - end.length + n] === byte) ?? true;
    return isRight ? { is: 'whole', length } : garbage;
  }

  private finish(length: number, frames: ByteFrame[]): void {
    const raw = this.held.slice(0, length);
    if (this.overrun) {
      // The end of a frame that was dropped before.
      this.overrun = false;
      this.dropping = false;
      return this.shift(length);
    }
    if (isIntact(raw, this.framing)) {
      this.dropping = false;
      this.isLastWrong = false;
      frames.push({ kind: 'frame', raw });
      return this.shift(length);
    }
    frames.push({ kind: 'dropped', code: 'checksum', raw });
    this.looks -= length;
    // Without a start mark the frame was probably cut rightly and is only damaged, unless the one before it was wrong, too.
    const isOutOfStep = this.framing.start !== undefined || this.isLastWrong;
    this.isLastWrong = true;
    if (this.framing.kind === 'terminated' || !isOutOfStep || this.looks <= 0) this.shift(length);
    else this.stepOn();
  }

  private dropGarbage(frames: ByteFrame[]): void {
    this.report({ kind: 'dropped', code: 'garbage' }, frames);
    this.looks -= this.framing.start ? 1 : this.length;
    if (this.looks > 0) this.stepOn();
    else this.shift(this.length);
  }

  private dropOverlong(whole: number, frames: ByteFrame[]): void {
    this.report({ kind: 'dropped', code: 'overlong' }, frames);
    if (this.framing.start) return this.stepOn();
    this.dropping = false;
    this.skip = whole - this.length;
    this.length = 0;
  }

  private report(frame: ByteFrame, frames: ByteFrame[]): void {
    if (!this.dropping) frames.push(frame);
    this.dropping = true;
  }

  /** Goes on at the next byte where a frame can begin. */
  private stepOn(): void {
    const [first] = this.framing.start ?? [];
    let at = 1;
    while (at < this.length && first !== undefined && this.held[at] !== first) at += 1;
    this.shift(at);
    this.stepped = true;
  }

  private shift(by: number): void {
    this.held.copyWithin(0, by, this.length);
    this.length -= by;
  }
}
