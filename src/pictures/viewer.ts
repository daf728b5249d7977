import type { WebSocket } from 'ws';
import { encodePicture, viewerMessageSchema, type RelayMessage } from '../core/picture';
import type { Relay } from './relay';

interface Shown {
  width: number;
  /** The number of the picture that was sent last. */
  sent: number;
  /** One is on its way or being drawn. */
  isBusy: boolean;
  /** A newer one is there meanwhile. */
  isBehind: boolean;
  /** The source has gone on handing out the picture that was sent last, until this time. */
  sameAt?: number;
}

/** Above what 100 pictures at 25 a second need; a screen that says more is not one of ours. */
const mostMessagesASecond = 4000;

/**
 * One screen. It is sent the newest picture of each source that it shows, and the next only when it has drawn that one: a slow screen shows fewer
 * pictures, never older ones.
 */
export class Viewer {
  private readonly shown = new Map<string, Shown>();
  private heard = 0;
  private readonly budget: NodeJS.Timeout;

  constructor(
    private readonly socket: WebSocket,
    private readonly relay: Relay,
  ) {
    this.budget = setInterval(() => (this.heard = 0), 1000);
    socket.on('message', (data) => this.onMessage(String(data)));
    socket.on('close', () => {
      clearInterval(this.budget);
      relay.leave(this);
    });
    // The close that follows says it all.
    socket.on('error', () => undefined);
    relay.enter(this);
    this.say({ t: 'hello', now: Date.now() });
  }

  get keys(): Iterable<string> {
    return this.shown.keys();
  }

  widthOf(key: string): number {
    return this.shown.get(key)?.width ?? 0;
  }

  say(message: RelayMessage): void {
    if (this.socket.readyState === this.socket.OPEN) this.socket.send(JSON.stringify(message));
  }

  close(): void {
    this.socket.close();
  }

  /** A new picture is there. */
  offer(key: string): void {
    const shown = this.shown.get(key);
    if (!shown) return;
    delete shown.sameAt;
    if (shown.isBusy) shown.isBehind = true;
    else void this.send(key, shown);
  }

  /** The source handed out the same picture again. */
  same(key: string, at: number): void {
    const shown = this.shown.get(key);
    if (!shown) return;
    if (shown.isBusy) shown.sameAt = at;
    else this.say({ t: 'same', key, at });
  }

  private async send(key: string, shown: Shown): Promise<void> {
    shown.isBusy = true;
    shown.isBehind = false;
    const picture = await this.relay.newest(key, shown.width);
    if (this.shown.get(key) !== shown) return;
    if (!picture) {
      shown.isBusy = false;
      return;
    }
    shown.sent += 1;
    const { at, type, bytes } = picture;
    if (this.socket.readyState === this.socket.OPEN)
      this.socket.send(encodePicture({ key, n: shown.sent, at, type }, bytes));
  }

  private onMessage(text: string): void {
    this.heard += 1;
    if (this.heard > mostMessagesASecond) return this.socket.close(1008, 'Too many messages.');
    const message = viewerMessageSchema.safeParse(parsed(text));
    if (!message.success) return this.socket.close(1007, 'Not a valid message.');
    if (message.data.t === 'drawn') this.drawn(message.data.key, message.data.n);
    else this.show(message.data.pictures);
  }

  private drawn(key: string, n: number): void {
    const shown = this.shown.get(key);
    if (!shown || shown.sent !== n) return;
    shown.isBusy = false;
    if (shown.isBehind) return void this.send(key, shown);
    const { sameAt } = shown;
    delete shown.sameAt;
    if (sameAt !== undefined) this.say({ t: 'same', key, at: sameAt });
  }

  private show(pictures: readonly { readonly key: string; readonly width: number }[]): void {
    const wanted = new Set(pictures.map(({ key }) => key));
    for (const key of this.shown.keys()) {
      if (wanted.has(key)) continue;
      this.shown.delete(key);
      this.relay.unfollow(this, key);
    }
    for (const { key, width } of pictures) {
      const shown = this.shown.get(key);
      if (shown?.width === width) continue;
      if (shown) shown.width = width;
      else this.shown.set(key, { width, sent: 0, isBusy: false, isBehind: false });
      this.relay.follow(this, key);
    }
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
