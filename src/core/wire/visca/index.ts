export { decodeViscaPacket, encodeViscaPacket, isInquiry, readViscaReply } from './codec';
export type { ViscaPacket } from './messages';
export { ViscaPending } from './pending';
export { endByte, maxPayloadBytes, resetSequence } from './wire';
