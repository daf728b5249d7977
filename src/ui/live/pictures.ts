import {
  decodePicture,
  pictureProblems,
  type PictureProblem,
  type RelayMessage,
  type ViewerMessage,
} from '../../core/picture';
import { Listeners } from './listeners';

/** A live picture as this screen has it. The same object as long as nothing in it changes. */
export interface LivePicture {
  /** An object URL of the newest picture. */
  readonly url?: string;
  /** When it came from its source, by the clock of this screen. */
  readonly at?: number;
  readonly problem?: {
    readonly why: PictureProblem | 'unknown' | 'no-relay' | 'not-shown';
    readonly message: string;
    /** When it is tried again, by the clock of this screen. */
    readonly againAt?: number;
  };
}

/** The part of a WebSocket that is used, so that tests can bring another. */
export interface PictureSocket {
  readonly readyState: number;
  binaryType: string;
  send(text: string): void;
  close(): void;
  onopen: (() => void) | null;
  onmessage: ((event: { data: unknown }) => void) | null;
  onclose: (() => void) | null;
}

interface Shown {
  now: LivePicture;
  /** The number of the newest picture. */
  n: number;
  /** The address of the one before, which is on the screen until the newest is drawn. */
  before?: string;
  readonly widths: Map<object, number>;
  readonly listeners: Listeners<[]>;
}

const open = 1;
const none: LivePicture = {};
/** A page that is turned closes its pictures and opens others. */
const settleMs = 40;
const idleMs = 5000;
const longestRetryMs = 3000;
/** Screens that change their size by a few pixels go on with the same pictures. */
const widthStep = 80;

/**
 * The live pictures of a screen, over one connection to the relay: those that are in view, each as large as it is shown, and none while the
 * screen is hidden.
 */
export class PictureClient {
  private readonly shown = new Map<string, Shown>();
  private socket: PictureSocket | undefined;
  private offsetMs = 0;
  private failures = 0;
  private isHidden = false;
  private said = '';
  private soon: ReturnType<typeof setTimeout> | undefined;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private idle: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly connect: () => PictureSocket) {}

  /** Shows a picture, at a width in pixels, until the function that it returns is called. The holder is whatever shows it. */
  readonly show = (key: string, holder: object, width: number): (() => void) => {
    const shown = this.entryOf(key);
    shown.widths.set(holder, Math.ceil(Math.max(1, width) / widthStep) * widthStep);
    this.sayLater();
    return () => {
      shown.widths.delete(holder);
      this.forget(key, shown);
      this.sayLater();
    };
  };

  readonly subscribe = (key: string, listener: () => void): (() => void) => {
    const shown = this.entryOf(key);
    const off = shown.listeners.add(listener);
    return () => {
      off();
      this.forget(key, shown);
    };
  };

  readonly now = (key: string): LivePicture => this.shown.get(key)?.now ?? none;

  /** The newest picture is on the screen, or cannot be drawn: the next may come. */
  drawn(key: string, isPicture: boolean): void {
    const shown = this.shown.get(key);
    if (!shown || shown.n === 0) return;
    if (shown.before !== undefined) URL.revokeObjectURL(shown.before);
    delete shown.before;
    if (!isPicture)
      this.set(shown, { ...shown.now, problem: { why: 'no-picture', message: pictureProblems['no-picture'] } });
    this.say({ t: 'drawn', key, n: shown.n });
  }

  /** A hidden screen shows nothing. */
  setHidden(hidden: boolean): void {
    this.isHidden = hidden;
    this.sayLater();
  }

  stop(): void {
    for (const timer of [this.soon, this.retry, this.idle]) clearTimeout(timer);
    const { socket } = this;
    this.socket = undefined;
    if (!socket) return;
    socket.onopen = socket.onmessage = socket.onclose = null;
    socket.close();
  }

  /** Lets a picture go that nothing shows any more. */
  private forget(key: string, shown: Shown): void {
    if (shown.listeners.size > 0 || shown.widths.size > 0 || this.shown.get(key) !== shown) return;
    this.shown.delete(key);
    for (const url of [shown.now.url, shown.before]) if (url !== undefined) URL.revokeObjectURL(url);
  }

  private entryOf(key: string): Shown {
    let shown = this.shown.get(key);
    if (!shown) this.shown.set(key, (shown = { now: none, n: 0, widths: new Map(), listeners: new Listeners() }));
    return shown;
  }

  private get wanted(): { readonly key: string; readonly width: number }[] {
    if (this.isHidden) return [];
    return [...this.shown].flatMap(([key, { widths }]) =>
      widths.size === 0 ? [] : [{ key, width: Math.max(...widths.values()) }],
    );
  }

  private sayLater(): void {
    this.soon ??= setTimeout(() => {
      this.soon = undefined;
      this.sayShown();
    }, settleMs);
  }

  private sayShown(): void {
    const pictures = this.wanted;
    clearTimeout(this.idle);
    if (pictures.length === 0) this.idle = setTimeout(() => this.hangUp(), idleMs);
    else if (!this.socket && this.retry === undefined) return this.dial();
    const text = JSON.stringify(pictures);
    if (text === this.said || this.socket?.readyState !== open) return;
    this.said = text;
    this.say({ t: 'show', pictures });
  }

  private dial(): void {
    clearTimeout(this.retry);
    this.retry = undefined;
    let socket: PictureSocket;
    try {
      socket = this.connect();
    } catch {
      // A browser that refuses to open a socket now may open one later.
      return this.dialLater();
    }
    this.socket = socket;
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => {
      this.failures = 0;
      this.said = '';
      this.sayShown();
    };
    socket.onmessage = ({ data }) => {
      if (typeof data === 'string') this.onMessage(JSON.parse(data) as RelayMessage);
      else this.onPicture(new Uint8Array(data as ArrayBuffer));
    };
    socket.onclose = () => this.onClosed(socket);
  }

  private hangUp(): void {
    const { socket } = this;
    this.socket = undefined;
    clearTimeout(this.retry);
    this.retry = undefined;
    if (socket) {
      socket.onclose = null;
      socket.close();
    }
  }

  private onClosed(socket: PictureSocket): void {
    if (this.socket !== socket) return;
    this.socket = undefined;
    this.dialLater();
  }

  private dialLater(): void {
    this.failures += 1;
    if (this.failures > 1)
      for (const shown of this.shown.values())
        this.set(shown, {
          ...shown.now,
          problem: { why: 'no-relay', message: 'The connection for pictures is lost.' },
        });
    const waitMs = Math.min(longestRetryMs, 200 * 2 ** (this.failures - 1));
    this.retry = setTimeout(() => {
      this.retry = undefined;
      if (this.wanted.length > 0) this.dial();
    }, waitMs);
  }

  private say(message: ViewerMessage): void {
    if (this.socket?.readyState === open) this.socket.send(JSON.stringify(message));
  }

  private onMessage(message: RelayMessage): void {
    if (message.t === 'hello') {
      this.offsetMs = Date.now() - message.now;
      return;
    }
    const shown = this.shown.get(message.key);
    if (!shown) return;
    const { problem: _, ...well } = shown.now;
    if (message.t === 'same') return this.set(shown, { ...well, at: message.at + this.offsetMs });
    if (message.t === 'unknown')
      return this.set(shown, { ...well, problem: { why: 'unknown', message: 'This picture no longer exists.' } });
    const { why, detail, againAt } = message;
    this.set(shown, {
      ...well,
      problem: {
        why,
        message: pictureProblems[why] + (detail === '' ? '' : ` (${detail})`),
        ...(againAt === undefined ? {} : { againAt: againAt + this.offsetMs }),
      },
    });
  }

  private onPicture(whole: Uint8Array): void {
    const picture = decodePicture(whole);
    if (!picture.ok) return;
    const { key, n, at, type } = picture.value.head;
    const shown = this.shown.get(key);
    if (!shown) return;
    // One that has not been drawn is not needed any more.
    if (shown.before !== undefined && shown.now.url !== undefined) URL.revokeObjectURL(shown.now.url);
    else if (shown.now.url !== undefined) shown.before = shown.now.url;
    shown.n = n;
    const bytes = picture.value.bytes as Uint8Array<ArrayBuffer>;
    this.set(shown, { url: URL.createObjectURL(new Blob([bytes], { type })), at: at + this.offsetMs });
  }

  private set(shown: Shown, now: LivePicture): void {
    shown.now = now;
    shown.listeners.tell();
  }
}
