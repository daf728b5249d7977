export { checksumNames, checksums, type ChecksumName } from './checksum';
