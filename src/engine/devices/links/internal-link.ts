import type { Exchange, Outgoing } from '../../../core/wire';
import type { DeviceLink, LinkAddress, LinkEvents, Written } from './link';

const utf8 = new TextDecoder();
const toUtf8 = new TextEncoder();

/** A connection to a service of this program. It carries the same bytes as one over a network would, without a socket. */
export class InternalLink implements DeviceLink {
  readonly proves = true;
  private readonly peer: ReturnType<NonNullable<LinkAddress['internal']>['connect']> | undefined;
  private isEnded = false;

  constructor(
    { internal }: LinkAddress,
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
  ) {
    // The session hears of it after it has the link in hand, as from a socket, and before the first message.
    queueMicrotask(() => {
      if (this.isEnded) return;
      if (internal) return events.onOpen();
      this.isEnded = true;
      events.onEnd('other', 'This service of the program is only at hand for devices of the rig.');
    });
    this.peer = internal?.connect((text) => this.heard(text));
  }

  write(message: Outgoing, ref: number): Written {
    const bytes = this.exchange.write(message, ref);
    if (!bytes.ok) return { ok: false, stuck: false, reason: bytes.error };
    const text = utf8.decode(bytes.value);
    queueMicrotask(() => {
      if (!this.isEnded) this.peer?.take(text);
    });
    return { ok: true, bytes: bytes.value };
  }

  forget(ref: number): void {
    this.exchange.forget(ref);
  }

  pause(): void {}
  resume(): void {}

  rest(): Uint8Array {
    return this.exchange.rest();
  }

  close(): void {
    if (this.isEnded) return;
    this.isEnded = true;
    this.peer?.close();
  }

  private heard(text: string): void {
    // What it says while a command is being written comes behind it, as over a network.
    queueMicrotask(() => {
      if (this.isEnded) return;
      this.events.onBytes();
      const frames = this.exchange.read(toUtf8.encode(text));
      if (frames.length > 0) this.events.onArrived(frames);
    });
  }
}
