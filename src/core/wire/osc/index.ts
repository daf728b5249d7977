export { decodeOsc, encodeOsc, oscLine, oscText } from './codec';
export { messagesOf, type OscArgument, type OscBundle, type OscMessage, type OscPacket } from './messages';
export { encodeSlip, SlipFramer } from './slip';
