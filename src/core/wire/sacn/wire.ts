/**
 * Streaming ACN, ANSI E1.31-2018: layouts and numbers.
 *
 * ```
 * 0    root layer (5)      preamble 0010, postamble 0000, "ASC-E1.17", length, vector, CID (16 bytes)
 * 38   framing layer (6)   length, vector, source name (64), priority, synchronisation, sequence, options, universe
 * 115  DMP layer (7)       length, vector, type A1, first address 0, increment 1, count, start code, slots
 * ```
 * All numbers are big-endian; a length holds its four high bits 7 and counts from itself to the end of the packet.
 */

/** 5.3: the packet identifier. */
export const acnIdentifier = Uint8Array.from([0x41, 0x53, 0x43, 0x2d, 0x45, 0x31, 0x2e, 0x31, 0x37, 0, 0, 0]);
export const preambleBytes = 0x0010;
/** 5.5: the root vectors of data and of everything else. */
export const rootData = 0x00000004;
export const rootExtended = 0x00000008;
/** 6.1 and 6.4: the framing vectors. */
export const framingData = 0x00000002;
export const framingDiscovery = 0x00000002;
/** 7: the fixed fields of the DMP layer. */
export const dmpSetProperty = 0x02;
export const dmpAddressType = 0xa1;
/** 8: the vector of a list of universes. */
export const universeList = 0x00000001;
export const sourceNameBytes = 64;
export const cidBytes = 16;
export const rootBytes = 38;
export const framingBytes = 77;
export const maxSlots = 512;
/** 6.2.3 */
export const maxPriority = 200;
/** 6.2.6: the bits of the options field. */
export const option = { preview: 0x80, terminated: 0x40, forceSync: 0x20 } as const;
/** 6.2.7 */
export const maxUniverse = 63_999;
/** 6.6.1 with ANSI E1.11: a full universe 44 times a second at the most. */
export const packetMs = 1000 / 44;
/** 6.6.2: levels that do not change are sent three times and then once a second. */
export const repeats = 3;
export const keepAliveMs = 900;
/** 6.2.6: the packets that say that a source ends. */
export const terminations = 3;
/** 4.3: sources list their universes this often. */
export const discoveryMs = 10_000;
/** 9.3.1, table 9-10: the group to which they do. */
export const discoveryGroup = '239.255.250.214';

/** 9.3.1: the multicast group of a universe. */
export const groupOfUniverse = (universe: number): string => `239.255.${universe >> 8}.${universe & 0xff}`;
