import { connect, type OnReadOpts, type Socket } from 'node:net';
import { connect as connectTls } from 'node:tls';
import type { DriverDocument } from '../../../core/driver';
import { causeOfSocketError, type DownCause } from '../../../core/session';
import type { Exchange, Outgoing } from '../../../core/wire';
import { maxUnsentBytes, stuck, type DeviceLink, type LinkAddress, type LinkEvents, type Written } from './link';
import { StreamReader } from './stream-reader';

/** How many bytes are read at once. */
const readBytes = 16 * 1024;
/** After this long without a byte the system probes the peer: ten times, a second apart, then the connection ends. */
const keepAliveMs = 5000;

/** One attempt at a TCP connection, plain or TLS. */
export class TcpLink implements DeviceLink {
  readonly proves = true;
  private readonly socket: Socket;
  private ended = false;
  private readonly streamReader: StreamReader;

  constructor(
    { host, port }: LinkAddress,
    private readonly link: Pick<DriverDocument['link'], 'secure' | 'checkCertificate' | 'tcpKeepAlive'>,
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
  ) {
    this.streamReader = new StreamReader(exchange, events);
    const { secure, checkCertificate } = link;
    // Devices sign their certificates themselves; unless it is checked, the connection is private and not proven.
    this.socket = secure
      ? connectTls({ host, port, rejectUnauthorized: checkCertificate })
      : connect({ host, port, noDelay: true, onread: this.reader() });
    this.socket.on(secure ? 'secureConnect' : 'connect', this.onConnect);
    if (secure) this.socket.on('data', this.onData);
    this.socket.on('error', this.onError);
    this.socket.on('close', this.onClose);
  }

  write(message: Outgoing, ref: number): Written {
    const bytes = this.exchange.write(message, ref);
    if (!bytes.ok) return { ok: false, stuck: false, reason: bytes.error };
    this.socket.write(bytes.value);
    return this.socket.writableLength > maxUnsentBytes ? stuck : { ok: true, bytes: bytes.value };
  }

  forget(ref: number): void {
    this.exchange.forget(ref);
  }

  pause(): void {
    this.socket.pause();
  }

  resume(): void {
    this.socket.resume();
  }

  rest(): Uint8Array {
    return this.exchange.rest();
  }

  close(): void {
    this.ended = true;
    this.streamReader.stop();
    // What was written last, a stop perhaps, still goes out; after a moment it is over either way.
    if (this.socket.connecting || this.socket.writableLength === 0) this.socket.destroy();
    else {
      this.socket.destroySoon();
      setTimeout(() => this.socket.destroy(), 500).unref();
    }
  }

  private readonly onConnect = (): void => {
    this.socket.setNoDelay(true);
    // A peer that is gone without a word, its cable pulled, is noticed although nobody asks it anything.
    this.socket.setKeepAlive(this.link.tcpKeepAlive, keepAliveMs);
    this.events.onOpen();
  };
  /**
   * Reads into memory that is used again and again, and copies what came to the shared pool: a buffer of its own for each
   * short report is what makes collections long.
   */
  private reader(): OnReadOpts {
    return {
      buffer: Buffer.allocUnsafeSlow(readBytes),
      callback: (count, buffer) => {
        this.onData(Buffer.from(buffer.subarray(0, count)));
        return true;
      },
    };
  }

  private readonly onData = (chunk: Uint8Array): void => this.streamReader.read(chunk);
  private readonly onError = (error: NodeJS.ErrnoException): void =>
    this.end(causeOfSocketError(error.code), error.code);
  private readonly onClose = (): void => this.end('closed');

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.streamReader.flush();
    this.close();
    this.events.onEnd(cause, detail);
  }
}
