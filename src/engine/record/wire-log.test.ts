import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { WireRow } from '../../core/live';
import { RowRing } from './row-ring';
import { WireLog } from './wire-log';

const bytes = (text: string) => new TextEncoder().encode(text);
const textOf = ({ hex }: WireRow) => Buffer.from(hex, 'hex').toString();

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('keeps the newest rows of a ring, oldest first, each cut at its limit', () => {
  const ring = new RowRing(3, 4);
  for (const [n, text] of ['one', 'two', 'three', 'four'].entries())
    ring.put(n + 1, 10 * n, 'd', 'in', bytes(text), undefined);
  const rows = ring.between(0, 9);
  expect(rows.map((row) => [row.n, row.at, textOf(row), row.note])).toEqual([
    [2, 10, 'two', undefined],
    [3, 20, 'thre', '5 bytes, the first 4 shown'],
    [4, 30, 'four', undefined],
  ]);
  expect(ring.between(2, 3).map(({ n }) => n)).toEqual([3]);
});

it('keeps what a row belongs to with it, and nothing of the row that it takes the place of', () => {
  const ring = new RowRing(2, 4, (device, { name }) => `${device}: ${name ?? ''} in words`);
  const prepared = { command: {} as never, given: {} };
  ring.put(1, 0, 'd', 'out', bytes('a'), undefined, { name: 'take', press: 'p1', prepared });
  ring.put(2, 0, 'd', 'in', bytes('b'), undefined, { name: 'take', press: 'p1' });
  const about = () => ring.between(0, 9).map(({ name, says, press }) => [name, says, press]);
  expect(about()).toEqual([
    ['take', 'd: take in words', 'p1'],
    ['take', undefined, 'p1'],
  ]);
  ring.put(3, 0, 'd', 'in', bytes('c'));
  expect(about().at(-1)).toEqual([undefined, undefined, undefined]);
});

it('tells followers each row once, whenever they joined', () => {
  let followed = false;
  const told: number[] = [];
  const log = new WireLog(
    () => followed,
    (rows) => told.push(...rows.map(({ n }) => n)),
  );
  log.record('d', 'out', bytes('a'));
  vi.advanceTimersByTime(1000);
  followed = true;
  const first = log.view.rows.map(({ n }) => n);
  log.record('d', 'in', bytes('b'));
  // A second one joins while a batch is on its way.
  const second = log.view.rows.map(({ n }) => n);
  log.record('d', 'in', bytes('c'), 'poll');
  vi.advanceTimersByTime(50);
  expect([first, second, told]).toEqual([[1], [1], [2, 3]]);
  log.stop();
});

it('does not let what comes by itself wash away what was sent', () => {
  const log = new WireLog(
    () => false,
    () => undefined,
  );
  log.record('d', 'out', bytes('CUT'));
  for (let n = 0; n < 10_000; n += 1) log.record('d', 'in', bytes('.'), 'report');
  const { rows } = log.view;
  expect(rows[0] && textOf(rows[0])).toBe('CUT');
  expect(rows).toHaveLength(601);
});
