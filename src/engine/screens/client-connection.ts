import type { WebSocket } from 'ws';
import type { ServerMessage } from '../../core/live';
import { Budget } from '../door/budget';
import type { Principal } from '../door/gate';

export interface HubClient {
  readonly principal: Principal;
  /** Of this connection, as the desk's list tells it apart. */
  readonly name: string;
  /** Who it is in the record; the name until the screen has said who it is. */
  who: string;
  /** Closes the connection and tells the client why. */
  end(reason: string): void;
  /** Breaks the connection without a word, as a lost network would. */
  cut(): void;
  send(message: ServerMessage): void;
}

/** A client with this much unread is disconnected; when it connects again it gets every topic whole. */
const maxUnsentBytes = 4 * 1024 * 1024;
/** Five fingers on faders say about 600 things a second; nobody has reason to say more. */
const messagesPerSecond = 800;
const mostMessages = 1600;
const bytesPerSecond = 256 * 1024;
const mostBytes = 1024 * 1024;
/** A desk that opens has a few megabytes of pages and rows told to it; nobody has reason to ask for that all the time. */
const wholeBytesPerSecond = 2 * 1024 * 1024;
const mostWholeBytes = 24 * 1024 * 1024;

/** One WebSocket with what is known of who is at its other end. */
export class ClientConnection implements HubClient {
  readonly topics = new Set<string>();
  alive = true;
  badMessages = 0;
  /** Messages that came too fast and were not looked at. */
  dropped = 0;
  who: string;
  /** How many topics it follows of each page. */
  readonly pages = new Map<string, number>();
  readonly since = Date.now();
  private readonly messages = new Budget(messagesPerSecond, mostMessages);
  private readonly bytes = new Budget(bytesPerSecond, mostBytes);
  private readonly wholes = new Budget(wholeBytesPerSecond, mostWholeBytes);

  constructor(
    readonly socket: WebSocket,
    readonly principal: Principal,
    readonly name: string,
    readonly address: string,
  ) {
    this.who = name;
  }

  end(reason: string): void {
    this.socket.close(1008, reason);
  }

  cut(): void {
    this.socket.terminate();
  }

  /** Takes a message out of what it may say; false when that is used up. */
  mayTalk(length: number, now: number): boolean {
    return this.messages.take(1, now) && this.bytes.take(length, now);
  }

  /** Sends the whole of something, or ends the connection of a client that asks for too much. */
  sendWhole(message: ServerMessage): void {
    const text = JSON.stringify(message);
    if (this.wholes.take(text.length)) this.sendText(text);
    else this.tellAndEnd('Too much was asked for.');
  }

  tellAndEnd(message: string): void {
    this.send({ t: 'error', message });
    this.end(message);
  }

  send(message: ServerMessage): void {
    this.sendText(JSON.stringify(message));
  }

  sendText(text: string): void {
    if (this.socket.readyState !== this.socket.OPEN) return;
    if (this.socket.bufferedAmount > maxUnsentBytes) return this.socket.terminate();
    this.socket.send(text);
  }
}
