import { describe, expect, it, onTestFinished } from 'vitest';
import { LiveClient } from './live-client';
import type { SocketLike } from './live-socket';

/** The other end of a client, by hand. */
class FakeSocket implements SocketLike {
  readyState = 0;
  readonly sent: Record<string, unknown>[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onclose: (() => void) | null = null;
  onerror: (() => void) | null = null;

  send(text: string): void {
    this.sent.push(JSON.parse(text) as Record<string, unknown>);
  }
  close(): void {
    this.readyState = 3;
  }
  open(): void {
    this.readyState = 1;
    this.onopen?.();
  }
  say(message: unknown): void {
    this.onmessage?.({ data: JSON.stringify(message) });
  }
  drop(): void {
    this.readyState = 3;
    this.onclose?.();
  }
}

function start() {
  const sockets: FakeSocket[] = [];
  let ids = 0;
  const client = new LiveClient(
    () => {
      const socket = new FakeSocket();
      sockets.push(socket);
      return socket;
    },
    () => `press-${(ids += 1)}`,
  );
  onTestFinished(() => client.stop());
  client.start();
  const latest = () => {
    const socket = sockets.at(-1);
    if (!socket) throw new Error('No socket.');
    return socket;
  };
  const another = async (count: number) => {
    while (sockets.length < count) await new Promise((resolve) => setTimeout(resolve, 5));
    return latest();
  };
  return { client, latest, another };
}

const faces = (word: string) => ({ a: { segments: [], lamp: { show: 'onAir', word } } });
const page = { layout: {}, controls: {}, faces: faces('one') };

describe('the browser’s end of /live', () => {
  it('lays differences over the whole, and asks for the whole again when one was missed', () => {
    const { client, latest } = start();
    client.onTopic('page:p', () => undefined);
    latest().open();
    latest().say({ t: 'whole', topic: 'page:p', n: 4, data: page });
    latest().say({ t: 'diff', topic: 'page:p', n: 5, data: { faces: { put: faces('two') } } });
    expect(client.getTopic('page:p')).toMatchObject({ faces: faces('two') });
    latest().say({ t: 'diff', topic: 'page:p', n: 7, data: { faces: { put: faces('four') } } });
    latest().say({ t: 'diff', topic: 'page:p', n: 8, data: { faces: { put: faces('five') } } });
    expect(client.getTopic('page:p')).toMatchObject({ faces: faces('two') });
    expect(latest().sent.filter(({ t }) => t === 'again')).toEqual([{ t: 'again', topic: 'page:p' }]);
    latest().say({ t: 'whole', topic: 'page:p', n: 8, data: { ...page, faces: faces('six') } });
    latest().say({ t: 'diff', topic: 'page:p', n: 9, data: { faces: { put: faces('seven') } } });
    expect(client.getTopic('page:p')).toMatchObject({ faces: faces('seven') });
  });

  it('keeps its snapshot as long as nothing has changed', () => {
    const { client, latest } = start();
    client.onTopic('status', () => undefined);
    latest().open();
    latest().say({ t: 'whole', topic: 'status', n: 0, data: { aim: 'live', devices: {} } });
    expect(client.getTopic('status')).toBe(client.getTopic('status'));
  });

  it('says at once that it is cut off, calls again, and follows everything anew', async () => {
    const { client, latest, another } = start();
    client.onTopic('page:p', () => undefined);
    latest().open();
    latest().drop();
    expect(client.getConnection().at).toBe('cut');
    const second = await another(2);
    second.open();
    expect(client.getConnection().at).toBe('open');
    expect(second.sent).toContainEqual({ t: 'sub', topics: ['page:p'] });
  });

  it('ends a press at once as lost while it is cut off, and never sends it later', async () => {
    const { client, latest, another } = start();
    latest().open();
    latest().drop();
    client.press('p', 'a');
    expect(client.getMarks().get('a')).toMatchObject({ outcome: 'lost' });
    const second = await another(2);
    second.open();
    expect(second.sent.filter(({ t }) => t === 'press')).toEqual([]);
  });

  it('asks how a press ended that was on its way when the connection broke', async () => {
    const { client, latest, another } = start();
    latest().open();
    const id = client.press('p', 'a');
    latest().drop();
    const second = await another(2);
    second.open();
    expect(second.sent).toContainEqual({ t: 'ask', id });
    second.say({ t: 'press', id, outcome: 'confirmed', ms: 12 });
    expect(client.getMarks().get('a')).toMatchObject({ outcome: 'confirmed' });
  });

  it('shows the newer of two presses of a control', () => {
    const { client, latest } = start();
    latest().open();
    const first = client.press('p', 'a');
    const second = client.press('p', 'a');
    latest().say({ t: 'press', id: first, outcome: 'confirmed', ms: 5 });
    expect(client.getMarks().get('a')).toMatchObject({ id: second, outcome: 'taken' });
    latest().say({ t: 'press', id: second, outcome: 'refused', ms: 5, reason: 'no' });
    expect(client.getMarks().get('a')).toMatchObject({ id: second, outcome: 'refused' });
  });

  it('says that it holds, four times a second, until it lets go; once', async () => {
    const { client, latest } = start();
    latest().open();
    const release = client.hold('page', 'a');
    const said = () => latest().sent.map(({ t }) => t);
    expect(latest().sent.at(-1)).toEqual({ t: 'press', id: 'press-1', page: 'page', control: 'a', gesture: 'hold' });
    await new Promise((resolve) => setTimeout(resolve, 620));
    release();
    release();
    expect(said().filter((t) => t === 'still').length).toBe(2);
    expect(said().filter((t) => t === 'release').length).toBe(1);
    const before = said().length;
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(said().length).toBe(before);
  });

  it('says that a guarded press was meant', () => {
    const { client, latest } = start();
    latest().open();
    client.press('page', 'a', 'tap', true);
    expect(latest().sent.at(-1)).toMatchObject({ t: 'press', gesture: 'tap', guard: true });
  });
});
