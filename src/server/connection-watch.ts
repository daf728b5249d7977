import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import { maxShowFileBytes } from '../core/show';
import { isLoopback } from '../engine';

/** How many connections one address may have, and how many of them may be at the beginning of a request. */
export interface ConnectionLimits {
  readonly open: number;
  readonly unfinished: number;
  readonly headWithinMs: number;
  readonly bodyWithinMs: number;
}

/** Sixty tablets behind one router are one address; a browser opens six connections a tab. */
const usualLimits: ConnectionLimits = { open: 600, unfinished: 100, headWithinMs: 10_000, bodyWithinMs: 60_000 };
/** This computer's own browsers and programs: they share what the desk needs to stop anything. */
const onLoopback = 4;
/** A show file may be large, and the network slow. */
const slowestBytesPerMs = 500;
/** After an answer the next request may follow on the same connection; Node.js closes it before this when none begins. */
const nextWithinMs = 15_000;
const lookEveryMs = 1000;

interface Watched {
  readonly socket: Socket;
  readonly address: string;
  /** Deadline for the next step of the request; the connection is closed when it passes. */
  by: number;
  /** The head of its first request is not complete yet. */
  unfinished: boolean;
}

/**
 * Closes connections that take too long over the head or the body of a request, and those that are too many from one address. Node.js does
 * that itself only for a server that listens; ours are handed connections.
 */
export class ConnectionWatch {
  private readonly watched = new Map<string, Watched>();
  private readonly counts = new Map<string, { open: number; unfinished: number }>();
  private readonly timer = setInterval(() => this.look(), lookEveryMs);

  constructor(private readonly limits: ConnectionLimits = usualLimits) {
    this.timer.unref();
  }

  /** A connection came in. False when it is one too many, and closed. */
  onConnection(socket: Socket): boolean {
    const address = socket.remoteAddress ?? '?';
    const counts = this.counts.get(address) ?? { open: 0, unfinished: 0 };
    const times = isLoopback(address) ? onLoopback : 1;
    if (counts.open >= this.limits.open * times || counts.unfinished >= this.limits.unfinished * times) {
      socket.destroy();
      return false;
    }
    this.counts.set(address, counts);
    counts.open += 1;
    counts.unfinished += 1;
    const key = keyOf(socket);
    this.watched.set(key, { socket, address, by: performance.now() + this.limits.headWithinMs, unfinished: true });
    socket.once('close', () => this.onClose(key));
    return true;
  }

  /** The head of a request is there; its body and its answer follow. */
  onRequest(req: IncomingMessage, res: ServerResponse): void {
    const entry = this.watched.get(keyOf(req.socket));
    if (!entry) return;
    this.isFinished(entry);
    const most = /^\/desk\/show-file(\?|$)/.test(req.url ?? '') ? maxShowFileBytes / slowestBytesPerMs : 0;
    entry.by = performance.now() + Math.max(this.limits.bodyWithinMs, most);
    req.once('end', () => (entry.by = Infinity));
    res.once('close', () => {
      if (res.writableFinished && req.complete) entry.by = performance.now() + nextWithinMs;
    });
  }

  /** The connection has become a WebSocket; the hub watches it from now on. */
  onUpgrade(req: IncomingMessage): void {
    const entry = this.watched.get(keyOf(req.socket));
    if (!entry) return;
    this.isFinished(entry);
    entry.by = Infinity;
  }

  stop(): void {
    clearInterval(this.timer);
  }

  private isFinished(entry: Watched): void {
    const counts = this.counts.get(entry.address);
    if (entry.unfinished && counts) counts.unfinished -= 1;
    entry.unfinished = false;
  }

  private onClose(key: string): void {
    const entry = this.watched.get(key);
    if (!entry) return;
    this.isFinished(entry);
    this.watched.delete(key);
    const counts = this.counts.get(entry.address);
    if (!counts) return;
    counts.open -= 1;
    if (counts.open === 0) this.counts.delete(entry.address);
  }

  private look(): void {
    const now = performance.now();
    for (const { socket, by } of this.watched.values()) if (by <= now) socket.destroy();
  }
}

/** A TLS connection has the ends of the one that it goes over. */
const keyOf = ({ remoteAddress, remotePort }: Socket): string => `${remoteAddress ?? '?'} ${remotePort ?? 0}`;
