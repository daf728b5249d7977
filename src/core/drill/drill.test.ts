import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drillFaults, type DrillFault } from '../show';
import { accountOf, lifted, seen, type DrillEvent, type FaultAccount } from '.';

const start = 1_800_000_000_000;
const fault = (is: DrillFault, more: Partial<FaultAccount> = {}): FaultAccount => ({
  fault: is,
  subject: 'cam',
  name: 'C2 Mid-course',
  afterSeconds: 5,
  causedAt: start,
  ...more,
});
const after = (from: FaultAccount, events: readonly (readonly [ms: number, event: DrillEvent])[]) =>
  events.reduce((now, [ms, event]) => accountOf(now, event, start + ms), from);
const link = (word: 'up' | 'down' | 'silent' | 'locked out' | 'occupied' | 'calling', device = 'cam'): DrillEvent => ({
  is: 'link',
  device,
  word,
});

describe('the account of a fault', () => {
  it('tells when it was noticed, named and mended', () => {
    const now = after(fault('off'), [
      [200, link('silent')],
      [900, link('down')],
      [950, link('calling')],
      [5000, link('up')],
    ]);
    expect(now).toMatchObject({
      noticedMs: 200,
      noticedBy: 'link silent',
      namedMs: 900,
      namedAs: 'down',
      liftedMs: 5000,
      mendedMs: 5000,
    });
  });

  it.each([
    ['password', 'locked out'],
    ['taken', 'occupied'],
    ['silent', 'silent'],
  ] as const)('is named as what it is: %s', (is, word) => {
    expect(after(fault(is), [[300, link('down')]]).namedMs).toBeUndefined();
    expect(after(fault(is), [[300, link(word)]])).toMatchObject({ noticedMs: 300, namedMs: 300, namedAs: word });
  });

  it('of a slow device is noticed by a press and named by health, and ends when the fault is taken away', () => {
    const slow = after(fault('slow'), [
      [100, link('up')],
      [700, { is: 'failed press', device: 'cam', outcome: 'late' }],
      [9000, { is: 'concern', device: 'cam', code: 'slow', text: 'C2 answers 9 times slower.' }],
    ]);
    expect(slow).toMatchObject({ noticedMs: 700, namedMs: 9000 });
    expect(slow.mendedMs).toBeUndefined();
    const gone = accountOf(lifted(slow, start + 10_000), link('up'), start + 10_000);
    expect(gone).toMatchObject({ liftedMs: 10_000, mendedMs: 10_000 });
  });

  it('of a panel and of the engine counts screens and the return', () => {
    const away = after(fault('panel', { subject: 'pan' }), [[50, { is: 'screens', panel: 'pan', count: 0 }]]);
    expect(away).toMatchObject({ noticedMs: 50, namedMs: 50 });
    expect(after(away, [[60, { is: 'screens', panel: 'pan', count: 1 }]]).mendedMs).toBeUndefined();
    const back = accountOf(lifted(away, start + 80), { is: 'screens', panel: 'pan', count: 1 }, start + 90);
    expect(back.mendedMs).toBe(90);
    expect(after(fault('engine', { subject: '' }), [[1500, { is: 'engine back' }]])).toMatchObject({ mendedMs: 1500 });
  });

  it('is not touched by other devices, before it was caused, or after it was mended', () => {
    const early = fault('off', { causedAt: undefined } as Partial<FaultAccount>);
    expect(after(early, [[10, link('down')]])).toBe(early);
    const here = fault('off');
    expect(after(here, [[10, link('down', 'other')]])).toBe(here);
    const done = fault('off', { noticedMs: 1, namedMs: 1, mendedMs: 2 });
    expect(after(done, [[10, link('down')]])).toBe(done);
  });

  it('keeps who has seen it first', () => {
    const now = seen(seen(fault('off'), 'Ada', start + 400), 'Ben', start + 900);
    expect(now).toMatchObject({ seenMs: 400, seenBy: 'Ada' });
  });

  it('never goes back, whatever happens in which order', () => {
    const event = fc.oneof(
      fc
        .constantFrom(...(['up', 'down', 'silent', 'locked out', 'occupied', 'calling'] as const))
        .map((word) => link(word)),
      fc.constant<DrillEvent>({ is: 'concern', device: 'cam', code: 'slow', text: 'slow' }),
      fc.constant<DrillEvent>({ is: 'failed press', device: 'cam', outcome: 'late' }),
      fc.integer({ min: 0, max: 2 }).map((count): DrillEvent => ({ is: 'screens', panel: 'cam', count })),
    );
    let mended = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...drillFaults),
        fc.array(event, { maxLength: 12 }),
        fc.nat(12),
        (is, events, liftAt) => {
          let now = fault(is);
          events.forEach((each, n) => {
            const before = now;
            now = accountOf(n === liftAt ? lifted(now, start + n * 100) : now, each, start + n * 100);
            for (const key of ['noticedMs', 'namedMs', 'liftedMs', 'mendedMs'] as const)
              if (before[key] !== undefined) expect(now[key]).toBe(before[key]);
          });
          if (now.namedMs !== undefined) expect(now.noticedMs).toBeLessThanOrEqual(now.namedMs);
          if (now.mendedMs === undefined) return;
          mended += 1;
          expect(now.liftedMs).toBeLessThanOrEqual(now.mendedMs);
        },
      ),
      { numRuns: 800 },
    );
    expect(mended).toBeGreaterThan(10);
  });
});
