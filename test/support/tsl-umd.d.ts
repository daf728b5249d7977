declare module 'tsl-umd' {
  import type { Socket } from 'node:dgram';
  import type { EventEmitter } from 'node:events';

  /** Listens for UMD tally datagrams, version 3.1. */
  export default class UmdReceiver extends EventEmitter {
    readonly server: Socket;
    constructor(port: number);
  }
}

declare module 'tsl-umd-v5' {
  import type { EventEmitter } from 'node:events';

  /** Listens for UMD tally packets, version 5.0, and makes them. */
  export default class Umd5 extends EventEmitter {
    processTally(bytes: Buffer, source: string): void;
    constructPacket(tally: { screen: number; index: number; display: object }): Buffer;
  }
}
