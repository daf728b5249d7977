/**
 * VISCA over IP: messages of a serial camera protocol, each in a datagram behind a header of eight bytes.
 *
 * ```
 *  01 00 | 00 06 | 00 00 00 07 | 81 01 04 07 02 FF
 *  type    length  sequence      payload, up to FF
 * ```
 */
export const payloadTypes = {
  command: 0x0100,
  inquiry: 0x0110,
  reply: 0x0111,
  setting: 0x0120,
  control: 0x0200,
  controlReply: 0x0201,
} as const;

export type ViscaPayloadType = keyof typeof payloadTypes;

export const headerBytes = 8;
/** The longest payload: 16 bytes, the FF at its end included. */
export const maxPayloadBytes = 16;
export const endByte = 0xff;

/** Control command that starts the counting of sequence numbers anew. */
export const resetSequence = Uint8Array.of(0x01);
