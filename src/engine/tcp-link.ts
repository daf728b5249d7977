import { connect, type Socket } from 'node:net';
import { causeOfSocketError, type DownCause } from '../core/session';

export interface TcpLinkEvents {
  readonly onOpen: () => void;
  readonly onChunk: (chunk: Uint8Array) => void;
  /** Once: the connection is over, or was never made. */
  readonly onEnd: (cause: DownCause, detail?: string) => void;
}

/** One attempt at a TCP connection, from dialling to its end. */
export class TcpLink {
  private readonly socket: Socket;
  private ended = false;

  constructor(
    host: string,
    port: number,
    private readonly maxUnsentBytes: number,
    private readonly events: TcpLinkEvents,
  ) {
    this.socket = connect({ host, port, noDelay: true });
    this.socket.on('connect', events.onOpen);
    this.socket.on('data', events.onChunk);
    this.socket.on('error', this.onError);
    this.socket.on('close', this.onClose);
  }

  /** Hands bytes to the operating system; false when the peer has not been reading for too long. */
  write(bytes: Uint8Array): boolean {
    this.socket.write(bytes);
    return this.socket.writableLength <= this.maxUnsentBytes;
  }

  pause(): void {
    this.socket.pause();
  }

  resume(): void {
    this.socket.resume();
  }

  /** Ends it at once, without a further event. May be called twice. */
  close(): void {
    this.ended = true;
    this.socket.off('connect', this.events.onOpen);
    this.socket.off('data', this.events.onChunk);
    this.socket.destroy();
  }

  private readonly onError = (error: NodeJS.ErrnoException): void =>
    this.end(causeOfSocketError(error.code), error.code);
  private readonly onClose = (): void => this.end('closed');

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}
