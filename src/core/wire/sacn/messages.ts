/** A packet of levels (ANSI E1.31, 6.2 and 7). */
export interface SacnPacket {
  /** Who sends: a UUID as its 16 bytes. */
  readonly cid: Uint8Array;
  readonly sourceName: string;
  /** 0 to 200; of several sources receivers take the highest. */
  readonly priority: number;
  /** 0 to 255, counting up. */
  readonly sequence: number;
  readonly isPreview: boolean;
  /** The source sends no more. */
  readonly isTerminated: boolean;
  /** 1 to 63,999. */
  readonly universe: number;
  /** 0 for levels. */
  readonly startCode: number;
  /** Up to 512 levels. */
  readonly slots: Uint8Array;
}
