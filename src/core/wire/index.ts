export { ByteFramer, fromEscaped, toEscaped, type ByteFrame, type ByteFraming, type TypedError } from './bytes';
export { checksums, type ChecksumName } from './checksum';
export type { DecodeError } from './decode-error';
export {
  arrivedFromEvent,
  arrivedFromHttp,
  EventStreamReader,
  makeExchange,
  type Answer,
  type Arrived,
  type Exchange,
  type Framing,
  type FramingKind,
  type HttpOutgoing,
  type Outgoing,
  type Said,
} from './exchange';
export { fromHex, toHex } from './hex';
export { atPointer, jsonText, parseJson, type Json } from './json';
export {
  encodeLine,
  LineFramer,
  type LineEncodeError,
  type LineEnding,
  type LineFrame,
  type LineFramerOptions,
  type TextEncodingName,
} from './lines';
export {
  decodeModbusRequest,
  encodeModbusResponse,
  maxAduBytes,
  type ModbusHeader,
  type ModbusRequest,
  type ModbusResponse,
  type ModbusTable,
} from './modbus';
export {
  decodeOsc,
  encodeOsc,
  encodeSlip,
  messagesOf,
  oscLine,
  oscText,
  SlipFramer,
  type OscArgument,
  type OscMessage,
  type OscPacket,
} from './osc';
export {
  decodeViscaPacket,
  encodeViscaPacket,
  isInquiry,
  readViscaReply,
  type ViscaPacket,
  type ViscaReply,
} from './visca';
export {
  decodeUmdV3,
  decodeUmdV5,
  encodeUmdV3,
  encodeUmdV5,
  v5Broadcast,
  type UmdLamp,
  type UmdV3Message,
  type UmdV5Display,
  type UmdV5Packet,
} from './umd';
export { basicHeader, digestHeader, readChallenge, type DigestChallenge, type DigestRequest } from './digest';
export { maskSecrets } from './mask';
