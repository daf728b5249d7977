export { checksums, type ChecksumName } from './checksum';
