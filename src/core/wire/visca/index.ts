export { decodeViscaPacket, encodeViscaPacket, isInquiry, readViscaReply } from './codec';
export type { ViscaPacket, ViscaReply } from './messages';
export { ViscaPending } from './pending';
export { endByte, errorCodes, maxPayloadBytes, resetSequence, type ViscaPayloadType } from './wire';
