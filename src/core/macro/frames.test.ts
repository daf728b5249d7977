import fc from 'fast-check';
import Timecode from 'smpte-timecode';
import { describe, expect, it } from 'vitest';
import { frameRateSchema, type FrameRate } from '../show';
import { frameAt, frameOfTimecode, msOfFrame, nearestFrame, rateOf, timecodeOf } from './frames';

const rates = frameRateSchema.options;

describe('frames and timecode', () => {
  it.each<[FrameRate, number, string]>([
    // SMPTE ST 12-1, 5.2.2: the numbers 00 and 01 are left out of each minute except every tenth.
    ['29.97 drop', 1799, '00:00:59;29'],
    ['29.97 drop', 1800, '00:01:00;02'],
    ['29.97 drop', 17_981, '00:09:59;29'],
    ['29.97 drop', 17_982, '00:10:00;00'],
    ['29.97 drop', 107_892, '01:00:00;00'],
    ['59.94 drop', 3599, '00:00:59;59'],
    ['59.94 drop', 3600, '00:01:00;04'],
    ['59.94 drop', 35_964, '00:10:00;00'],
    ['29.97', 1800, '00:01:00:00'],
    ['25', 90_000, '01:00:00:00'],
    ['50', -75, '-00:00:01:25'],
    ['23.976', 24, '00:00:01:00'],
  ])('at %s frame %i is %s', (name, frame, text) => {
    const rate = rateOf(name);
    expect(timecodeOf(frame, rate)).toBe(text);
    expect(frameOfTimecode(text, rate)).toEqual({ ok: true, value: frame });
  });

  it('one hour of drop-frame timecode is an hour of time but for a few milliseconds', () => {
    const rate = rateOf('29.97 drop');
    expect(Math.abs(msOfFrame(107_892, rate) - 3_600_000)).toBeLessThan(4);
    expect(msOfFrame(108_000, rateOf('29.97'))).toBeCloseTo(3_603_600, 3);
  });

  it('counts as an independent package does', () => {
    const theirs = {
      '23.976': 23.976,
      '24': 24,
      '25': 25,
      '29.97': 29.97,
      '30': 30,
      '50': 50,
      '59.94': 59.94,
      '60': 60,
    } as const;
    fc.assert(
      fc.property(fc.constantFrom(...rates), fc.integer({ min: 0, max: 2_000_000 }), (name, frame) => {
        const [digits = '', drop] = name.split(' ');
        const other = Timecode(frame, theirs[digits as keyof typeof theirs], drop !== undefined);
        expect(timecodeOf(frame, rateOf(name)).replace(';', ':')).toBe(other.toString().replace(';', ':'));
      }),
    );
  });

  it('comes back from a timecode, and from a time to the same frame', () => {
    fc.assert(
      fc.property(fc.constantFrom(...rates), fc.integer({ min: -500_000, max: 2_500_000 }), (name, frame) => {
        const rate = rateOf(name);
        expect(frameOfTimecode(timecodeOf(frame, rate), rate)).toEqual({ ok: true, value: frame });
        expect(frameAt(msOfFrame(frame, rate), rate)).toBe(frame);
        expect(nearestFrame(msOfFrame(frame, rate) + 3, rate)).toBe(frame);
      }),
    );
  });

  it.each<[FrameRate, string, string]>([
    ['25', '10', 'hours:minutes:seconds:frames'],
    ['25', '00:00:10:25', 'up to 24'],
    ['25', '00:61:00:00', 'up to 59'],
    ['29.97 drop', '00:01:00;01', 'leaves this number out'],
  ])('at %s refuses %s', (name, text, why) => {
    const read = frameOfTimecode(text, rateOf(name));
    expect(read.ok ? '' : read.error).toContain(why);
  });

  it('takes seconds and frames alone', () => {
    expect(frameOfTimecode('2:10', rateOf('25'))).toEqual({ ok: true, value: 60 });
    expect(frameOfTimecode('1:02:10', rateOf('25'))).toEqual({ ok: true, value: 62 * 25 + 10 });
  });
});
