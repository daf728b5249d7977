import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { WebSocketServer, type WebSocket } from 'ws';
import {
  clientMessageSchema,
  pageOfTopic,
  readPress,
  type ClientMessage,
  type Publish,
  type ServerMessage,
  type TopicName,
} from '../../core/live';
import type { Principal } from '../door/gate';
import { ClientConnection, type HubClient } from './client-connection';
import type { TopicBook } from '../topics/topic-book';

/** Who acts on what clients say, and hears when they leave. */
interface HubListener {
  readonly onMessage?: (
    client: HubClient,
    message: Exclude<ClientMessage, { t: 'sub' | 'unsub' | 'again' | 'ping' }>,
  ) => void;
  /** A client has gone, or has left this page. */
  readonly onLeft?: (client: HubClient, page: string | undefined) => void;
  /** A client's connection has ended. */
  readonly onGone?: (client: HubClient) => void;
}

/** Who may follow what. Without it nobody may follow anything. */
interface FollowRights {
  readonly mayFollow: (principal: Principal, topic: string) => boolean;
  /** What a screen that has joined a panel gets of a topic: without what that panel does not have. */
  readonly ofPanel: (panel: string, topic: string, data: unknown) => unknown;
}

const maxMessageBytes = 16 * 1024;
const heartbeatMs = 5000;
/** A client that goes on after this many dropped messages is disconnected. */
const mostDropped = 4000;
/** What a screen can show: all pages of a show, fetched in advance, and the frame around them. */
const mostTopics = { desk: 600, panel: 200, automation: 200 } as const;
const mostFloodsKnown = 50;
/** A page is kept on each of its shift levels, and with the picks before while others are chosen. */
const mostContextsOfPage = 100;

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
  private readonly connections = new Set<ClientConnection>();
  private readonly topics = new Map<string, Set<ClientConnection>>();
  private readonly numbers = new Map<string, number>();
  private readonly heartbeat: NodeJS.Timeout;
  private nextName = 1;
  private readonly listeners: HubListener[] = [];
  private rights: FollowRights | undefined;
  /** By who it was, when something was last not looked at. */
  private readonly floods = new Map<string, number>();

  constructor(
    private readonly engineId: string,
    private readonly book: TopicBook,
  ) {
    this.heartbeat = setInterval(() => this.beat(), heartbeatMs);
  }

  listen(listener: HubListener): void {
    this.listeners.push(listener);
  }

  /** Sets who may follow what. */
  guardBy(rights: FollowRights): void {
    this.rights = rights;
  }

  accept(req: IncomingMessage, socket: Duplex, head: Buffer, principal: Principal): void {
    this.server.handleUpgrade(req, socket, head, (ws) => this.welcome(ws, principal, req.socket.remoteAddress ?? '?'));
  }

  /** Sends a difference of a topic to everybody who follows it. */
  readonly publish: Publish = (topic, diff) => {
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
      const own = ofPanels.get(panel) ?? textOf(this.rights?.ofPanel(panel, topic, diff));
      ofPanels.set(panel, own);
      follower.sendText(own);
    }
  };

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

  readonly isFollowed = (topic: TopicName): boolean => (this.topics.get(topic)?.size ?? 0) > 0;

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
    const connection = new ClientConnection(socket, principal, `${principal.kind} ${this.nextName++}`, address);
    this.connections.add(connection);
    socket.on('message', (data, binary) => this.onMessage(connection, binary ? '' : String(data)));
    socket.on('pong', () => (connection.alive = true));
    socket.on('error', () => socket.terminate());
    socket.on('close', () => this.forget(connection));
    connection.send({ t: 'hello', engine: this.engineId, now: Date.now() });
  }

  private onMessage(connection: ClientConnection, text: string): void {
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
    if (press) return this.tellMessage(connection, press);
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
        return this.tellMessage(connection, data);
    }
  }

  private follow(connection: ClientConnection, topic: string): void {
    if (connection.topics.has(topic)) return this.sendWhole(connection, topic);
    if (!this.book.canBe(topic) || !this.rights?.mayFollow(connection.principal, topic))
      return connection.send({ t: 'none', topic });
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

  private unfollow(connection: ClientConnection, topic: string): void {
    if (!connection.topics.delete(topic)) return;
    const page = pageOfTopic(topic);
    if (page !== undefined) {
      const left = (connection.pages.get(page) ?? 1) - 1;
      if (left > 0) connection.pages.set(page, left);
      else {
        connection.pages.delete(page);
        // Another shift level of the same page is not another page: what is held there goes on.
        this.tellLeft(connection, page);
      }
    }
    const followers = this.topics.get(topic);
    if (!followers?.delete(connection) || followers.size > 0) return;
    this.topics.delete(topic);
    this.numbers.delete(topic);
    this.book.onUnused(topic);
  }

  private sendWhole(connection: ClientConnection, topic: string): void {
    const data = this.book.whole(topic);
    if (data === undefined) return connection.send({ t: 'none', topic });
    const { panel } = connection.principal;
    const own = panel === undefined ? data : this.rights?.ofPanel(panel, topic, data);
    connection.sendWhole({ t: 'whole', topic, n: this.numbers.get(topic) ?? 0, data: own });
  }

  private forget(connection: ClientConnection): void {
    if (!this.connections.delete(connection)) return;
    for (const each of this.listeners) each.onGone?.(connection);
    this.tellLeft(connection, undefined);
    for (const topic of [...connection.topics]) this.unfollow(connection, topic);
  }

  private tellMessage(
    connection: ClientConnection,
    message: Parameters<NonNullable<HubListener['onMessage']>>[1],
  ): void {
    for (const each of this.listeners) each.onMessage?.(connection, message);
  }

  private tellLeft(connection: ClientConnection, page: string | undefined): void {
    for (const each of this.listeners) each.onLeft?.(connection, page);
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

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    // The schema refuses what is no message.
    return undefined;
  }
}
