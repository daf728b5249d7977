import WebSocket from 'ws';
import { causeOfSocketError, type DownCause } from '../../../core/session';
import { basicHeader, type Exchange, type Outgoing } from '../../../core/wire';
import type { DriverDocument } from '../../../core/driver';
import { alwaysHeaders, filledHeaders } from './always-headers';
import { maxUnsentBytes, stuck, type DeviceLink, type LinkAddress, type LinkEvents, type Written } from './link';

const utf8 = new TextDecoder();

/** One attempt at a WebSocket (RFC 6455), text or binary by what the driver's messages are. */
export class WebSocketLink implements DeviceLink {
  readonly proves = true;
  private readonly socket: WebSocket;
  private readonly binary: boolean;
  private ended = false;

  constructor(
    { host, port, user, password }: LinkAddress,
    { link, framing }: Pick<DriverDocument, 'link' | 'framing'>,
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
  ) {
    this.binary = framing.kind !== 'message' || framing.as === 'bytes';
    const name = host.includes(':') ? `[${host}]` : host;
    this.socket = new WebSocket(
      `${link.secure ? 'wss' : 'ws'}://${name}:${port}${link.path ?? '/'}`,
      !link.subprotocol ? [] : [link.subprotocol],
      {
        perMessageDeflate: false,
        maxPayload: framing.maxFrameBytes,
        handshakeTimeout: link.connectTimeoutMs,
        rejectUnauthorized: link.checkCertificate,
        headers: {
          ...filledHeaders(alwaysHeaders(link), { user, password }),
          ...(link.auth === 'none' || (user === '' && password === '')
            ? {}
            : { authorization: basicHeader(user, password) }),
        },
      },
    );
    this.socket.on('open', events.onOpen);
    this.socket.on('message', this.onMessage);
    this.socket.on('unexpected-response', (_request, response) => {
      const { statusCode } = response;
      response.resume();
      if (this.ended) return;
      this.close();
      if (statusCode === 401 || statusCode === 403) events.onRejected('locked out', `HTTP ${statusCode}`);
      else events.onEnd('wrong-greeting', `It answered with HTTP ${statusCode} instead of a WebSocket.`);
    });
    this.socket.on('error', this.onError);
    this.socket.on('close', this.onClose);
  }

  write(message: Outgoing, ref: number): Written {
    const bytes = this.exchange.write(message, ref);
    if (!bytes.ok) return { ok: false, stuck: false, reason: bytes.error };
    this.socket.send(this.binary ? bytes.value : utf8.decode(bytes.value));
    return this.socket.bufferedAmount > maxUnsentBytes ? stuck : { ok: true, bytes: bytes.value };
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
    if (this.ended) return;
    this.ended = true;
    this.socket.off('message', this.onMessage);
    this.socket.close(1000);
    // A peer that does not take part in the goodbye is not waited for.
    setTimeout(() => this.socket.terminate(), 500).unref();
  }

  private readonly onMessage = (data: WebSocket.RawData): void => {
    const bytes = Array.isArray(data) ? Buffer.concat(data) : new Uint8Array(data as ArrayBuffer);
    const frames = this.exchange.read(bytes);
    if (frames.length > 0) this.events.onArrived(frames);
  };
  private readonly onError = (error: NodeJS.ErrnoException): void => {
    if (error.code === 'WS_ERR_UNSUPPORTED_MESSAGE_LENGTH')
      this.end('other', 'A message was longer than the driver allows.');
    else this.end(causeOfSocketError(error.code), error.code ?? error.message);
  };
  private readonly onClose = (code: number): void =>
    this.end('closed', code === 1006 ? undefined : `close code ${code}`);

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}
