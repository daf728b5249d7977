/**
 * Checksums as devices use them. Each takes bytes and gives a whole number; how many bytes that fills is in `width`.
 *
 * `crc16modbus`: MODBUS over Serial Line 1.02, 6.2.2 (polynomial 0xA001 reflected, start 0xFFFF). `crc16ccitt`: ITU-T
 * polynomial 0x1021, start 0xFFFF, not reflected. `crc32`: IEEE 802.3, 3.2.9 (0xEDB88320 reflected, start and end inverted).
 */
export const checksumNames = ['sum8', 'sum8neg', 'sum16', 'xor8', 'crc16modbus', 'crc16ccitt', 'crc32'] as const;
export type ChecksumName = (typeof checksumNames)[number];

export const checksums: Readonly<
  Record<ChecksumName, { readonly width: 1 | 2 | 4; readonly of: (bytes: Uint8Array) => number }>
> = {
  /** The sum of the bytes, modulo 256. */
  sum8: { width: 1, of: (bytes) => sum(bytes) & 0xff },
  /** What brings the sum to zero, modulo 256. */
  sum8neg: { width: 1, of: (bytes) => -sum(bytes) & 0xff },
  sum16: { width: 2, of: (bytes) => sum(bytes) & 0xffff },
  xor8: { width: 1, of: (bytes) => bytes.reduce((all, byte) => all ^ byte, 0) },
  crc16modbus: { width: 2, of: (bytes) => reflected(bytes, 0xa001, 0xffff) },
  crc16ccitt: { width: 2, of: crc16ccitt },
  crc32: { width: 4, of: (bytes) => (reflected(bytes, 0xedb88320, 0xffffffff) ^ 0xffffffff) >>> 0 },
};

function sum(bytes: Uint8Array): number {
  let total = 0;
  for (const byte of bytes) total += byte;
  return total;
}

function reflected(bytes: Uint8Array, polynomial: number, start: number): number {
  let crc = start;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit += 1) crc = crc & 1 ? (crc >>> 1) ^ polynomial : crc >>> 1;
  }
  return crc >>> 0;
}

function crc16ccitt(bytes: Uint8Array): number {
  let crc = 0xffff;
  for (const byte of bytes) {
    crc ^= byte << 8;
    for (let bit = 0; bit < 8; bit += 1) crc = (crc & 0x8000 ? (crc << 1) ^ 0x1021 : crc << 1) & 0xffff;
  }
  return crc;
}
