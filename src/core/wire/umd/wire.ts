import type { UmdLamp } from './messages';

/** Version 3.1: HEADER (address + 0x80), CTRL, sixteen characters. */
export const v3FrameBytes = 18;
export const v3MaxDisplay = 126;
export const v3TextBytes = 16;
export const v3HeaderBit = 0x80;

/** Version 5.0: `PBC VER FLAGS SCREEN`, then for each display `INDEX CONTROL LENGTH TEXT`; all numbers little-endian. */
export const v5MaxPacketBytes = 2048;
export const v5Version = 0;
/** FLAGS: the texts are UTF-16LE instead of ASCII. */
export const v5UnicodeFlag = 0x01;
/** FLAGS: the packet holds control data of the screen, which no one has defined. */
export const v5ScreenControlFlag = 0x02;
/** CONTROL: control data instead of a text, likewise undefined. */
export const v5ControlDataBit = 0x8000;
/** SCREEN and INDEX: everybody. */
export const v5Broadcast = 0xffff;
export const v5Shift = { right: 0, label: 2, left: 4, brightness: 6 } as const;
/** Two bits of CONTROL, by their value. */
export const v5Lamps: readonly UmdLamp[] = ['off', 'red', 'green', 'amber'];
