import fc from 'fast-check';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { WireRow } from '../../core/live';
import { RowRing } from './row-ring';
import { WireLog } from './wire-log';

const bytes = (text: string) => new TextEncoder().encode(text);
const textOf = ({ hex }: WireRow) => Buffer.from(hex, 'hex').toString();

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('keeps the newest rows of a ring, oldest first, each cut at its limit', () => {
  const ring = new RowRing({ bytes: 1000, rows: 3, rowBytes: 4, recent: 3 });
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
  const ring = new RowRing(
    { bytes: 1000, rows: 2, rowBytes: 4, recent: 2 },
    (device, { name }) => `${device}: ${name ?? ''} in words`,
  );
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

it('keeps as many rows as fit, and gives all of them in pieces', () => {
  const ring = new RowRing({ bytes: 1000, rows: 100, rowBytes: 300, recent: 2 });
  const kept: WireRow[] = [];
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 400 }), fc.boolean(), (length, isPressed) => {
      const n = (kept.at(-1)?.n ?? 0) + 1;
      const raw = new Uint8Array(length).fill(n & 255);
      const about = { name: `c${n % 3}`, ...(isPressed ? { press: `press ${n}` } : {}) };
      ring.put(n, n, 'd', 'out', raw, undefined, about);
      const hex = Buffer.from(raw.subarray(0, 300)).toString('hex');
      const note = length > 300 ? `${length} bytes, the first 300 shown` : undefined;
      kept.push({ n, at: n, device: 'd', dir: 'out', hex, note, ...about });
      const rows = ring.between(0, Infinity);
      expect(rows).toEqual(kept.slice(-rows.length));
      // At the end of the room up to one row and its press are passed over.
      const size = rows.reduce((sum, row) => sum + row.hex.length / 2 + (row.press?.length ?? 0), 0);
      if (rows.length < Math.min(100, kept.length)) expect(size).toBeGreaterThan(1000 - 3 * 380);
      const pieces: WireRow[] = [];
      for (let piece = ring.oldestAfter(0, 3); piece.length > 0; piece = ring.oldestAfter(pieces.at(-1)?.n ?? 0, 3))
        pieces.push(...piece);
      expect(pieces).toEqual(rows);
    }),
    { numRuns: 400 },
  );
});

it('keeps far more than screens are told, and gives both kinds in one order', () => {
  const log = new WireLog(
    () => false,
    () => undefined,
  );
  for (let n = 1; n <= 9000; n += 1) log.record('d', 'in', bytes(`${n}`), n % 3 === 0 ? 'report' : undefined);
  expect(log.view.rows).toHaveLength(2000);
  const all: WireRow[] = [];
  for (;;) {
    const { rows, last } = log.page(all.at(-1)?.n ?? 0, 700);
    all.push(...rows);
    if (rows.length === 0) break;
    expect(last).toBe(9000);
  }
  expect(all.map((row) => Number(textOf(row)))).toEqual(Array.from({ length: 9000 }, (_, n) => n + 1));
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
