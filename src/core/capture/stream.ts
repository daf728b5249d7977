import type { Segment } from './segment';

/** Bytes that a receiver would read, in order. */
export interface Piece {
  readonly at: number;
  readonly bytes: Uint8Array;
  /** Bytes in front of it are missing in the capture. */
  readonly missing: number;
}

/** What may wait for a missing segment: more than any window in such a network. */
const mostHeld = 256;

/**
 * One direction of a TCP connection: puts its segments in order (RFC 9293, 3.4), drops what was sent twice, and goes on behind what the capture
 * lacks.
 */
export class TcpStream {
  private next: number | undefined;
  private held: Segment[] = [];

  push(segment: Segment): Piece[] {
    const { sequence, isOpening, payload } = segment;
    if (isOpening) {
      const before = this.flush();
      this.next = (sequence + 1) >>> 0;
      return before;
    }
    if (payload.length === 0) return [];
    this.next ??= sequence;
    this.held.push(segment);
    const pieces = this.inOrder();
    return this.held.length > mostHeld ? [...pieces, ...this.goOn()] : pieces;
  }

  /** What still waits: the capture has ended. */
  flush(): Piece[] {
    const pieces: Piece[] = [];
    while (this.held.length > 0) pieces.push(...this.goOn());
    return pieces;
  }

  private inOrder(missing = 0): Piece[] {
    const pieces: Piece[] = [];
    for (;;) {
      const n = this.held.findIndex((each) => this.ahead(each) <= 0);
      const [segment] = n === -1 ? [] : this.held.splice(n, 1);
      if (!segment) return pieces;
      const known = -this.ahead(segment);
      if (known >= segment.payload.length) continue;
      pieces.push({ at: segment.at, bytes: segment.payload.subarray(known), missing });
      missing = 0;
      this.next = (segment.sequence + segment.payload.length) >>> 0;
    }
  }

  /** Goes on at the next segment that there is. */
  private goOn(): Piece[] {
    const nearest = this.held.reduce((a, b) => (this.ahead(b) < this.ahead(a) ? b : a));
    const missing = this.ahead(nearest);
    this.next = nearest.sequence;
    return this.inOrder(missing);
  }

  /** How many bytes lie between what was read and this segment; negative for what was read already. Numbers wrap at 2^32. */
  private ahead({ sequence }: Segment): number {
    return (sequence - (this.next ?? sequence)) | 0;
  }
}
