export { ByteFramer, type ByteFrame, type ByteFraming } from './framer';
export { fromEscaped, toEscaped, type TypedError } from './typed';
