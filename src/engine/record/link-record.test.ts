import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { AsRunEntry } from './as-run';
import type { DeviceStatus } from '../../core/live';
import type { Link } from '../../core/session';
import type { LinkChange } from '../parts';
import { LinkRecord } from './link-record';

const change = (device: string, tag: string, word: Link['word']): LinkChange => ({
  device,
  status: { tag, link: { word } } as DeviceStatus,
  before: 'calling',
  isPassing: word === 'calling',
});

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('puts every change of a steady link on record, and one that comes and goes once a minute with a count', () => {
  const rows: AsRunEntry[] = [];
  const record = new LinkRecord((entry) => rows.push(entry));
  for (const word of ['up', 'down'] as const) record.onLink(change('dev-m1', 'M1', word));
  vi.advanceTimersByTime(11_000);
  expect(rows).toHaveLength(2);
  for (let n = 0; n < 600; n += 1) {
    record.onLink(change('dev-m1', 'M1', n % 2 ? 'down' : 'up'));
    record.onLink(change('dev-sw1', 'SW1', 'up'));
    vi.advanceTimersByTime(200);
  }
  expect(record.flapping.map(({ device }) => device)).toEqual(['M1', 'SW1']);
  vi.advanceTimersByTime(11_000);
  expect(record.flapping).toEqual([]);
  const counts = rows.flatMap((row) =>
    row.kind === 'link' && row.device === 'M1' && row.changes !== undefined ? [row.changes] : [],
  );
  // Two minutes: two counts and the rest, and nothing is counted twice or left out.
  expect(counts.length).toBeLessThanOrEqual(3);
  expect(counts.reduce((a, b) => a + b, 0)).toBe(600 - 6);
  expect(rows.at(-1)).toMatchObject({ kind: 'link', link: { word: 'up' } });
});

it('says what was counted when the engine stops', () => {
  const rows: AsRunEntry[] = [];
  const record = new LinkRecord((entry) => rows.push(entry));
  for (let n = 0; n < 8; n += 1) record.onLink(change('dev-m1', 'M1', n % 2 ? 'down' : 'up'));
  record.stop();
  expect(rows.at(-1)).toMatchObject({ changes: 2, link: { word: 'down' } });
});
