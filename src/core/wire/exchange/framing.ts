import type { FrameCheck } from '../bytes';
import type { LineEnding, TextEncodingName } from '../lines';

/** What marks each frame: the bytes that begin it, in hexadecimal digits or as one number, and its checksum. */
interface Marks {
  readonly start?: number | string;
  readonly check?: FrameCheck;
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
  /** `terminator` in hexadecimal digits; `after` bytes behind it still belong to the frame. */
  | (Marks & {
      readonly kind: 'terminated';
      readonly terminator: string;
      readonly after?: number;
      readonly as: 'bytes' | 'text';
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    })
  | (Marks & {
      readonly kind: 'fixed';
      readonly length: number;
      /** In hexadecimal digits: the bytes that end each frame. */
      readonly end?: string;
      readonly maxFrameBytes: number;
    })
  | (Marks & {
      readonly kind: 'prefixed';
      readonly header: number;
      readonly width: 1 | 2 | 4;
      readonly endian: 'big' | 'little';
      readonly counts: 'rest' | 'all';
      /** Messages are sent with their length in front. */
      readonly sends?: 'nothing' | 'length';
      readonly uncounted?: number;
      readonly end?: string;
      /** What is read in a frame: hexadecimal digits of all of it, or the text between length field, checksum and end. */
      readonly as?: 'bytes' | 'text';
      readonly encoding?: TextEncodingName;
      readonly maxFrameBytes: number;
    })
  /** No frames at all: each piece as it comes. */
  | { readonly kind: 'unframed'; readonly maxFrameBytes: number }
  /** What comes without a pause of `ms` milliseconds belongs together. */
  | {
      readonly kind: 'silence';
      readonly ms: number;
      readonly check?: FrameCheck;
      readonly as: 'bytes' | 'text';
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    }
  /** The transport's own messages: a datagram, a WebSocket message. */
  | {
      readonly kind: 'message';
      readonly as: 'text' | 'json' | 'bytes';
      readonly check?: FrameCheck;
      readonly encoding: TextEncodingName;
      readonly maxFrameBytes: number;
    }
  /** In datagrams; over a stream in SLIP frames, or behind a length. */
  | { readonly kind: 'osc'; readonly over?: 'slip' | 'length'; readonly maxFrameBytes: number }
  | { readonly kind: 'visca'; readonly header: boolean; readonly maxFrameBytes: number }
  | { readonly kind: 'modbus'; readonly maxFrameBytes: number }
  | { readonly kind: 'umd'; readonly version: '3.1' | '5.0'; readonly maxFrameBytes: number }
  /** Messages of MIDI, from one channel or (0) from all. */
  | { readonly kind: 'midi'; readonly channel?: number; readonly maxFrameBytes: number }
  | { readonly kind: 'mqtt'; readonly maxFrameBytes: number }
  /** Levels of one universe: sent again and again, and never answered. */
  | {
      readonly kind: 'sacn';
      readonly universe: number;
      readonly priority: number;
      readonly sourceName: string;
      /** What is sent before the first level: nothing, or every channel at zero. */
      readonly begins: 'nothing' | 'zeros';
      readonly maxFrameBytes: number;
    }
  | {
      readonly kind: 'http';
      readonly body: 'json' | 'xml' | 'text' | 'pairs' | 'none';
      /** XML: elements that are read as lists, also when there is only one. */
      readonly lists?: readonly string[];
      /** XML: the prefixes that messages in SOAP envelopes use. */
      readonly namespaces?: Readonly<Record<string, string>>;
      readonly done?: '2xx' | '3xx' | 'any';
      readonly maxFrameBytes: number;
    };

/** The framings whose frames we cut ourselves: those of HTTP and MQTT their libraries cut, and a universe of levels has none to read. */
export type CutFraming = Exclude<Framing, { kind: 'http' | 'mqtt' | 'sacn' }>;

export const isCut = (framing: Framing): framing is CutFraming =>
  framing.kind !== 'http' && framing.kind !== 'mqtt' && framing.kind !== 'sacn';
