import type { DriverDocument } from '../../../core/driver';
import type { DownCause } from '../../../core/session';
import { makeExchange, type CutFraming, type Outgoing } from '../../../core/wire';
import type { DeviceLink, LinkAddress, LinkEvents, Written } from './link';
import { TcpLink } from './tcp-link';

/** A connection is closed this long after the last frame of an answer. */
const settledMs = 50;
const mostWaiting = 200;
const nothing = new Uint8Array();

interface Waiting {
  readonly message: Outgoing;
  readonly ref: number;
}

/**
 * A TCP connection for each message, one after the other: opened, answered, closed. The link itself counts as open at once; a device that is
 * not there is known when something is sent.
 */
export class BriefTcpLink implements DeviceLink {
  readonly proves = false;
  private readonly waiting: Waiting[] = [];
  private current: TcpLink | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private ended = false;

  constructor(
    private readonly address: LinkAddress,
    private readonly link: DriverDocument['link'],
    private readonly framing: CutFraming,
    private readonly isAnswered: boolean,
    private readonly events: LinkEvents,
  ) {
    setImmediate(() => !this.ended && events.onOpen());
  }

  write(message: Outgoing, ref: number): Written {
    if (this.waiting.length >= mostWaiting)
      return { ok: false, stuck: true, reason: 'Too many messages wait for a connection.' };
    const bytes = makeExchange(this.framing, true).write(message, ref);
    if (!bytes.ok) return { ok: false, stuck: false, reason: bytes.error };
    this.waiting.push({ message, ref });
    if (!this.current) this.next();
    return { ok: true, bytes: bytes.value };
  }

  forget(ref: number): void {
    const at = this.waiting.findIndex((each) => each.ref === ref);
    if (at >= 0) this.waiting.splice(at, 1);
  }

  pause(): void {
    this.current?.pause();
  }

  resume(): void {
    this.current?.resume();
  }

  rest(): Uint8Array {
    return this.current?.rest() ?? nothing;
  }

  close(): void {
    this.ended = true;
    clearTimeout(this.timer);
    this.current?.close();
    this.current = undefined;
    this.waiting.length = 0;
  }

  private next(): void {
    const now = this.waiting.shift();
    if (!now || this.ended) return;
    let isOpen = false;
    const connection = new TcpLink(this.address, this.link, makeExchange(this.framing, true), {
      onOpen: () => {
        isOpen = true;
        connection.write(now.message, now.ref);
        this.closeAfter(connection, this.isAnswered ? this.link.answerWithinMs : settledMs);
      },
      onArrived: (frames) => {
        this.events.onArrived(frames);
        this.closeAfter(connection, settledMs);
      },
      onBytes: this.events.onBytes,
      onRejected: this.events.onRejected,
      onEnd: (cause, detail) => {
        if (isOpen) this.done(connection);
        else this.end(cause, detail);
      },
    });
    this.current = connection;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.end('no-answer'), this.link.connectTimeoutMs);
  }

  private closeAfter(connection: TcpLink, ms: number): void {
    if (this.current !== connection) return;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.done(connection), ms);
  }

  private done(connection: TcpLink): void {
    if (this.current !== connection) return;
    clearTimeout(this.timer);
    this.current = undefined;
    connection.close();
    this.next();
  }

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}
