export { decodeSacn, encodeSacn, encodeSacnUniverses } from './codec';
export type { SacnPacket } from './messages';
export { DmxOutput, type DmxChange } from './output';
export {
  discoveryGroup,
  discoveryMs,
  groupOfUniverse,
  keepAliveMs,
  maxPriority,
  maxSlots,
  maxUniverse,
  packetMs,
  repeats,
  terminations,
} from './wire';
