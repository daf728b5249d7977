import type { IncomingMessage } from 'node:http';
import {
  boundaryOf,
  MultipartFramer,
  pathAt,
  pictureTypeOf,
  retryAfterMs,
  widthToAsk,
  type PictureProblem,
  type PictureSource,
} from '../core/picture';
import { signedGet } from '../http';

export interface FeedPicture {
  readonly type: string;
  readonly bytes: Uint8Array;
  /** When it was there, in milliseconds since 1970. */
  readonly at: number;
}

export interface FeedProblem {
  readonly why: PictureProblem;
  readonly detail: string;
  readonly againAt?: number;
}

interface FeedListener {
  readonly onPicture: (picture: FeedPicture) => void;
  readonly onProblem: (problem: FeedProblem) => void;
}

const maxPictureBytes = 4 * 1024 * 1024;
const answerWithinMs = 3000;
/** A stream that says nothing for this long has stopped. */
const quietMs = 5000;
/** A stream that held for this long may be called again at once. */
const provenMs = 3000;

/** Why a try brought no picture, or no further one. */
class NoPicture extends Error {
  constructor(
    readonly why: PictureProblem,
    detail = '',
  ) {
    super(detail);
  }
}

/** Ends a try that brings nothing in time. */
class Lateness {
  private readonly aborter = new AbortController();
  private timer: NodeJS.Timeout;
  readonly signal = this.aborter.signal;

  constructor(withinMs: number) {
    this.timer = setTimeout(() => this.aborter.abort(), withinMs);
  }

  /** Something came: from now on the time counts anew. */
  heard(withinMs: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.aborter.abort(), withinMs);
  }

  over(): void {
    clearTimeout(this.timer);
  }
}

/**
 * The pictures of one source, from when somebody looks until nobody does: a stream is followed as long as it lasts, and what is handed out one by
 * one is fetched again and again. A source that fails is tried anew with growing waits.
 */
export class Feed {
  private readonly gone = new AbortController();
  private cut = new AbortController();
  private width = 0;
  private failures = 0;
  /** Its stream cannot be had: the pictures are fetched one by one. */
  private hasNoStream = false;
  private wake: () => void = () => undefined;

  constructor(
    private readonly source: PictureSource,
    private readonly listener: FeedListener,
  ) {}

  start(width: number): void {
    this.width = this.widthFor(width);
    void this.run();
  }

  /** The greatest width at which somebody looks, in pixels. Where the source has widths to choose from it is asked for another. */
  setWidth(width: number): void {
    const now = this.widthFor(width);
    if (now === this.width) return;
    this.width = now;
    this.cut.abort();
    this.wake();
  }

  stop(): void {
    this.gone.abort();
    this.cut.abort();
    this.wake();
  }

  private widthFor(wanted: number): number {
    return widthToAsk(this.source.widths, wanted) ?? 0;
  }

  private async run(): Promise<void> {
    const { off, everyMs } = this.source;
    if (off) return this.listener.onProblem({ why: off, detail: '' });
    while (!this.gone.signal.aborted) {
      this.cut = new AbortController();
      const began = performance.now();
      let waitMs: number;
      try {
        const isStream = await this.once();
        this.failures = 0;
        waitMs = isStream ? 0 : Math.max(0, everyMs - (performance.now() - began));
      } catch (error) {
        if (this.gone.signal.aborted) return;
        // Another width is wanted.
        if (this.cut.signal.aborted) continue;
        waitMs = this.fail(error, performance.now() - began);
      }
      await this.wait(waitMs);
    }
  }

  /** Returns how long to wait before the next try, in milliseconds. */
  private fail(error: unknown, heldMs: number): number {
    const { why, message } = error instanceof NoPicture ? error : new NoPicture('unreachable', codeOf(error));
    this.failures = why === 'ended' && heldMs > provenMs ? 1 : this.failures + 1;
    const waitMs = retryAfterMs(this.failures, Math.random());
    this.listener.onProblem({ why, detail: message, againAt: Date.now() + waitMs });
    return waitMs;
  }

  private wait(ms: number): Promise<void> {
    if (this.cut.signal.aborted) return Promise.resolve();
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }

  /** One picture, or a stream of them to its end. Returns whether it was a stream. */
  private async once(): Promise<boolean> {
    const { source, cut } = this;
    const { host, port, secure, user, password, path, stream } = source;
    const isStream = stream !== undefined && !this.hasNoStream;
    const order = {
      host,
      port,
      secure,
      user,
      password,
      path: pathAt(isStream ? stream : path, this.width || undefined),
    };
    const late = new Lateness(isStream ? quietMs : answerWithinMs);
    let res: IncomingMessage | undefined;
    try {
      res = await signedGet(order, AbortSignal.any([cut.signal, late.signal]));
      if (isStream && (res.statusCode === 404 || res.statusCode === 501)) {
        this.hasNoStream = true;
        return await this.once();
      }
      refuseUnless200(res);
      const boundary = boundaryOf(res.headers['content-type'] ?? '');
      if (boundary !== undefined) return await this.follow(res, boundary, late);
      this.take(await whole(res));
      return false;
    } catch (error) {
      throw late.signal.aborted && !cut.signal.aborted ? new NoPicture('late') : error;
    } finally {
      late.over();
      if (res && !res.complete) res.destroy();
    }
  }

  private async follow(res: IncomingMessage, boundary: string, late: Lateness): Promise<never> {
    const framer = new MultipartFramer(boundary, maxPictureBytes);
    for await (const chunk of res as AsyncIterable<Buffer>) {
      late.heard(quietMs);
      const parts = framer.push(chunk);
      if (!parts.ok) throw new NoPicture(parts.error === 'part-too-large' ? 'too-large' : 'no-picture');
      // Of several that have come together only the newest is worth showing.
      const newest = parts.value.at(-1);
      if (newest) this.take(newest.body);
    }
    throw new NoPicture('ended');
  }

  private take(bytes: Uint8Array): void {
    const type = pictureTypeOf(bytes);
    if (type === undefined) throw new NoPicture('no-picture');
    this.listener.onPicture({ type, bytes, at: Date.now() });
  }
}

function refuseUnless200({ statusCode = 0 }: IncomingMessage): void {
  if (statusCode === 401 || statusCode === 403) throw new NoPicture('sign-in', `HTTP ${statusCode}`);
  if (statusCode !== 200) throw new NoPicture('refused', `HTTP ${statusCode}`);
}

async function whole(res: IncomingMessage): Promise<Uint8Array> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of res as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > maxPictureBytes) throw new NoPicture('too-large');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** What the system says of a connection that did not come about. */
function codeOf(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException;
  return code ?? message;
}
