/**
 * UMD tally protocol, versions 3.1 and 5.0: the text under a picture of a multiviewer or a monitor, and how its lamps are lit.
 * It only goes one way.
 */

/** The lamp of a display in version 5.0 (CONTROL, two bits each). */
export type UmdLamp = 'off' | 'red' | 'green' | 'amber';

/** Version 3.1: one display. */
export interface UmdV3Message {
  /** 0 to 126. */
  readonly display: number;
  readonly tallies: readonly [boolean, boolean, boolean, boolean];
  /** 0 off, 1 a seventh, 2 half, 3 full. */
  readonly brightness: number;
  /** 16 ASCII characters at the most; without the blanks at its end. */
  readonly text: string;
}

/** Version 5.0: one display of a packet. */
export interface UmdV5Display {
  /** 0 to 65534; 65535 means all of them. */
  readonly display: number;
  readonly left: UmdLamp;
  readonly label: UmdLamp;
  readonly right: UmdLamp;
  /** 0 to 3. */
  readonly brightness: number;
  readonly text: string;
}

/** Version 5.0: a packet. */
export interface UmdV5Packet {
  /** 0 to 65534; 65535 means all of them. */
  readonly screen: number;
  readonly displays: readonly UmdV5Display[];
}
