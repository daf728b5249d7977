export { ByteFramer, type ByteFrame } from './framer';
export { behindCheck, checkWidth, isIntact, type ByteFraming, type FrameCheck } from './layout';
export { fromEscaped, toEscaped } from './typed';
