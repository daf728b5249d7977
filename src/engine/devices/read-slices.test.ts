import { expect, it } from 'vitest';
import { ReadSlices, type Reader } from './read-slices';

/** Keeps the processor busy, as reading a frame does. */
function work(ms: number): void {
  const until = performance.now() + ms;
  while (performance.now() < until);
}

/** A device with so many frames to read, each of which takes a while. */
class Frames implements Reader {
  constructor(
    private readonly turn: ReadSlices,
    readonly name: string,
    private left: number,
    private readonly log: string[],
  ) {}

  readonly read = (isOver: () => boolean): void => {
    while (this.left > 0) {
      work(0.2);
      this.log.push(this.name);
      this.left -= 1;
      if (isOver()) break;
    }
    if (this.left > 0) this.turn.ask(this);
  };
}

it('reads at once when nothing else is to be read', () => {
  const log: string[] = [];
  const turn = new ReadSlices();
  turn.ask(new Frames(turn, 'a', 1, log));
  expect(log).toEqual(['a']);
});

it('reads everything of everybody, in turns, and lets a press in between', async () => {
  const log: string[] = [];
  const turn = new ReadSlices();
  for (let n = 0; n < 40; n += 1) turn.ask(new Frames(turn, `d${n}`, 5, log));
  // 200 frames of 0.2 ms: 40 ms if they were read in one go.
  expect(log.length).toBeLessThan(40);
  setTimeout(() => log.push('press'), 1);
  await expect.poll(() => log.length, { timeout: 5000, interval: 5 }).toBe(201);
  expect(log.indexOf('press')).toBeLessThan(100);
  for (let n = 0; n < 40; n += 1) expect(log.filter((name) => name === `d${n}`)).toHaveLength(5);
});

it('serves waiting readers before those that ask again', async () => {
  const log: string[] = [];
  const turn = new ReadSlices();
  for (const name of ['flood', 'a', 'b']) turn.ask(new Frames(turn, name, name === 'flood' ? 100 : 1, log));
  await expect.poll(() => log.length, { timeout: 5000, interval: 5 }).toBe(102);
  expect(Math.max(log.indexOf('a'), log.indexOf('b'))).toBeLessThan(30);
});
