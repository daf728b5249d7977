import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SacnPacket } from '../wire';
import { fromHex } from '../wire';
import { DmxSources, sourceLostMs, umdShown } from '.';

const packet = (more: Partial<SacnPacket>): SacnPacket => ({
  cid: Uint8Array.from({ length: 16 }, () => 1),
  sourceName: 'desk',
  priority: 100,
  sequence: 0,
  isPreview: false,
  isTerminated: false,
  universe: 1,
  startCode: 0,
  slots: Uint8Array.of(10),
  ...more,
});
const other = Uint8Array.from({ length: 16 }, () => 2);
const now = (sources: DmxSources, at = 0) => sources.levels(at)?.[0];

describe('the levels of a universe', () => {
  it('are those of the highest priority, of equals those that were heard last', () => {
    const sources = new DmxSources(1);
    expect(now(sources)).toBeUndefined();
    sources.take(packet({}), 0);
    sources.take(packet({ cid: other, slots: Uint8Array.of(20) }), 0);
    expect(now(sources)).toBe(20);
    sources.take(packet({ sequence: 1, priority: 150, slots: Uint8Array.of(30) }), 0);
    sources.take(packet({ cid: other, sequence: 1, slots: Uint8Array.of(40) }), 0);
    expect(now(sources)).toBe(30);
    // The one that goes leaves the other.
    sources.take(packet({ sequence: 2, isTerminated: true }), 0);
    expect(now(sources)).toBe(40);
  });

  it('are gone when nobody has sent for a while (ANSI E1.31, 6.7.1)', () => {
    const sources = new DmxSources(1);
    sources.take(packet({}), 0);
    expect(now(sources, sourceLostMs)).toBe(10);
    expect(now(sources, sourceLostMs + 1)).toBeUndefined();
  });

  it.each([
    ['of another universe', { universe: 2 }],
    ['of a preview', { isPreview: true }],
    ['with another start code', { startCode: 0xdd }],
    ['a little behind the last one (6.7.2)', { sequence: 90 }],
    ['that came before', { sequence: 100 }],
  ])('are not those %s', (_, more) => {
    const sources = new DmxSources(1);
    sources.take(packet({ sequence: 100 }), 0);
    expect(sources.take(packet({ sequence: 101, slots: Uint8Array.of(99), ...more }), 0)).toBe(false);
    expect(now(sources)).toBe(10);
  });

  it('go on over the end of the numbers, and after a source began anew', () => {
    const sources = new DmxSources(1);
    sources.take(packet({ sequence: 255 }), 0);
    expect(sources.take(packet({ sequence: 0, slots: Uint8Array.of(11) }), 0)).toBe(true);
    expect(sources.take(packet({ sequence: 100, slots: Uint8Array.of(12) }), 0)).toBe(true);
    expect(sources.take(packet({ sequence: 2, slots: Uint8Array.of(13) }), 0)).toBe(true);
    expect(now(sources)).toBe(13);
  });

  it('do not grow with made-up sources', () => {
    const sources = new DmxSources(1);
    for (let n = 0; n < 1000; n += 1) sources.take(packet({ cid: Uint8Array.of(n & 255, n >> 8) }), 0);
    expect((sources as unknown as { sources: Map<string, unknown> }).sources.size).toBeLessThanOrEqual(16);
  });
});

describe('what a display of another system shows', () => {
  const read = (hex: string) => {
    const bytes = fromHex(hex.replaceAll(' ', ''));
    return bytes.ok ? umdShown(bytes.value) : undefined;
  };
  const name = '43414D2031' + '20'.repeat(11);

  it.each([
    ['version 3.1, red', `83 31 ${name}`, [{ display: 3, text: 'CAM 1', left: 'red', right: 'off' }]],
    [
      'version 3.1, two displays in one datagram',
      `83 31 ${name} 84 32 ${name}`,
      [
        { display: 3, text: 'CAM 1', left: 'red', right: 'off' },
        { display: 4, text: 'CAM 1', left: 'off', right: 'green' },
      ],
    ],
    ['version 5.0, left red and right green', '1000 00 00 0000 0300 1200 0500 43414D2031', undefined],
    [
      'version 5.0',
      '0F00 00 00 0000 0300 1200 0500 43414D2031',
      [{ display: 3, text: 'CAM 1', left: 'red', right: 'green' }],
    ],
    ['nothing of the kind', '474554202F', undefined],
  ])('%s', (_, hex, shown) => {
    const found = read(hex);
    if (shown) expect(found).toEqual({ ok: true, value: shown });
    else expect(found?.ok).toBe(false);
  });

  it('never throws', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => void umdShown(bytes)));
  });
});
