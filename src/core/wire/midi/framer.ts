import { dataBytesOf } from './codec';
import { exclusiveEnd, exclusiveStart, firstRealTime } from './wire';

type MidiFrame =
  /** One message, with its status byte also where that was left out. */
  | { readonly kind: 'message'; readonly raw: Uint8Array }
  | { readonly kind: 'dropped'; readonly code: 'overlong' | 'stray'; readonly raw: Uint8Array };

/**
 * Cuts a stream of bytes into messages (MIDI 1.0, “Data format”): running status is filled in, real-time messages are told as they come, also from
 * inside another message, and a status byte ends whatever has not ended.
 */
export class MidiFramer {
  private status: number | undefined;
  private data: number[] = [];
  private isExclusive = false;
  private isOverlong = false;

  /** @param maxFrameBytes of an exclusive message, with F0 and F7 */
  constructor(private readonly maxFrameBytes: number) {}

  push(chunk: Uint8Array): MidiFrame[] {
    const frames: MidiFrame[] = [];
    for (const byte of chunk) this.take(byte, frames);
    return frames;
  }

  rest(): Uint8Array {
    return Uint8Array.from(this.isExclusive ? [exclusiveStart, ...this.data] : this.data);
  }

  private take(byte: number, frames: MidiFrame[]): void {
    if (byte >= firstRealTime) {
      if (dataBytesOf(byte) === undefined) frames.push({ kind: 'dropped', code: 'stray', raw: Uint8Array.of(byte) });
      else frames.push({ kind: 'message', raw: Uint8Array.of(byte) });
    } else if (byte >= 0x80) this.begin(byte, frames);
    else this.add(byte, frames);
  }

  private begin(status: number, frames: MidiFrame[]): void {
    const { data, isExclusive, isOverlong } = this;
    if (isExclusive && status === exclusiveEnd) {
      const raw = Uint8Array.of(exclusiveStart, ...data, exclusiveEnd);
      frames.push(isOverlong ? { kind: 'dropped', code: 'overlong', raw } : { kind: 'message', raw });
      return this.reset(undefined);
    }
    const isCut = isExclusive || data.length > 0;
    if (isCut) frames.push({ kind: 'dropped', code: 'stray', raw: this.rest() });
    const needed = dataBytesOf(status);
    if (status === exclusiveStart) {
      this.reset(undefined);
      this.isExclusive = true;
    } else if (needed === undefined) {
      // F7 without F0, or a status that MIDI 1.0 leaves undefined: what follows it belongs to nothing.
      frames.push({ kind: 'dropped', code: 'stray', raw: Uint8Array.of(status) });
      this.reset(undefined);
    } else if (needed === 0) {
      frames.push({ kind: 'message', raw: Uint8Array.of(status) });
      this.reset(undefined);
    } else this.reset(status);
  }

  private add(byte: number, frames: MidiFrame[]): void {
    if (this.isExclusive) {
      // F0 and F7 are two of them.
      if (this.data.length + 2 < this.maxFrameBytes) this.data.push(byte);
      else this.isOverlong = true;
      return;
    }
    const { status } = this;
    if (status === undefined) return void frames.push({ kind: 'dropped', code: 'stray', raw: Uint8Array.of(byte) });
    this.data.push(byte);
    if (this.data.length < (dataBytesOf(status) ?? 0)) return;
    frames.push({ kind: 'message', raw: Uint8Array.of(status, ...this.data) });
    // Only channel messages may leave their status out the next time.
    this.reset(status < 0xf0 ? status : undefined);
  }

  private reset(status: number | undefined): void {
    this.status = status;
    this.data = [];
    this.isExclusive = false;
    this.isOverlong = false;
  }
}
