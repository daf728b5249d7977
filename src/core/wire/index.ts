export { ByteFramer, checkWidth, fromEscaped, toEscaped } from './bytes';
export { checksumNames, checksums, type ChecksumName } from './checksum';
export {
  acknowledgementBytes,
  arrivedFromEvent,
  arrivedFromHttp,
  arrivedFromMqtt,
  httpParts,
  EventStreamReader,
  isAcknowledgement,
  isCut,
  makeExchange,
  publishedBytes,
  type Answer,
  type Arrived,
  type CutFraming,
  type Exchange,
  type Framing,
  type HttpOutgoing,
  type MqttOutgoing,
  type Outgoing,
  type Said,
} from './exchange';
export { fromHex, toHex } from './hex';
export { atPointer, jsonText, parseJson, type Json } from './json';
export { encodeLine, LineFramer } from './lines';
export {
  decodeModbusRequest,
  encodeModbusResponse,
  maxAduBytes,
  type ModbusHeader,
  type ModbusRequest,
  type ModbusResponse,
} from './modbus';
export {
  decodeOsc,
  encodeOsc,
  encodeSlip,
  messagesOf,
  oscText,
  SlipFramer,
  type OscArgument,
  type OscMessage,
} from './osc';
export {
  decodeSacn,
  discoveryGroup,
  discoveryMs,
  DmxOutput,
  encodeSacn,
  encodeSacnUniverses,
  groupOfUniverse,
  keepAliveMs,
  maxPriority,
  maxSlots,
  maxUniverse,
  packetMs,
  repeats,
  terminations,
  type DmxChange,
  type SacnPacket,
} from './sacn';
export { decodeViscaPacket, encodeViscaPacket, isInquiry, readViscaReply } from './visca';
export { decodeUmdV3, decodeUmdV5, v5Broadcast, type UmdLamp, type UmdV3Message, type UmdV5Display } from './umd';
export { basicHeader, digestHeader, readChallenge, type DigestChallenge } from './digest';
export { ComPort, type ComPortNews } from './telnet';
export { maskSecrets } from './mask';
export { decodeMidi, encodeMidi, midiOf, midiText } from './midi';
export { deviceTimeIn, securityToken, soapContentType, soapEnvelope } from './soap';
export { escapeXml, readXml } from './xml';
