import { describe, expect, it } from 'vitest';
import { RowRing } from './row-ring';

const bytes = new TextEncoder().encode('REC?');

describe('the ring of wire rows', () => {
  it('names devices and commands also after more different remarks than it can number', () => {
    const ring = new RowRing({ bytes: 4096, rows: 16, rowBytes: 64, recent: 8 });
    for (let n = 1; n <= 70_000; n += 1) ring.put(n, n, 'sw1', 'note', bytes, `the device said ${n}`);
    ring.put(70_001, 70_001, 'late-device', 'out', bytes, undefined, { name: 'late-command' });
    expect(ring.between(70_000, 70_001)).toMatchObject([{ n: 70_001, device: 'late-device', name: 'late-command' }]);
  });
});
