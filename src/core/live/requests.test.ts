import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keptWire, mostOnWire } from './wire-rows';
import { clientMessageSchema, readPress } from './requests';
import type { WireRow } from './topics';

it('reads a press by the short way exactly when the schema would', () => {
  const id = fc.oneof(
    fc.constantFrom('press-1', 'ctl_A-9', 'short', '', 'x'.repeat(41), 'with space'),
    fc.string(),
    fc.integer(),
  );
  const message = fc.record(
    {
      t: fc.constantFrom('press', 'ask', 'pres'),
      id,
      page: id,
      control: id,
      gesture: fc.constantFrom('tap', 'hold', 'wave', undefined),
      guard: fc.oneof(fc.boolean(), fc.constant('yes')),
      more: fc.boolean(),
    },
    { requiredKeys: ['t', 'id', 'page', 'control', 'gesture'] },
  );
  fc.assert(
    fc.property(fc.oneof({ weight: 8, arbitrary: message }, fc.anything()), (value) => {
      const short = readPress(value);
      const parsed = clientMessageSchema.safeParse(value);
      expect(short).toEqual(parsed.success && parsed.data.t === 'press' ? parsed.data : undefined);
    }),
    { numRuns: 2000 },
  );
});

describe('the wire as a screen keeps it', () => {
  const row = (n: number, note?: string): WireRow => ({ n, at: n, device: 'd', dir: 'out', hex: '', note });

  it('keeps what was sent for long, however much is polled meanwhile', () => {
    const rows = [row(1), ...Array.from({ length: 5000 }, (_, n) => row(n + 2, 'poll')), row(6000)];
    const kept = keptWire(rows);
    expect(kept.length).toBeLessThanOrEqual(mostOnWire);
    expect([kept[0]?.n, kept.at(-1)?.n]).toEqual([1, 6000]);
    expect([...kept].sort((a, b) => a.n - b.n)).toEqual(kept);
  });

  it('keeps everything while there is room', () => {
    const rows = [row(1, 'poll'), row(2)];
    expect(keptWire(rows)).toBe(rows);
  });
});
