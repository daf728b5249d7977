export { ByteFramer, type ByteFrame, type ByteFraming } from './framer';
export { fromEscaped, toEscaped } from './typed';
