import type { DownCause } from '../../../core/session';
import type { Arrived, Outgoing } from '../../../core/wire';

/** What a link tells its session. None of these may throw. */
export interface LinkEvents {
  /** Messages can be handed over. */
  readonly onOpen: () => void;
  readonly onArrived: (frames: readonly Arrived[]) => void;
  /** Bytes of a stream have come, whether or not they complete a frame. */
  readonly onBytes: () => void;
  /** The device turned the connection itself away. */
  readonly onRejected: (as: 'locked out' | 'occupied', detail?: string) => void;
  /** Once: it is over, or never came about. */
  readonly onEnd: (cause: DownCause, detail?: string) => void;
}

/** What starts or stops a movement keeps its order apart from everything else, so that a stop waits only for its own start. */
export type Lane = 'movements' | 'others';

export type Written =
  | { readonly ok: true; readonly bytes: Uint8Array }
  /** `stuck`: the device has not been reading for too long; the connection has to end. */
  | { readonly ok: false; readonly stuck: boolean; readonly reason: string };

/** One attempt at a connection, from dialling to its end, whatever the transport. */
export interface DeviceLink {
  /** True when a connection was made; a datagram socket that is open proves nothing. */
  readonly proves: boolean;
  /** @param lane what is written in one lane reaches the device in that order, where the transport would not keep it by itself */
  write(message: Outgoing, ref: number, lane?: Lane): Written;
  /** Nobody waits for this answer any more. */
  forget(ref: number): void;
  /** Stops reading until `resume`, where the transport can. */
  pause(): void;
  resume(): void;
  /** The beginning of a frame that has not ended. */
  rest(): Uint8Array;
  /** Ends it at once, without a further event. May be called twice. */
  close(): void;
}

/** A service of this program that is spoken to like a device. */
export interface InternalEnd {
  /** Connects to it. @param say takes what it says, in whole lines */
  connect(say: (text: string) => void): { readonly take: (text: string) => void; readonly close: () => void };
}

export interface LinkAddress {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly password: string;
  /** For the link “internal”: what it leads to. */
  readonly internal?: InternalEnd | undefined;
}

export const maxUnsentBytes = 256 * 1024;
export const stuck: Written = { ok: false, stuck: true, reason: 'The device does not take bytes any more.' };
