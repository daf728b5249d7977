import type { ViscaPayloadType } from './wire';

/** What is in one datagram. */
export interface ViscaPacket {
  readonly type: ViscaPayloadType;
  /** 32 bits; a reply carries the number of what it answers. */
  readonly sequence: number;
  readonly payload: Uint8Array;
}

/** What a camera's payload says. A socket is one of the two places where a camera keeps commands that it is carrying out. */
export type ViscaReply =
  /** `90 4y FF`: a command was taken into socket y. */
  | { readonly kind: 'ack'; readonly socket: number }
  /** `90 5y FF`: the command in socket y is done. */
  | { readonly kind: 'completion'; readonly socket: number }
  /** `90 50 … FF`: the answer to an inquiry. */
  | { readonly kind: 'information'; readonly data: Uint8Array }
  /** `90 6y ee FF`: error ee; y is 0 when the command never got a socket. */
  | { readonly kind: 'error'; readonly socket: number; readonly code: string }
  | { readonly kind: 'other' };
