import type { DecodeError } from './decode-error';

/**
 * Reads inside exactly one frame. After the first fault every further read gives zero or nothing and changes nothing, so
 * that a decoder reads straight on and looks at `error` once, at the end. It never throws.
 */
export class ByteReader {
  private at = 0;
  private fault: DecodeError | undefined;
  private readonly view: DataView;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get offset(): number {
    return this.at;
  }

  get left(): number {
    return this.fault ? 0 : this.bytes.length - this.at;
  }

  get error(): DecodeError | undefined {
    return this.fault;
  }

  /** Marks the frame as bad; the first fault wins. */
  reject(code: DecodeError['code'], message: string, offset = this.at): void {
    this.fault ??= { code, offset, message };
  }

  u8(): number {
    return this.read(1, (at) => this.view.getUint8(at));
  }

  u16(): number {
    return this.read(2, (at) => this.view.getUint16(at));
  }

  u32(): number {
    return this.read(4, (at) => this.view.getUint32(at));
  }

  i32(): number {
    return this.read(4, (at) => this.view.getInt32(at));
  }

  i64(): bigint {
    return this.read(8, (at) => this.view.getBigInt64(at)) || 0n;
  }

  f32(): number {
    return this.read(4, (at) => this.view.getFloat32(at));
  }

  f64(): number {
    return this.read(8, (at) => this.view.getFloat64(at));
  }

  take(count: number): Uint8Array {
    if (this.fault || count > this.left) {
      this.reject('short', `${count} bytes are wanted here; ${this.left} are left.`);
      return nothing;
    }
    const part = this.bytes.subarray(this.at, this.at + count);
    this.at += count;
    return part;
  }

  /** Bytes that are left over are a fault. */
  end(): void {
    if (this.left > 0) this.reject('left-over', `${this.left} bytes are left over.`);
  }

  private read<T extends number | bigint>(count: number, get: (at: number) => T): T {
    if (this.fault || this.left < count) {
      this.reject('short', `${count} bytes are wanted here; ${this.left} are left.`);
      return 0 as T;
    }
    const value = get(this.at);
    this.at += count;
    return value;
  }
}

const nothing = new Uint8Array();
