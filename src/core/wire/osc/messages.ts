/** Open Sound Control 1.0: what a packet holds. */

/** `i f s b` are the types of OSC 1.0; the others are those that it lists as often used. */
export type OscArgument =
  | { readonly type: 'i'; readonly value: number }
  | { readonly type: 'f'; readonly value: number }
  | { readonly type: 'd'; readonly value: number }
  | { readonly type: 's'; readonly value: string }
  | { readonly type: 'S'; readonly value: string }
  | { readonly type: 'b'; readonly value: Uint8Array }
  | { readonly type: 'h'; readonly value: bigint }
  | { readonly type: 't'; readonly value: bigint }
  | { readonly type: 'c'; readonly value: string }
  | { readonly type: 'r'; readonly value: number }
  | { readonly type: 'T' }
  | { readonly type: 'F' }
  | { readonly type: 'N' }
  | { readonly type: 'I' };

export interface OscMessage {
  readonly kind: 'message';
  readonly address: string;
  readonly args: readonly OscArgument[];
}

export interface OscBundle {
  readonly kind: 'bundle';
  /** NTP time, 32.32 fixed point; 1 means at once. */
  readonly timeTag: bigint;
  readonly elements: readonly OscPacket[];
}

export type OscPacket = OscMessage | OscBundle;

/** All messages of a packet, in order, whatever bundles they are in. */
export function messagesOf(packet: OscPacket): OscMessage[] {
  return packet.kind === 'message' ? [packet] : packet.elements.flatMap(messagesOf);
}
