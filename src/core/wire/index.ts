export {
  encodeLine,
  LineFramer,
  type LineEncodeError,
  type LineEnding,
  type LineFrame,
  type LineFramerOptions,
  type TextEncodingName,
} from './lines';
