import type { ByteFrame } from '../bytes';
import { encodeSlip, SlipFramer } from './slip';

/** END of SLIP, RFC 1055; as the first byte of a length it would declare a packet of 3 GB. */
const END = 0xc0;

/**
 * Cuts a stream of OSC packets whose sender has not said how it marks them: each behind its size as int32 (OSC 1.0, “OSC Packets”), or between END
 * bytes as SLIP (OSC 1.1). The first byte decides for the whole connection, also for what is sent back.
 */
export class OscStream {
  private slip: SlipFramer | undefined;
  private isChosen = false;
  private held = new Uint8Array(0);

  constructor(private readonly maxFrameBytes: number) {}

  /** A size that is too large ends in one dropped frame, and nothing more is read: where the next one begins is not known. */
  push(chunk: Uint8Array): ByteFrame[] {
    if (chunk.length === 0) return [];
    if (!this.isChosen) {
      this.isChosen = true;
      if (chunk[0] === END) this.slip = new SlipFramer(this.maxFrameBytes);
    }
    return this.slip ? this.slip.push(chunk) : this.pushSized(chunk);
  }

  encode(packet: Uint8Array): Uint8Array {
    if (this.slip) return encodeSlip(packet);
    const framed = new Uint8Array(4 + packet.length);
    new DataView(framed.buffer).setInt32(0, packet.length);
    framed.set(packet, 4);
    return framed;
  }

  private pushSized(chunk: Uint8Array): ByteFrame[] {
    const all = new Uint8Array(this.held.length + chunk.length);
    all.set(this.held);
    all.set(chunk, this.held.length);
    const frames: ByteFrame[] = [];
    const view = new DataView(all.buffer);
    let at = 0;
    while (all.length - at >= 4) {
      const size = view.getInt32(at);
      if (size < 0 || size > this.maxFrameBytes) {
        frames.push({ kind: 'dropped', code: 'overlong' });
        this.held = new Uint8Array(0);
        return frames;
      }
      if (all.length - at < 4 + size) break;
      if (size > 0) frames.push({ kind: 'frame', raw: all.slice(at + 4, at + 4 + size) });
      at += 4 + size;
    }
    this.held = all.slice(at);
    return frames;
  }
}
