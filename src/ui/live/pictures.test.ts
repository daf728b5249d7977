import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { encodePicture, type ViewerMessage } from '../../core/picture';
import { PictureClient, type PictureSocket } from './pictures';

const key = 'a'.repeat(22);
const other = 'b'.repeat(22);

class FakeSocket implements PictureSocket {
  readyState = 0;
  binaryType = '';
  readonly said: ViewerMessage[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onclose: (() => void) | null = null;
  isClosed = false;

  send(text: string) {
    this.said.push(JSON.parse(text) as ViewerMessage);
  }
  close() {
    this.isClosed = true;
  }
  open() {
    this.readyState = 1;
    this.onopen?.();
    this.tell({ t: 'hello', now: Date.now() - 5000 });
  }
  tell(message: object) {
    this.onmessage?.({ data: JSON.stringify(message) });
  }
  picture(n: number, at = Date.now() - 5000) {
    const whole = encodePicture({ key, n, at, type: 'image/png' }, Uint8Array.of(n));
    this.onmessage?.({ data: whole.buffer });
  }
  fail() {
    this.readyState = 3;
    this.onclose?.();
  }
}

let sockets: FakeSocket[] = [];
let urls: Set<string>;
let made = 0;
let client: PictureClient;

beforeEach(() => {
  vi.useFakeTimers({ now: 1_000_000 });
  sockets = [];
  urls = new Set();
  vi.spyOn(URL, 'createObjectURL').mockImplementation(() => {
    const url = `blob:${(made += 1)}`;
    urls.add(url);
    return url;
  });
  vi.spyOn(URL, 'revokeObjectURL').mockImplementation((url) => void urls.delete(url));
  client = new PictureClient(() => {
    const socket = new FakeSocket();
    sockets.push(socket);
    return socket;
  });
});
afterEach(() => {
  client.stop();
  vi.restoreAllMocks();
  vi.useRealTimers();
});

const socket = () => sockets.at(-1) as FakeSocket;
const shows = () => socket().said.flatMap((each) => (each.t === 'show' ? [each.pictures] : []));

describe('the pictures of a screen', () => {
  it('are asked for when something shows them, at the largest width, and given up when nothing does', () => {
    const off = client.subscribe(key, () => undefined);
    const small = client.show(key, {}, 100);
    const large = client.show(key, {}, 500);
    vi.advanceTimersByTime(100);
    socket().open();
    expect(shows().at(-1)).toEqual([{ key, width: 560 }]);
    large();
    vi.advanceTimersByTime(100);
    expect(shows().at(-1)).toEqual([{ key, width: 160 }]);
    client.show(other, {}, 80);
    vi.advanceTimersByTime(100);
    expect(
      shows()
        .at(-1)
        ?.map((each) => each.key),
    ).toEqual([key, other]);
    client.setHidden(true);
    vi.advanceTimersByTime(100);
    expect(shows().at(-1)).toEqual([]);
    // A screen that stays hidden needs no connection either.
    vi.advanceTimersByTime(6000);
    expect(socket().isClosed).toBe(true);
    client.setHidden(false);
    vi.advanceTimersByTime(100);
    socket().open();
    expect(shows().at(-1)).toHaveLength(2);
    small();
    off();
  });

  it('come with the time they are of by this screen’s clock, one after another as they are drawn, and leave nothing behind', () => {
    const off = client.subscribe(key, () => undefined);
    const hide = client.show(key, {}, 100);
    vi.advanceTimersByTime(100);
    socket().open();
    socket().picture(1);
    expect(client.now(key)).toMatchObject({ at: Date.now() });
    expect(socket().said.some(({ t }) => t === 'drawn')).toBe(false);
    client.drawn(key, true);
    expect(socket().said.at(-1)).toEqual({ t: 'drawn', key, n: 1 });
    for (let n = 2; n < 30; n += 1) {
      socket().picture(n);
      // Some are never drawn, because a newer one has come.
      if (n % 3 !== 0) client.drawn(key, true);
      expect(urls.size).toBeLessThanOrEqual(2);
      expect(urls.has(client.now(key).url ?? '')).toBe(true);
    }
    socket().tell({ t: 'same', key, at: Date.now() - 4000 });
    expect(client.now(key).at).toBe(Date.now() + 1000);
    // Whichever of the two is first when what showed it goes.
    off();
    hide();
    expect(urls.size).toBe(0);
  });

  it('keep the last one while the source has a problem, or the relay is gone, and say so', () => {
    client.subscribe(key, () => undefined);
    client.show(key, {}, 100);
    vi.advanceTimersByTime(100);
    socket().open();
    socket().picture(1);
    socket().tell({ t: 'problem', key, why: 'unreachable', detail: 'ECONNREFUSED', againAt: Date.now() });
    expect(client.now(key)).toMatchObject({
      url: expect.stringContaining('blob:') as string,
      problem: { message: 'Nothing answers at the address of the picture. (ECONNREFUSED)', againAt: Date.now() + 5000 },
    });
    socket().picture(2);
    expect(client.now(key).problem).toBeUndefined();
    socket().fail();
    vi.advanceTimersByTime(300);
    socket().fail();
    expect(client.now(key).problem?.why).toBe('no-relay');
    vi.advanceTimersByTime(500);
    socket().open();
    expect(shows().at(-1)).toEqual([{ key, width: 160 }]);
    socket().picture(1);
    expect(client.now(key).problem).toBeUndefined();
  });

  it('say what cannot be drawn', () => {
    client.subscribe(key, () => undefined);
    client.show(key, {}, 100);
    vi.advanceTimersByTime(100);
    socket().open();
    socket().picture(1);
    client.drawn(key, false);
    expect(client.now(key).problem?.message).toBe('The data received is not a picture.');
    expect(socket().said.at(-1)).toEqual({ t: 'drawn', key, n: 1 });
  });
});
