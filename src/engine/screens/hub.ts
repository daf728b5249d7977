import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { WebSocketServer, type WebSocket } from 'ws';
import { clientMessageSchema, readPress, type ClientMessage, type ServerMessage } from '../../core/live';
import { Budget } from '../door/budget';
import type { Principal } from '../door/gate';

/** Where the hub gets the whole of a topic from, and who acts on what clients say. */
interface HubSource {
  /** The whole of a topic now; `undefined` when there is none. */
  readonly whole: (topic: string) => unknown;
  /** False for what the client has no right to, and for what there cannot be. */
  readonly mayFollow: (principal: Principal, topic: string) => boolean;
  /** What a screen that has joined a panel gets of a topic: without what that panel does not have. */
  readonly ofPanel: (panel: string, topic: string, data: unknown) => unknown;
  /** The last client of a topic has gone. */
  readonly onUnused: (topic: string) => void;
  /** A client has gone, or has left this page. */
  readonly onLeft: (client: HubClient, page: string | undefined) => void;
  /** A client's connection has ended. */
  readonly onGone: (client: HubClient) => void;
  readonly onMessage: (
    client: HubClient,
    message: Exclude<ClientMessage, { t: 'sub' | 'unsub' | 'again' | 'ping' }>,
  ) => void;
}

export interface HubClient {
  readonly principal: Principal;
  /** Of this connection, as the desk's list tells it apart. */
  readonly name: string;
  /** Who it is in the record; the name until the screen has said who it is. */
  who: string;
  /** Closes the connection; whoever is there is told why. */
  end(reason: string): void;
  send(message: ServerMessage): void;
}

const maxMessageBytes = 16 * 1024;
/** A client that has not taken so much is let go; when it comes back it gets everything whole. */
const maxUnsentBytes = 4 * 1024 * 1024;
const heartbeatMs = 5000;
/** Five fingers on faders say about 600 things a second; nobody has reason to say more. */
const messagesPerSecond = 800;
const mostMessages = 1600;
const bytesPerSecond = 256 * 1024;
const mostBytes = 1024 * 1024;
/** Whoever goes on after so many that were not looked at is let go. */
const mostDropped = 4000;
/** A desk that opens has a few megabytes of pages and rows told to it; nobody has reason to ask for that all the time. */
const wholeBytesPerSecond = 2 * 1024 * 1024;
const mostWholeBytes = 24 * 1024 * 1024;
/** What a screen can show: all pages of a show kept ahead, and what stands around them. */
const mostTopics = { desk: 600, panel: 200, automation: 200 } as const;
const mostFloodsKnown = 50;
/** A page is kept on each of its shift levels, and with the picks before while others are chosen. */
const mostContextsOfPage = 100;

class Connection implements HubClient {
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

/**
 * The WebSocket end of the engine. Each topic's differences are numbered; a client that missed one asks for the whole
 * again. A message for many is written as text once.
 */
export class Hub {
  // No compression: at 200 changes a second to 64 panels it falls seconds behind.
  private readonly server = new WebSocketServer({
    noServer: true,
    maxPayload: maxMessageBytes,
    perMessageDeflate: false,
  });
  private readonly connections = new Set<Connection>();
  private readonly topics = new Map<string, Set<Connection>>();
  private readonly numbers = new Map<string, number>();
  private readonly heartbeat: NodeJS.Timeout;
  private nextName = 1;
  /** By who it was, when something was last not looked at. */
  private readonly floods = new Map<string, number>();

  constructor(
    private readonly engineId: string,
    private readonly source: HubSource,
  ) {
    this.heartbeat = setInterval(() => this.beat(), heartbeatMs);
  }

  accept(req: IncomingMessage, socket: Duplex, head: Buffer, principal: Principal): void {
    this.server.handleUpgrade(req, socket, head, (ws) => this.welcome(ws, principal, req.socket.remoteAddress ?? '?'));
  }

  /** Sends a difference of a topic to everybody who follows it. */
  publish(topic: string, diff: unknown): void {
    const followers = this.topics.get(topic);
    if (!followers || followers.size === 0) return;
    const n = (this.numbers.get(topic) ?? 0) + 1;
    this.numbers.set(topic, n);
    const textOf = (data: unknown) => JSON.stringify({ t: 'diff', topic, n, data } satisfies ServerMessage);
    let text: string | undefined;
    let ofPanels: Map<string, string> | undefined;
    for (const follower of followers) {
      const { panel } = follower.principal;
      if (panel === undefined) {
        follower.sendText((text ??= textOf(diff)));
        continue;
      }
      ofPanels ??= new Map();
      const own = ofPanels.get(panel) ?? textOf(this.source.ofPanel(panel, topic, diff));
      ofPanels.set(panel, own);
      follower.sendText(own);
    }
  }

  /** Gives everybody who follows a topic the whole of it, after it came, went or was replaced. */
  refresh(topic: string): void {
    for (const follower of this.topics.get(topic) ?? []) this.sendWhole(follower, topic);
  }

  /** The same for a page, in every context in which it is followed. */
  refreshPage(page: string): void {
    for (const topic of this.topics.keys()) if (pageOfTopic(topic) === page) this.refresh(topic);
  }

  /** Gives the screens that have joined panels their pages anew: what their panels have has changed. */
  refreshPanels(): void {
    for (const connection of this.connections)
      if (connection.principal.panel !== undefined)
        for (const topic of connection.topics) if (pageOfTopic(topic) !== undefined) this.sendWhole(connection, topic);
  }

  isFollowed(topic: string): boolean {
    return (this.topics.get(topic)?.size ?? 0) > 0;
  }

  get clients(): number {
    return this.connections.size;
  }

  /** Who has sent more than was looked at since then, in milliseconds since 1970. */
  floodedSince(since: number): readonly string[] {
    return [...this.floods].flatMap(([who, at]) => (at >= since ? [who] : []));
  }

  /** How many connections there are, by the address that they come from. */
  get addresses(): readonly { readonly address: string; readonly count: number }[] {
    const counts = new Map<string, number>();
    for (const { address } of this.connections) counts.set(address, (counts.get(address) ?? 0) + 1);
    return [...counts].map(([address, count]) => ({ address, count }));
  }

  /** Closes all connections of these principals with a reason, and ends what they hold. */
  endAll(reason: string, of: (principal: Principal) => boolean): void {
    for (const connection of [...this.connections]) {
      if (!of(connection.principal)) continue;
      connection.end(reason);
      // A client that does not answer the close frame is removed all the same.
      this.forget(connection);
    }
  }

  stop(): void {
    clearInterval(this.heartbeat);
    for (const connection of this.connections) connection.socket.close(1001, 'The engine stops.');
    this.server.close();
  }

  private welcome(socket: WebSocket, principal: Principal, address: string): void {
    const connection = new Connection(socket, principal, `${principal.kind} ${this.nextName++}`, address);
    this.connections.add(connection);
    socket.on('message', (data, binary) => this.onMessage(connection, binary ? '' : String(data)));
    socket.on('pong', () => (connection.alive = true));
    socket.on('error', () => socket.terminate());
    socket.on('close', () => this.forget(connection));
    connection.send({ t: 'hello', engine: this.engineId, now: Date.now() });
  }

  private onMessage(connection: Connection, text: string): void {
    if (!this.connections.has(connection)) return;
    connection.alive = true;
    if (!connection.mayTalk(text.length, performance.now())) {
      connection.dropped += 1;
      this.floods.delete(connection.who);
      this.floods.set(connection.who, Date.now());
      if (this.floods.size > mostFloodsKnown) this.floods.delete(this.floods.keys().next().value ?? '');
      if (connection.dropped > mostDropped) return connection.end('Too many messages.');
      if (connection.dropped % 200 === 1)
        connection.send({ t: 'error', message: 'Too many messages: some were not looked at.' });
      return;
    }
    const value = parseJson(text);
    const press = readPress(value);
    if (press) return this.source.onMessage(connection, press);
    const message = clientMessageSchema.safeParse(value);
    if (!message.success) {
      connection.badMessages += 1;
      if (connection.badMessages > 20) return connection.socket.close(1008, 'Too many messages that make no sense.');
      const [issue] = message.error.issues;
      return connection.send({
        t: 'error',
        message: `${issue?.path.join('.') || 'message'}: ${issue?.message ?? 'not understood'}`,
      });
    }
    const { data } = message;
    switch (data.t) {
      case 'sub':
        for (const topic of data.topics) this.follow(connection, topic);
        return;
      case 'unsub':
        for (const topic of data.topics) this.unfollow(connection, topic);
        return;
      case 'again':
        if (connection.topics.has(data.topic)) this.sendWhole(connection, data.topic);
        return;
      case 'ping':
        return connection.send({ t: 'pong' });
      default:
        return this.source.onMessage(connection, data);
    }
  }

  private follow(connection: Connection, topic: string): void {
    if (connection.topics.has(topic)) return this.sendWhole(connection, topic);
    if (!this.source.mayFollow(connection.principal, topic)) return connection.send({ t: 'none', topic });
    const page = pageOfTopic(topic);
    const ofPage = page === undefined ? 0 : (connection.pages.get(page) ?? 0);
    if (connection.topics.size >= mostTopics[connection.principal.kind] || ofPage >= mostContextsOfPage)
      return connection.tellAndEnd('Too many pages and lists are followed at once.');
    connection.topics.add(topic);
    if (page !== undefined) connection.pages.set(page, ofPage + 1);
    const followers = this.topics.get(topic);
    if (followers) followers.add(connection);
    else this.topics.set(topic, new Set([connection]));
    this.sendWhole(connection, topic);
  }

  private unfollow(connection: Connection, topic: string): void {
    if (!connection.topics.delete(topic)) return;
    const page = pageOfTopic(topic);
    if (page !== undefined) {
      const left = (connection.pages.get(page) ?? 1) - 1;
      if (left > 0) connection.pages.set(page, left);
      else {
        connection.pages.delete(page);
        // Another shift level of the same page is not another page: what is held there goes on.
        this.source.onLeft(connection, page);
      }
    }
    const followers = this.topics.get(topic);
    if (!followers?.delete(connection) || followers.size > 0) return;
    this.topics.delete(topic);
    this.numbers.delete(topic);
    this.source.onUnused(topic);
  }

  private sendWhole(connection: Connection, topic: string): void {
    const data = this.source.whole(topic);
    if (data === undefined) return connection.send({ t: 'none', topic });
    const { panel } = connection.principal;
    const own = panel === undefined ? data : this.source.ofPanel(panel, topic, data);
    connection.sendWhole({ t: 'whole', topic, n: this.numbers.get(topic) ?? 0, data: own });
  }

  private forget(connection: Connection): void {
    if (!this.connections.delete(connection)) return;
    this.source.onGone(connection);
    this.source.onLeft(connection, undefined);
    for (const topic of [...connection.topics]) this.unfollow(connection, topic);
  }

  private beat(): void {
    for (const connection of this.connections) {
      if (!connection.alive) {
        connection.socket.terminate();
        continue;
      }
      connection.alive = false;
      connection.socket.ping();
    }
  }
}

/** The page that a topic is about; `undefined` for topics that are about none. */
export const pageOfTopic = (topic: string): string | undefined =>
  topic.startsWith('page:') ? topic.slice('page:'.length).split(';', 1)[0] : undefined;

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
