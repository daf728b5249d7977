import { createSocket } from 'node:dgram';
import { connect } from 'node:net';
import type { PortAnswer } from '../core/diagnosis';
import { familyOf } from '../core/net';

export interface PortTry {
  readonly answer: PortAnswer;
  /** What came by itself while it was listened. */
  readonly heard: Uint8Array;
}

interface TryOptions {
  /** After a stall of this process, time-out and answer are due together: the answer is read before the time-out decides. */
  readonly timeoutMs: number;
  /** How long an open port is listened to. */
  readonly listenMs?: number;
  /** Said after half of that time when nothing came by itself. */
  readonly say?: Uint8Array;
  readonly signal?: AbortSignal;
}

const nothing = new Uint8Array();
const maxHeard = 512;

/** Tries one TCP port, and listens for a while when it opens. Never rejects. */
export function tryTcp(host: string, port: number, options: TryOptions): Promise<PortTry> {
  const { timeoutMs, listenMs = 0, say, signal } = options;
  return new Promise((resolve) => {
    const chunks: Buffer[] = [];
    let opened = false;
    const timers: NodeJS.Timeout[] = [];
    const socket = connect({ host, port });
    const end = (answer: PortAnswer) => {
      for (const timer of timers) clearTimeout(timer);
      signal?.removeEventListener('abort', onAbort);
      socket.removeAllListeners();
      socket.on('error', () => undefined);
      socket.destroy();
      resolve({ answer, heard: chunks.length > 0 ? Buffer.concat(chunks).subarray(0, maxHeard) : nothing });
    };
    const onAbort = () => end('silent');
    const gone = () => end(opened ? (chunks.length > 0 ? 'open' : 'closed-at-once') : 'refused');
    timers.push(setTimeout(() => setImmediate(() => !opened && end('silent')), timeoutMs));
    signal?.addEventListener('abort', onAbort, { once: true });
    if (signal?.aborted) return end('silent');
    socket.once('connect', () => {
      opened = true;
      if (listenMs === 0) return end('open');
      timers.push(setTimeout(() => end('open'), listenMs));
      if (say) timers.push(setTimeout(() => chunks.length === 0 && socket.write(say), listenMs / 2));
    });
    socket.on('data', (chunk: Buffer) => {
      chunks.push(chunk);
      if (Buffer.concat(chunks).length >= maxHeard) end('open');
    });
    socket.once('close', gone);
    socket.once('error', (error: NodeJS.ErrnoException) => {
      if (opened) return gone();
      end(answerOf(error.code));
    });
  });
}

function answerOf(code: string | undefined): PortAnswer {
  if (code === 'ECONNREFUSED' || code === 'ECONNRESET') return 'refused';
  if (code === 'ETIMEDOUT' || code === 'EHOSTUNREACH' || code === 'EHOSTDOWN') return 'silent';
  return 'unreachable';
}

/**
 * Tries one UDP port: says something and waits. A closed port is told by ICMP (RFC 792, port unreachable), an open one only by
 * an answer; without either the answer is `silent`.
 */
export function tryUdp(host: string, port: number, options: TryOptions): Promise<PortTry> {
  const { timeoutMs, say = nothing, signal } = options;
  return new Promise((resolve) => {
    const socket = createSocket(familyOf(host) === 6 ? 'udp6' : 'udp4');
    const timers: NodeJS.Timeout[] = [];
    let ended = false;
    const end = (answer: PortAnswer, heard: Uint8Array = nothing) => {
      if (ended) return;
      ended = true;
      for (const timer of timers) clearTimeout(timer);
      signal?.removeEventListener('abort', onAbort);
      socket.removeAllListeners();
      socket.on('error', () => undefined);
      socket.close();
      resolve({ answer, heard });
    };
    const onAbort = () => end('silent');
    signal?.addEventListener('abort', onAbort, { once: true });
    if (signal?.aborted) return end('silent');
    socket.once('error', (error: NodeJS.ErrnoException) => end(answerOf(error.code)));
    socket.once('message', (message) => end('open', message));
    timers.push(setTimeout(() => setImmediate(() => end('silent')), timeoutMs));
    socket.connect(port, host, () => {
      // The kernel hands a refusal to whichever call comes first, and that can be the next send instead of the read.
      const send = () => socket.send(say, (error) => error && end(answerOf((error as NodeJS.ErrnoException).code)));
      send();
      // The refusal of the first comes with the second, on some systems; and hosts limit how many refusals they send (RFC 1812, 4.3.2.8).
      timers.push(setTimeout(send, timeoutMs / 3), setTimeout(send, (timeoutMs * 2) / 3));
    });
  });
}

/** Works through a list, a few items at a time, until it is told to stop. */
export async function inTurn<T>(
  items: readonly T[],
  atOnce: number,
  work: (item: T) => Promise<void>,
  signal?: AbortSignal,
): Promise<void> {
  let next = 0;
  const worker = async () => {
    while (next < items.length && !signal?.aborted) {
      const item = items[next++] as T;
      await work(item);
    }
  };
  await Promise.all(Array.from({ length: Math.min(atOnce, items.length) }, worker));
}
