export { encodeLine } from './codec';
export { LineFramer, type LineEnding, type LineFrame, type LineFramerOptions, type TextEncodingName } from './framer';
