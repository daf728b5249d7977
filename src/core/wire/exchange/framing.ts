import type { ChecksumName } from '../checksum';
import type { LineEnding, TextEncodingName } from '../lines';

/** How bytes become frames, as a driver names it. */
/** A checksum at the end of each frame. */
export interface FrameCheck {
  readonly algorithm: ChecksumName;
  readonly from: number;
}

export type Framing =
  | {
      readonly kind: 'lines';
      readonly ending: LineEnding;
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    }
  | { readonly kind: 'json-lines'; readonly maxFrameBytes: number }
  /** `terminator` in hexadecimal digits. */
  | { readonly kind: 'terminated'; readonly terminator: string; readonly maxFrameBytes: number }
  | {
      readonly kind: 'fixed';
      readonly length: number;
      readonly start?: number;
      readonly check?: FrameCheck;
      readonly maxFrameBytes: number;
    }
  | {
      readonly kind: 'prefixed';
      readonly header: number;
      readonly width: 1 | 2 | 4;
      readonly endian: 'big' | 'little';
      readonly counts: 'rest' | 'all';
      readonly check?: FrameCheck;
      readonly maxFrameBytes: number;
    }
  /** No frames at all: each piece as it comes. */
  | { readonly kind: 'unframed'; readonly maxFrameBytes: number }
  /** The transport's own messages: a datagram, a WebSocket message. */
  | {
      readonly kind: 'message';
      readonly as: 'text' | 'json' | 'bytes';
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    }
  /** In datagrams, or in SLIP frames over a stream. */
  | { readonly kind: 'osc'; readonly maxFrameBytes: number }
  | { readonly kind: 'visca'; readonly header: boolean; readonly maxFrameBytes: number }
  | { readonly kind: 'modbus'; readonly maxFrameBytes: number }
  | { readonly kind: 'umd'; readonly version: '3.1' | '5.0'; readonly maxFrameBytes: number }
  | { readonly kind: 'http'; readonly body: 'json' | 'text' | 'pairs' | 'none'; readonly maxFrameBytes: number };
