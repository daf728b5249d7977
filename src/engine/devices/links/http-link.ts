import { randomBytes } from 'node:crypto';
import { Agent, request, type ClientRequest, type IncomingMessage } from 'node:http';
import { Agent as TlsAgent, request as requestTls } from 'node:https';
import type { DriverDocument } from '../../../core/driver';
import { causeOfSocketError, type DownCause } from '../../../core/session';
import {
  arrivedFromEvent,
  arrivedFromHttp,
  basicHeader,
  digestHeader,
  EventStreamReader,
  readChallenge,
  type DigestChallenge,
  type Framing,
  type HttpOutgoing,
  type Outgoing,
} from '../../../core/wire';
import { alwaysHeaders, filledHeaders } from './always-headers';
import { SoapEnvelopes } from './soap-envelopes';
import type { DeviceLink, Lane, LinkAddress, LinkEvents, Written } from './link';

type HttpFraming = Extract<Framing, { kind: 'http' }>;
const utf8 = new TextEncoder();
const nothing = new Uint8Array();

interface Queued {
  readonly request: HttpOutgoing;
  readonly ref: number;
}

/**
 * Requests to one device over kept-open connections, and a stream of events where the device has one. Nothing is connected
 * as such: it counts as open at once, and the first answer proves it.
 */
export class HttpLink implements DeviceLink {
  readonly proves = false;
  private readonly link: DriverDocument['link'];
  /** Headers that the driver reads. */
  private readonly wanted: ReadonlySet<string>;
  private readonly agent: Agent;
  /** Each request waits until the one before it in its lane is over; the first one is under way. */
  private readonly lanes: Readonly<Record<Lane, Queued[]>> = { movements: [], others: [] };
  private readonly running = new Map<number, ClientRequest>();
  private stream: ClientRequest | undefined;
  private challenge: DigestChallenge | undefined;
  private counted = 0;
  private ended = false;
  private readonly envelopes: SoapEnvelopes;
  /** What every request carries, with holes for the sign-in. */
  private readonly always: readonly (readonly [string, string])[];

  constructor(
    private readonly address: LinkAddress,
    document: Pick<DriverDocument, 'link' | 'replies'>,
    private readonly framing: HttpFraming,
    private readonly events: LinkEvents,
  ) {
    const { link, replies } = document;
    this.link = link;
    this.wanted = new Set(replies.flatMap(({ header }) => (header === undefined ? [] : [header.toLowerCase()])));
    const options = { keepAlive: true, maxSockets: link.window + 1, scheduling: 'lifo' as const };
    this.agent = link.secure
      ? new TlsAgent({ ...options, rejectUnauthorized: link.checkCertificate })
      : new Agent(options);
    this.always = alwaysHeaders(link);
    this.envelopes = new SoapEnvelopes(link.securityToken ? address : undefined);
    setImmediate(() => {
      if (this.ended) return;
      events.onOpen();
      if (link.events !== undefined) this.follow(link.events);
    });
  }

  write(message: Outgoing, ref: number, lane?: Lane): Written {
    if (message.kind !== 'http') return { ok: false, stuck: false, reason: 'Only HTTP requests can be sent here.' };
    const waiting = lane ? this.lanes[lane].push({ request: message.request, ref }) > 1 : false;
    if (!waiting) this.start(message.request, ref, lane);
    const { method, path, headers } = message.request;
    const body = this.envelopes.shown(message.request);
    // What is filled with the sign-in is not shown.
    const shown = this.always.filter(([, value]) => !/\{(user|password)\}/.test(value));
    const head = [...Object.entries(headers), ...shown].map(([name, value]) => `${name}: ${value}\r\n`);
    return { ok: true, bytes: utf8.encode(`${method} ${path} HTTP/1.1\r\n${head.join('')}\r\n${body ?? ''}`) };
  }

  forget(ref: number): void {
    this.running.get(ref)?.destroy();
    this.running.delete(ref);
    this.leaveLane(ref);
  }

  pause(): void {}
  resume(): void {}

  rest(): Uint8Array {
    return nothing;
  }

  close(): void {
    if (this.ended) return;
    this.ended = true;
    this.stream?.destroy();
    // Requests that were handed over last, a stop perhaps, are let go out before their connections end.
    const { agent, running } = this;
    setTimeout(() => {
      for (const each of running.values()) each.destroy();
      agent.destroy();
    }, 300).unref();
  }

  private ask(wanted: HttpOutgoing, ref: number, again: boolean): void {
    const body = this.envelopes.sent(wanted);
    const req = this.open(wanted.method, wanted.path, wanted.headers, body);
    this.running.set(ref, req);
    req.on('response', (res) => {
      const challenge = again ? undefined : this.challengeOf(res);
      if (challenge) {
        res.resume();
        this.challenge = challenge;
        this.counted = 0;
        return this.ask(wanted, ref, true);
      }
      this.collect(res, (read) => {
        if (this.running.get(ref) === req) this.running.delete(ref);
        this.leaveLane(ref);
        if (this.ended) return;
        if (!read)
          return this.events.onArrived([{ raw: nothing, says: [], fault: tooLong(this.framing.maxFrameBytes) }]);
        const headers: Record<string, string> = {};
        for (const name of this.wanted) {
          const value = res.headers[name];
          if (value !== undefined) headers[name] = String(value);
        }
        const response = { status: res.statusCode ?? 0, body: read, headers };
        const arrived = arrivedFromHttp(this.framing, response, ref);
        this.events.onArrived([wanted.soap ? this.envelopes.heard(arrived) : arrived]);
      });
    });
    req.on('error', (error: NodeJS.ErrnoException) => {
      if (this.running.get(ref) !== req) return;
      this.running.delete(ref);
      // A kept-open connection that the device closed just then: asking again is safe where nothing is changed by it.
      if (!again && req.reusedSocket && wanted.method === 'GET') return this.ask(wanted, ref, true);
      // What waited behind it is lost with the link, and must not go out any more.
      for (const lane of Object.values(this.lanes)) lane.splice(0);
      this.end(causeOfSocketError(error.code), error.code);
    });
    req.end(body);
  }

  /** A request in a lane holds those behind it up for no longer than its answer may take. */
  private start(request: HttpOutgoing, ref: number, lane: Lane | undefined): void {
    this.ask(request, ref, false);
    if (lane) setTimeout(() => this.leaveLane(ref), this.link.answerWithinMs).unref();
  }

  /** A request is over: what waits behind it goes out. */
  private leaveLane(ref: number): void {
    for (const [name, lane] of Object.entries(this.lanes)) {
      const at = lane.findIndex((each) => each.ref === ref);
      if (at < 0) continue;
      lane.splice(at, 1);
      const [next] = lane;
      if (at === 0 && next) this.start(next.request, next.ref, name as Lane);
    }
  }

  private open(
    method: string,
    path: string,
    headers: Readonly<Record<string, string>>,
    body: string | undefined,
  ): ClientRequest {
    const { host, port } = this.address;
    const length = body === undefined ? {} : { 'content-length': String(utf8.encode(body).length) };
    const all = { ...filledHeaders(this.always, this.address), ...headers, ...length, ...this.signIn(method, path) };
    const make = this.link.secure ? requestTls : request;
    return make({ host, port, method, path, headers: all, agent: this.agent, insecureHTTPParser: false });
  }

  private signIn(method: string, uri: string): Record<string, string> {
    const { user, password } = this.address;
    // Without a name and a password there is nothing to sign in with.
    if (user === '' && password === '') return {};
    if (this.link.auth === 'basic') return { authorization: basicHeader(user, password) };
    if (this.link.auth !== 'digest' || !this.challenge) return {};
    this.counted += 1;
    const cnonce = randomBytes(8).toString('hex');
    const authorization = digestHeader(this.challenge, { user, password, method, uri, cnonce, count: this.counted });
    return { authorization };
  }

  private challengeOf(res: IncomingMessage): DigestChallenge | undefined {
    const { user, password } = this.address;
    if (this.link.auth !== 'digest' || res.statusCode !== 401 || (user === '' && password === '')) return undefined;
    return readChallenge(String(res.headers['www-authenticate'] ?? ''));
  }

  /** Reads a body to its end, or gives nothing when it is longer than allowed. */
  private collect(res: IncomingMessage, done: (body: Uint8Array | undefined) => void): void {
    const chunks: Buffer[] = [];
    let size = 0;
    res.on('data', (chunk: Buffer) => {
      size += chunk.length;
      if (size <= this.framing.maxFrameBytes) chunks.push(chunk);
      else if (size - chunk.length <= this.framing.maxFrameBytes) {
        res.destroy();
        done(undefined);
      }
    });
    res.on('end', () => size <= this.framing.maxFrameBytes && done(Buffer.concat(chunks)));
    res.on('error', () => undefined);
  }

  private follow(path: string, again = false): void {
    const req = this.open('GET', path, { accept: 'text/event-stream' }, undefined);
    this.stream = req;
    req.on('response', (res) => {
      const challenge = again ? undefined : this.challengeOf(res);
      if (challenge) {
        res.resume();
        this.challenge = challenge;
        this.counted = 0;
        return this.follow(path, true);
      }
      if (res.statusCode !== 200) {
        res.resume();
        const code = String(res.statusCode);
        if (this.link.lockedOutCodes.includes(code)) return this.reject('locked out', `HTTP ${code}`);
        if (this.link.occupiedCodes.includes(code)) return this.reject('occupied', `HTTP ${code}`);
        return this.end('wrong-greeting', `The event stream at ${path} answered with HTTP ${code}.`);
      }
      const reader = new EventStreamReader(this.framing.maxFrameBytes);
      res.on('data', (chunk: Buffer) => {
        const arrived = reader
          .push(chunk)
          .map((event) =>
            event === 'overlong'
              ? { raw: nothing, says: [], fault: tooLong(this.framing.maxFrameBytes) }
              : arrivedFromEvent(this.framing, event.data, utf8.encode(event.data)),
          );
        if (arrived.length > 0 && !this.ended) this.events.onArrived(arrived);
      });
      res.on('close', () => this.end('closed', 'The event stream ended.'));
      res.on('error', () => undefined);
    });
    req.on('error', (error: NodeJS.ErrnoException) => {
      if (this.stream === req) this.end(causeOfSocketError(error.code), error.code);
    });
    req.end();
  }

  private reject(as: 'locked out' | 'occupied', detail: string): void {
    if (this.ended) return;
    this.close();
    this.events.onRejected(as, detail);
  }

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}

const tooLong = (bytes: number): string => `A body longer than ${bytes} bytes was dropped.`;
