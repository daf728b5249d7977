import { type ByteFrame } from '../bytes';

/** SLIP, RFC 1055: frames between END bytes, END and ESC inside them escaped. OSC 1.1 uses it over streams. */
const END = 0xc0;
const ESC = 0xdb;
const ESC_END = 0xdc;
const ESC_ESC = 0xdd;

/** A frame with an END before and behind it, so that noise on the line is flushed first (RFC 1055, “SLIP drivers”). */
export function encodeSlip(bytes: Uint8Array): Uint8Array {
  const out: number[] = [END];
  for (const byte of bytes) {
    if (byte === END) out.push(ESC, ESC_END);
    else if (byte === ESC) out.push(ESC, ESC_ESC);
    else out.push(byte);
  }
  out.push(END);
  return Uint8Array.from(out);
}

/** Cuts a SLIP stream into frames. Empty ones (two ENDs in a row) are passed over; a longer one than allowed is dropped. */
export class SlipFramer {
  private held: Uint8Array;
  private length = 0;
  private escaped = false;
  private bad: 'overlong' | 'garbage' | undefined;

  constructor(maxFrameBytes: number) {
    this.held = new Uint8Array(maxFrameBytes);
  }

  push(chunk: Uint8Array): ByteFrame[] {
    const frames: ByteFrame[] = [];
    for (const byte of chunk) {
      if (byte === END) this.finish(frames);
      else if (this.escaped) {
        this.escaped = false;
        if (byte === ESC_END) this.keep(END);
        else if (byte === ESC_ESC) this.keep(ESC);
        else this.bad ??= 'garbage';
      } else if (byte === ESC) this.escaped = true;
      else this.keep(byte);
    }
    return frames;
  }

  rest(): Uint8Array {
    return this.held.slice(0, this.length);
  }

  private keep(byte: number): void {
    if (this.length === this.held.length) {
      this.bad ??= 'overlong';
      return;
    }
    this.held[this.length] = byte;
    this.length += 1;
  }

  private finish(frames: ByteFrame[]): void {
    if (this.escaped) this.bad ??= 'garbage';
    if (this.bad) frames.push({ kind: 'dropped', code: this.bad });
    else if (this.length > 0) frames.push({ kind: 'frame', raw: this.rest() });
    this.length = 0;
    this.escaped = false;
    this.bad = undefined;
  }
}
