import type { ChecksumName } from '../checksum';
import type { LineEnding, TextEncodingName } from '../lines';

/** A checksum at the end of each frame. */
export interface FrameCheck {
  readonly algorithm: ChecksumName;
  readonly from: number;
}

/** How bytes become frames, as a driver names it. */
export type Framing =
  | {
      readonly kind: 'lines';
      readonly ending: LineEnding;
      readonly sends?: LineEnding | 'none';
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    }
  | { readonly kind: 'json-lines'; readonly maxFrameBytes: number }
  /** `terminator` in hexadecimal digits. */
  | {
      readonly kind: 'terminated';
      readonly terminator: string;
      readonly as: 'bytes' | 'text';
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    }
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
  /** What comes without a pause of `ms` milliseconds belongs together. */
  | {
      readonly kind: 'silence';
      readonly ms: number;
      readonly as: 'bytes' | 'text';
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    }
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
  | {
      readonly kind: 'http';
      readonly body: 'json' | 'text' | 'pairs' | 'none';
      readonly done?: '2xx' | '3xx' | 'any';
      readonly maxFrameBytes: number;
    };
