export { decodeOsc, encodeOsc, oscText } from './codec';
export { messagesOf, type OscArgument, type OscMessage, type OscPacket } from './messages';
export { encodeSlip, SlipFramer } from './slip';
export { OscStream } from './stream';
