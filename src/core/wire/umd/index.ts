export { decodeUmdV3, decodeUmdV5, encodeUmdV3, encodeUmdV5 } from './codec';
export type { UmdLamp, UmdV3Message, UmdV5Display, UmdV5Packet } from './messages';
export { v5Broadcast } from './wire';
