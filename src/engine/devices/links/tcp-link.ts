import { connect, type OnReadOpts, type Socket } from 'node:net';
import { connect as connectTls } from 'node:tls';
import type { DriverDocument } from '../../../core/driver';
import { causeOfSocketError, type DownCause } from '../../../core/session';
import { ComPort, type ComPortNews, type Exchange, type Outgoing } from '../../../core/wire';
import { maxUnsentBytes, stuck, type DeviceLink, type LinkAddress, type LinkEvents, type Written } from './link';
import { listenForNotifications } from './notification-book';
import { StreamReader } from './stream-reader';

const nothing = new Uint8Array();
/** A gateway that speaks RFC 2217 answers within this time. */
const settingMs = 2000;
/** How many bytes are read at once. */
const readBytes = 16 * 1024;
/** After this long without a byte the system probes the peer: ten times, a second apart, then the connection ends. */
const keepAliveMs = 5000;

/** One attempt at a TCP connection, plain or TLS. */
export class TcpLink implements DeviceLink {
  readonly proves = true;
  private readonly socket: Socket;
  private ended = false;
  /** The serial port behind the connection, where it is set from here. */
  private readonly comPort: ComPort | undefined;
  private settingTimer: NodeJS.Timeout | undefined;
  private stopNotifications: (() => void) | undefined;
  private readonly streamReader: StreamReader;

  constructor(
    { host, port }: LinkAddress,
    private readonly link: Pick<
      DriverDocument['link'],
      'secure' | 'checkCertificate' | 'tcpKeepAlive' | 'comPort' | 'notifications'
    >,
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
    /** A conversation for one datagram; what it remembers of others would not be right. */
    private readonly forNotification?: () => Exchange,
  ) {
    this.streamReader = new StreamReader(exchange, events);
    this.comPort = link.comPort && new ComPort(link.comPort);
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
    this.socket.write(this.comPort?.escape(bytes.value) ?? bytes.value);
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
    clearTimeout(this.settingTimer);
    this.stopNotifications?.();
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
    const { remoteAddress } = this.socket;
    if (this.link.notifications !== 0 && remoteAddress !== undefined)
      this.stopNotifications = listenForNotifications(this.link.notifications, remoteAddress, this.onNotification);
    // A serial port is set before anything is said to the device behind it.
    if (this.comPort) {
      this.socket.write(this.comPort.hello());
      this.settingTimer = setTimeout(() => this.onComPort({ is: 'refused' }), settingMs);
    } else this.events.onOpen();
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

  private readonly onData = (chunk: Uint8Array): void => {
    if (this.comPort) this.readComPort(this.comPort, chunk);
    else this.streamReader.read(chunk);
  };
  private readonly onNotification = (message: Uint8Array): void => {
    const exchange = this.forNotification?.();
    if (!exchange) return;
    const frames = [...exchange.read(message), ...(exchange.flush?.() ?? [])];
    this.events.onArrived(frames.map((frame) => ({ ...frame, isNotification: true })));
  };
  private readonly onError = (error: NodeJS.ErrnoException): void =>
    this.end(causeOfSocketError(error.code), error.code);
  private readonly onClose = (): void => this.end('closed');

  private readComPort(port: ComPort, chunk: Uint8Array): void {
    const { data, answer, news } = port.read(chunk);
    if (answer.length > 0) this.socket.write(answer);
    for (const each of news) this.onComPort(each);
    if (data.length > 0) this.streamReader.read(data);
  }

  private onComPort(news: ComPortNews): void {
    if (this.ended) return;
    if (news.is !== 'different') clearTimeout(this.settingTimer);
    if (news.is === 'ready') return this.events.onOpen();
    if (news.is === 'different')
      return this.events.onArrived([{ raw: nothing, says: [], fault: `The gateway’s serial port has ${news.what}.` }]);
    this.end(
      'wrong-greeting',
      'The gateway does not support RFC 2217 on this port. Set the serial port at the gateway.',
    );
  }

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.streamReader.flush();
    this.close();
    this.events.onEnd(cause, detail);
  }
}
