/** The messages of MIDI 1.0 (Detailed Specification 4.2.1), table 1 to 3 and “Summary of MIDI messages”. */

/** Channel messages by the upper four bits of their status byte, with the number of their data bytes. */
export const channelMessages = {
  noteOff: { status: 0x8, data: 2 },
  noteOn: { status: 0x9, data: 2 },
  keyPressure: { status: 0xa, data: 2 },
  control: { status: 0xb, data: 2 },
  program: { status: 0xc, data: 1 },
  pressure: { status: 0xd, data: 1 },
  /** One value of 14 bits, its lower seven bits first. */
  bend: { status: 0xe, data: 2 },
} as const;
export type ChannelMessage = keyof typeof channelMessages;

/** System common and real-time messages by their status byte, with the number of their data bytes. */
export const systemMessages = {
  quarterFrame: { status: 0xf1, data: 1 },
  songPosition: { status: 0xf2, data: 2 },
  songSelect: { status: 0xf3, data: 1 },
  tuneRequest: { status: 0xf6, data: 0 },
  clock: { status: 0xf8, data: 0 },
  start: { status: 0xfa, data: 0 },
  continue: { status: 0xfb, data: 0 },
  stop: { status: 0xfc, data: 0 },
  activeSensing: { status: 0xfe, data: 0 },
  reset: { status: 0xff, data: 0 },
} as const;
export type SystemMessage = keyof typeof systemMessages;

export const exclusiveStart = 0xf0;
export const exclusiveEnd = 0xf7;
/** Status bytes from here on are real-time messages: they may stand inside any other message. */
export const firstRealTime = 0xf8;
