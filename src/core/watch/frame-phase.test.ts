import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FramePhase, framesApart } from './frame-phase';

const frameMs = 40;

describe('the phase of a device', () => {
  it('is learned from reports that come with its frames, on both sides of their beginning', () => {
    const phase = new FramePhase(frameMs);
    for (const [n, late] of [0, 0.5, -0.4, 0.8, 0.1].entries()) phase.report(1000 + n * 7 * frameMs + late);
    expect(phase.since(1000 + 100 * frameMs + 13)).toBeCloseTo(13 - 0.2, 0);
  });

  it('is learned although some reports were heard late', () => {
    const phase = new FramePhase(frameMs);
    for (const [n, late] of [0, 0.5, 17, 0.8, 0.1, 31, 0.2, 0].entries()) phase.report(n * 5 * frameMs + late);
    expect(phase.since(1000 * frameMs + 13)).toBeCloseTo(13 - 0.3, 0);
  });

  it('is not known after too few reports, after a long time, or when they do not agree', () => {
    const few = new FramePhase(frameMs);
    few.report(0);
    few.report(40);
    expect(few.since(50)).toBeUndefined();
    const old = new FramePhase(frameMs);
    for (let n = 0; n < 6; n += 1) old.report(n * frameMs);
    expect(old.since(300)).toBeDefined();
    expect(old.since(300_000)).toBeUndefined();
    const odd = new FramePhase(frameMs);
    for (const at of [0, 13, 27, 101, 155, 190]) odd.report(at);
    expect(odd.since(200)).toBeUndefined();
  });
});

describe('two commands so many frames apart', () => {
  it('fall into the right frames at any moment, also when both are a little late', () => {
    let unsure = 0;
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: frameMs, noNaN: true }),
        fc.integer({ min: 1, max: 50 }),
        fc.double({ min: 0, max: 1.5, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        (since, frames, late, later) => {
          const { first, second } = framesApart(frames, frameMs, since);
          if (first > 0) unsure += 1;
          const frameOf = (ms: number) => Math.floor((since + ms) / frameMs);
          expect(frameOf(second + later) - frameOf(first + late)).toBe(frames);
          expect(first).toBeLessThanOrEqual(4);
          expect(Math.abs(second - frames * frameMs)).toBeLessThanOrEqual(frameMs / 2 + 4);
        },
      ),
      { numRuns: 1000 },
    );
    expect(unsure).toBeGreaterThan(20);
  });

  it('are the plain time apart where the phase is not known, and together without a pre-roll', () => {
    expect(framesApart(12, frameMs, undefined)).toEqual({ first: 0, second: 480 });
    expect(framesApart(0, frameMs, 13)).toEqual({ first: 0, second: 0 });
  });
});
