import type { ClientMessage, ServerMessage } from '../../core/live';
import { Listeners } from './listeners';

/** The state of the browser's connection to the engine. */
export type Connection =
  | { readonly at: 'calling'; readonly since: number }
  | { readonly at: 'open' }
  /** Cut off since then; trying again all the time. */
  | { readonly at: 'cut'; readonly since: number };

/** The part of a WebSocket that is used, so that tests can bring another. */
export interface SocketLike {
  readonly readyState: number;
  /** Topics that were asked for on it already. */
  readonly asked?: readonly string[];
  send(text: string): void;
  close(): void;
  onopen: (() => void) | null;
  onmessage: ((event: { data: unknown }) => void) | null;
  onclose: (() => void) | null;
  onerror: (() => void) | null;
}

/** What a connection tells. */
interface SocketListener {
  /** A new connection is open; these topics were asked for on it already. */
  readonly onOpen: (asked: readonly string[]) => void;
  /** A socket is being opened on which these topics will be asked for. */
  readonly onDialled: (asked: readonly string[]) => void;
  readonly onMessage: (message: ServerMessage) => void;
  /** The time there and back has changed so much that a person would call it different. */
  readonly onDelay: () => void;
}

const open = 1;
const pingEveryMs = 1000;
/** After this time without a word the client is cut off and says so. */
const maxQuietMs = 2600;
/** After a sleep the engine has this time to say a word before the connection counts as dead. */
const wakeWithinMs = 900;
const smoothing = 0.3;
const longestRetryMs = 1000;

/** One connection to the engine after another, for as long as it runs: connects again for ever, and notices when nothing comes back. */
export class LiveSocket {
  private socket: SocketLike | undefined;
  private connection: Connection = { at: 'calling', since: Date.now() };
  private readonly connectionListeners = new Listeners<[]>();
  private clockOffsetMs = 0;
  private failures = 0;
  private heardAt = 0;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private heartbeat: ReturnType<typeof setInterval> | undefined;
  private isRunning = false;
  private pingedAt = 0;
  private beatAt = 0;
  private smoothDelay: number | undefined;
  private cutCount = 0;

  constructor(
    private readonly connect: () => SocketLike,
    private readonly listener: SocketListener,
  ) {}

  /** How often it was cut off. */
  get cuts(): number {
    return this.cutCount;
  }

  /** There and back, in milliseconds. */
  get delayMs(): number | undefined {
    return this.smoothDelay;
  }

  /** The engine's time, in milliseconds since 1970. */
  now(): number {
    return Date.now() + this.clockOffsetMs;
  }

  readonly getConnection = (): Connection => this.connection;
  readonly onConnection = this.connectionListeners.add;

  start(): void {
    if (this.isRunning) return;
    this.isRunning = true;
    this.beatAt = Date.now();
    this.dial();
    this.heartbeat = setInterval(() => this.beat(), pingEveryMs);
  }

  stop(): void {
    this.isRunning = false;
    clearTimeout(this.retry);
    clearInterval(this.heartbeat);
    const { socket } = this;
    this.socket = undefined;
    if (socket) {
      socket.onopen = socket.onmessage = socket.onclose = socket.onerror = null;
      socket.close();
    }
  }

  /** Returns false when the message cannot go out now; it is never sent later. */
  readonly say = (message: ClientMessage): boolean => {
    if (this.socket?.readyState !== open) return false;
    this.socket.send(JSON.stringify(message));
    return true;
  };

  /** The screen was asleep, or the network has changed: finds out at once whether the engine still hears it. */
  wake(): void {
    if (!this.isRunning) return;
    if (!this.socket) {
      this.failures = 0;
      return this.dial();
    }
    const { socket } = this;
    const asked = Date.now();
    this.ping();
    setTimeout(() => {
      if (this.socket === socket && this.heardAt < asked) this.drop(socket);
    }, wakeWithinMs);
  }

  private ping(): void {
    this.pingedAt = performance.now();
    this.say({ t: 'ping' });
  }

  private drop(socket: SocketLike): void {
    socket.close();
    this.onClosed(socket);
  }

  private dial(): void {
    clearTimeout(this.retry);
    let socket: SocketLike;
    try {
      socket = this.connect();
    } catch {
      // A browser that refuses to open a socket now may open one later.
      return this.dialLater();
    }
    this.socket = socket;
    this.listener.onDialled(socket.asked ?? []);
    socket.onopen = () => this.onOpen();
    socket.onmessage = (event) => this.onMessage(String(event.data));
    socket.onclose = () => this.onClosed(socket);
    socket.onerror = () => undefined;
    this.heardAt = Date.now();
  }

  private onOpen(): void {
    this.failures = 0;
    this.heardAt = Date.now();
    this.listener.onOpen(this.socket?.asked ?? []);
    this.ping();
  }

  /** Enters that the connection is open, and tells those who look at it. */
  opened(): void {
    this.setConnection({ at: 'open' });
  }

  private onClosed(socket: SocketLike): void {
    if (this.socket !== socket) return;
    this.socket = undefined;
    if (!this.isRunning) return;
    if (this.connection.at === 'open') {
      this.cutCount += 1;
      this.setConnection({ at: 'cut', since: Date.now() });
    }
    this.dialLater();
  }

  private dialLater(): void {
    this.failures += 1;
    const waitMs = this.failures === 1 ? 50 : Math.min(longestRetryMs, 100 * 2 ** (this.failures - 2));
    this.retry = setTimeout(() => this.dial(), waitMs * (0.75 + Math.random() * 0.25));
  }

  private beat(): void {
    if (!this.socket) {
      this.beatAt = Date.now();
      return;
    }
    const late = Date.now() - this.beatAt;
    this.beatAt = Date.now();
    // This screen itself stood still: what was said to it meanwhile is not read yet.
    if (late > 2 * pingEveryMs) return this.wake();
    // Nothing came for too long: a socket that hangs is as good as none.
    if (Date.now() - this.heardAt > maxQuietMs) return this.drop(this.socket);
    this.ping();
  }

  private onMessage(text: string): void {
    this.heardAt = Date.now();
    const message = JSON.parse(text) as ServerMessage;
    if (message.t === 'hello') this.clockOffsetMs = message.now - Date.now();
    else if (message.t === 'pong') this.onPong();
    else this.listener.onMessage(message);
  }

  private onPong(): void {
    const took = performance.now() - this.pingedAt;
    const before = this.smoothDelay;
    this.smoothDelay = before === undefined ? took : before + (took - before) * smoothing;
    if (before === undefined || Math.abs(before - took) > Math.max(2, before / 2)) this.listener.onDelay();
  }

  private setConnection(connection: Connection): void {
    this.connection = connection;
    this.connectionListeners.tell();
  }
}
