/** The package names its types outside its exports, where they are not found. */
declare module 'rpc-websockets' {
  import type { EventEmitter } from 'node:events';
  import type { WebSocketServer } from 'ws';

  export class Server extends EventEmitter {
    readonly wss: WebSocketServer;
    constructor(options: { readonly port: number; readonly host: string });
    register(method: string, answer: (params: unknown) => unknown): void;
    close(): Promise<void>;
  }

  /** Notifications of the server are events under the name of their method. */
  export class Client extends EventEmitter {
    constructor(address: string, options?: { readonly reconnect?: boolean });
    call(method: string, params?: object): Promise<unknown>;
    close(): void;
  }
}
