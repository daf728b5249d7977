import { describe, expect, it } from 'vitest';
import type { Arrived } from '../../core/wire';
import { Inbox } from './inbox';
import { ReadSlices } from './read-slices';

const frame = (n: number): Arrived => ({ raw: new Uint8Array([n]), says: [] });

/** An inbox that notes what it reads; `onRead` may do something at each frame. */
function made(onRead: (n: number, inbox: Inbox) => void = () => undefined) {
  const read: number[] = [];
  const dropped: number[] = [];
  const held: boolean[] = [];
  const inbox: Inbox = new Inbox(
    new ReadSlices(),
    ({ raw: [n = 0] }) => {
      read.push(n);
      onRead(n, inbox);
    },
    () => undefined,
    (isHeld) => held.push(isHeld),
    (count) => dropped.push(count),
  );
  return { inbox, read, dropped, held };
}

const turns = async () => {
  for (let n = 0; n < 50; n += 1) await new Promise((resolve) => setImmediate(resolve));
};

describe('the inbox of a device', () => {
  it('reads each frame once and in order, also when one of them has the rest read at once', async () => {
    const { inbox, read } = made((n, self) => {
      if (n === 2) self.drain();
    });
    inbox.push([1, 2, 3, 4].map(frame));
    await turns();
    inbox.push([5].map(frame));
    await turns();
    expect(read).toEqual([1, 2, 3, 4, 5]);
  });

  it('forgets what came before when the connection ends at a frame', async () => {
    const { inbox, read } = made((n, self) => {
      if (n === 2) self.clear();
    });
    inbox.push([1, 2, 3].map(frame));
    inbox.push([4].map(frame));
    await turns();
    inbox.push([5].map(frame));
    await turns();
    expect(read.filter((n) => n === 3)).toEqual([]);
    expect(read.at(-1)).toBe(5);
  });

  it('takes in only so much, says how much was dropped, and goes on', async () => {
    const { inbox, read, dropped, held } = made();
    // The first turn is over at once where another device is being read; here they all wait for it.
    const flood = Array.from({ length: 6000 }, (_, n) => frame(n % 200));
    inbox.push(flood);
    await turns();
    expect(read.length + dropped.reduce((a, b) => a + b, 0)).toBe(6000);
    expect(read.length).toBeGreaterThanOrEqual(5000);
    expect(held.at(-1) ?? false).toBe(false);
    inbox.push([201].map(frame));
    await turns();
    expect(read.at(-1)).toBe(201);
  });
});
