import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { earlySocketScript, takeEarlySocket } from './early-socket';
import { LiveClient } from './live-client';

/** The part of a browser's WebSocket that is used. */
class BrowserSocket {
  static readonly OPEN = 1;
  static last: BrowserSocket | undefined;
  readyState = 0;
  readonly sent: unknown[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  onclose: (() => void) | null = null;
  onerror: (() => void) | null = null;
  constructor(readonly url: string) {
    BrowserSocket.last = this;
  }
  send(text: string) {
    this.sent.push(JSON.parse(text));
  }
  close() {
    this.readyState = 3;
    this.onclose?.();
  }
  open() {
    this.readyState = 1;
    this.onopen?.();
  }
  hear(message: object) {
    this.onmessage?.({ data: JSON.stringify(message) });
  }
}

const status = { t: 'whole', topic: 'status', n: 0, data: { aim: 'live' } };
const page = { t: 'whole', topic: 'page:page-race', n: 0, data: { controls: {} } };

function loadAt(pathname: string): BrowserSocket {
  vi.stubGlobal('location', { pathname, protocol: 'http:', host: 'desk:4400' });
  new Function(earlySocketScript)();
  const socket = BrowserSocket.last;
  if (!socket) throw new Error('It opened nothing.');
  return socket;
}

function startClient() {
  const taken = takeEarlySocket();
  if (!taken) throw new Error('There is nothing to take.');
  const client = new LiveClient(
    () => taken,
    () => 'id',
  );
  client.start();
  return client;
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('window', globalThis);
  vi.stubGlobal('WebSocket', BrowserSocket);
  BrowserSocket.last = undefined;
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('the connection that is opened before the program is there', () => {
  it('asks for the state and for the page that the address names', () => {
    const socket = loadAt('/panel/race/page-race');
    expect(socket.url).toBe('ws://desk:4400/live?as=panel');
    socket.open();
    expect(socket.sent).toEqual([{ t: 'sub', topics: ['status', 'page:page-race'] }]);
  });

  it('asks for the state alone where the address names no page, or none that can be one', () => {
    for (const path of ['/panel', '/panel/a%20b', '/panel/tally/%']) {
      const socket = loadAt(path);
      socket.open();
      expect(socket.sent).toEqual([{ t: 'sub', topics: ['status'] }]);
    }
  });

  it('gives what came meanwhile to the client, which asks for nothing twice', async () => {
    const socket = loadAt('/panel/page-race');
    socket.open();
    for (const message of [status, page]) socket.hear(message);
    const client = startClient();
    await vi.advanceTimersByTimeAsync(0);
    expect(client.getConnection()).toEqual({ at: 'open' });
    expect(client.getTopic('page:page-race')).toEqual(page.data);
    client.onTopic('page:page-race', () => undefined);
    socket.hear({ ...page, n: 4, data: { controls: { a: 1 } } });
    expect(client.getTopic('page:page-race')).toEqual({ controls: { a: 1 } });
    const asked = socket.sent.filter((each) => (each as { t: string }).t === 'sub');
    expect(asked).toEqual([{ t: 'sub', topics: ['status', 'page:page-race'] }]);
    client.stop();
  });

  it('is good as well while it is still being opened', async () => {
    const socket = loadAt('/panel/page-race');
    const client = startClient();
    await vi.advanceTimersByTimeAsync(0);
    expect(client.getConnection().at).toBe('calling');
    socket.open();
    socket.hear(status);
    expect(client.getConnection()).toEqual({ at: 'open' });
    expect(client.getTopic('status')).toEqual(status.data);
    client.stop();
  });

  it('lets go of what nobody wants', async () => {
    const socket = loadAt('/panel/page-race');
    socket.open();
    socket.hear(page);
    const client = startClient();
    client.onTopic('status', () => undefined);
    for (let second = 0; second < 6; second += 1) {
      await vi.advanceTimersByTimeAsync(1000);
      socket.hear({ t: 'pong' });
    }
    expect(socket.sent).toContainEqual({ t: 'unsub', topics: ['page:page-race'] });
    expect(socket.sent).not.toContainEqual({ t: 'unsub', topics: ['status'] });
    client.stop();
  });

  it('is not taken when it has been closed, nor twice', () => {
    loadAt('/panel').close();
    expect(takeEarlySocket()).toBeUndefined();
    loadAt('/panel').open();
    expect(takeEarlySocket()).toBeDefined();
    expect(takeEarlySocket()).toBeUndefined();
  });
});
