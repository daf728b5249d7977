import { checksums, type ChecksumName } from '../checksum';

/** A checksum over each frame, right before the bytes that end it. */
export interface FrameCheck {
  readonly algorithm: ChecksumName | 'none';
  /** The first byte that it covers; everything up to the checksum follows. */
  readonly from: number;
  /** The order of its bytes; big where nothing is said. */
  readonly endian?: 'big' | 'little';
  /** As bytes, or as capital or small hexadecimal digits. */
  readonly as?: 'bytes' | 'hex';
}

/** What marks every frame, whatever tells its length. */
export interface FrameMarks {
  /** The bytes that begin each frame. */
  readonly start?: Uint8Array;
  readonly check?: FrameCheck;
}

/**
 * Raw bytes over a stream, cut in one of three ways.
 *
 * ```
 *  terminated   [start] .. .. ..  03 [after]              the terminator ends the frame
 *  fixed        [start] .. .. ..  [check] [end]           a set number of bytes
 *  prefixed     [start] hh nn nn  .. .. [check] [end]     header, length field, then what the length says
 * ```
 */
export type ByteFraming = FrameMarks &
  (
    | {
        readonly kind: 'terminated';
        readonly terminator: Uint8Array;
        /** Bytes behind the terminator that still belong to the frame: a checksum. */
        readonly after?: number;
      }
    | { readonly kind: 'fixed'; readonly length: number; readonly end?: Uint8Array }
    | {
        readonly kind: 'prefixed';
        /** Bytes before the length field, those of `start` among them. */
        readonly header: number;
        readonly width: 1 | 2 | 4;
        readonly endian: 'big' | 'little';
        /** What the length counts: what follows it, or the whole frame. */
        readonly counts: 'rest' | 'all';
        /** Bytes of the frame that the length leaves out; negative where it counts some of what stands before it. */
        readonly uncounted?: number;
        readonly end?: Uint8Array;
      }
  );

/** How many bytes a checksum fills in a frame. */
export const checkWidth = ({ algorithm, as }: FrameCheck): number =>
  algorithm === 'none' ? 0 : checksums[algorithm].width * (as === 'hex' ? 2 : 1);

/** The bytes of a frame behind its checksum. */
export function behindCheck(framing: ByteFraming | Pick<FrameMarks, 'check'>): number {
  if (!('kind' in framing)) return 0;
  if (framing.kind === 'terminated') return framing.after ? 0 : framing.terminator.length;
  return framing.end?.length ?? 0;
}

/** True when the checksum of a whole frame is right, or there is none. In a datagram it is the last thing. */
export function isIntact(raw: Uint8Array, framing: ByteFraming | Pick<FrameMarks, 'check'>): boolean {
  const { check } = framing;
  if (!check || check.algorithm === 'none') return true;
  const end = raw.length - behindCheck(framing);
  const at = end - checkWidth(check);
  if (at < check.from) return false;
  const said = saidBy(raw.subarray(at, end), check);
  return said === checksums[check.algorithm].of(raw.subarray(check.from, at));
}

function saidBy(bytes: Uint8Array, { as, endian }: FrameCheck): number {
  if (as === 'hex') {
    const digits = String.fromCharCode(...bytes);
    return /^[0-9A-Fa-f]+$/.test(digits) ? parseInt(digits, 16) : -1;
  }
  const inOrder = endian === 'little' ? bytes.slice().reverse() : bytes;
  return inOrder.reduce((all, byte) => all * 256 + byte, 0);
}
