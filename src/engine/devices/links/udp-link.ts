import { createSocket, type Socket } from 'node:dgram';
import { isIPv6 } from 'node:net';
import { causeOfSocketError, type DownCause } from '../../../core/session';
import type { DriverDocument } from '../../../core/driver';
import type { Exchange, Outgoing } from '../../../core/wire';
import type { DeviceLink, LinkAddress, LinkEvents, Written } from './link';
import { udpSocket } from './udp-socket';

/**
 * Datagrams to and from one device. The socket is connected, so that only the device is heard, and a closed port is told
 * where the system passes that on. With a local port of its own for the replies it is not, for they may come from anywhere
 * on the device.
 */
export class UdpLink implements DeviceLink {
  readonly proves = false;
  private readonly socket: Socket;
  private readonly localPort: number | undefined;
  private ended = false;

  constructor(
    private readonly address: LinkAddress,
    link: Pick<DriverDocument['link'], 'localPort' | 'delivery' | 'localAddress'>,
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
  ) {
    this.localPort = link.localPort;
    if (link.localPort === undefined) this.socket = udpSocket(address, link, this.events.onOpen);
    else {
      this.socket = createSocket({ type: isIPv6(address.host) ? 'udp6' : 'udp4' });
      this.socket.on('listening', this.events.onOpen);
      this.socket.bind(link.localPort);
    }
    this.socket.on('message', this.onMessage);
    this.socket.on('error', this.onError);
  }

  write(message: Outgoing, ref: number): Written {
    const bytes = this.exchange.write(message, ref);
    if (!bytes.ok) return { ok: false, stuck: false, reason: bytes.error };
    if (this.localPort === undefined) this.socket.send(bytes.value, this.onSent);
    else this.socket.send(bytes.value, this.address.port, this.address.host, this.onSent);
    return { ok: true, bytes: bytes.value };
  }

  forget(ref: number): void {
    this.exchange.forget(ref);
  }

  /** Datagrams cannot be held back; the session drops what it cannot read in time. */
  pause(): void {}
  resume(): void {}

  rest(): Uint8Array {
    return this.exchange.rest();
  }

  close(): void {
    if (this.ended) return;
    this.ended = true;
    this.socket.off('message', this.onMessage);
    try {
      this.socket.close();
    } catch {
      // It never came to be open.
    }
  }

  private readonly onMessage = (bytes: Uint8Array): void => {
    const frames = this.exchange.read(bytes);
    if (frames.length > 0 && !this.ended) this.events.onArrived(frames);
  };
  private readonly onSent = (error: NodeJS.ErrnoException | null): void => {
    if (error) this.onError(error);
  };
  private readonly onError = (error: NodeJS.ErrnoException): void =>
    this.end(causeOfSocketError(error.code), error.code);

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}
