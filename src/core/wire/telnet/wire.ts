/** Telnet (RFC 854, 855), its options for plain bytes (RFC 856, 858) and for a serial port behind it (RFC 2217). */

export const iac = 255;
export const command = { se: 240, sb: 250, will: 251, wont: 252, do: 253, dont: 254 } as const;
export const telnetOption = { binary: 0, suppressGoAhead: 3, comPort: 44 } as const;

/** RFC 2217, section 2: what the client says; the server answers with 100 more. */
export const comPort = { baudRate: 1, dataSize: 2, parity: 3, stopSize: 4, control: 5 } as const;
export const answerOffset = 100;
/** RFC 2217, section 3: the values of parity, stop size and flow control. */
export const parities = { N: 1, O: 2, E: 3, M: 4, S: 5 } as const;
export const stopSizes = { '1': 1, '2': 2, '1.5': 3 } as const;
export const flowControl = { none: 1, 'xon-xoff': 2, 'rts-cts': 3 } as const;
/** A longer subnegotiation is no serial port’s. */
export const maxSubnegotiation = 64;
