import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bindingAs,
  firstAxis,
  notch,
  notchesOf,
  otherAxis,
  outOfDeadZone,
  PickUp,
  readBindings,
  readMidi,
  rockerWay,
  writeMidi,
  type Binding,
} from '.';
import type { EncoderCoding } from '../show';

describe('MIDI', () => {
  it.each<[string, number[], unknown]>([
    ['note on, channel 1', [0x90, 60, 127], { input: 'note 1 60', value: 1, down: true }],
    ['note on without velocity is off', [0x9f, 60, 0], { input: 'note 16 60', value: 0, down: false }],
    ['note off', [0x81, 61, 64], { input: 'note 2 61', value: 0, down: false }],
    ['control change', [0xb0, 7, 0], { input: 'cc 1 7', value: 0, raw: 0 }],
    ['pitch bend at its end', [0xe2, 0x7f, 0x7f], { input: 'bend 3', value: 1 }],
    ['a channel mode message', [0xb0, 123, 0], undefined],
    ['a clock', [0xf8], undefined],
    ['system exclusive', [0xf0, 1, 2, 0xf7], undefined],
    ['program change', [0xc0, 5], { input: 'program 1 5', value: 1, down: true, momentary: true }],
    ['pressure of a channel', [0xd1, 127], { input: 'pressure 2', value: 1 }],
    ['pressure of a key', [0xa0, 60, 0], { input: 'pressure 1 60', value: 0 }],
    ['pressure of a key, cut off', [0xa0, 60], undefined],
    ['a message cut off', [0x90, 60], undefined],
    ['data without a status', [60, 127, 1], undefined],
    ['nothing', [], undefined],
  ])('%s', (_name, bytes, event) => {
    expect(readMidi(bytes)).toEqual(event);
  });

  it('what is sent back is what would come from there', () => {
    const input = fc.oneof(
      fc.tuple(fc.integer({ min: 1, max: 16 }), fc.integer({ min: 0, max: 127 })).map(([c, n]) => `note ${c} ${n}`),
      fc.tuple(fc.integer({ min: 1, max: 16 }), fc.integer({ min: 0, max: 119 })).map(([c, n]) => `cc ${c} ${n}`),
      fc.integer({ min: 1, max: 16 }).map((c) => `bend ${c}`),
    );
    fc.assert(
      fc.property(input, fc.double({ min: 0, max: 1, noNaN: true }), (name, value) => {
        const event = readMidi(writeMidi(name, value) ?? []);
        expect(event?.input).toBe(name);
        expect(event?.value).toBeCloseTo(value, 2);
      }),
    );
    expect(writeMidi('button 0', 1)).toBeUndefined();
    expect(writeMidi('note 99 1', 1)).toBeUndefined();
  });

  it('random bytes never throw', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 8 }), (bytes) => void readMidi(bytes)));
  });
});

describe('bindings', () => {
  it.each([
    ['button', { input: 'note 1 60', value: 1, down: true }, 'press'],
    ['button', { input: 'cc 1 7', value: 1 }, 'press'],
    ['fader', { input: 'cc 1 7', value: 1 }, 'turn'],
    ['fader', { input: 'note 1 60', value: 1, down: true }, undefined],
    ['fader', { input: 'pressure 1 60', value: 1 }, 'turn'],
    ['button', { input: 'program 1 5', value: 1, down: true, momentary: true }, 'press'],
    ['fader', { input: 'program 1 5', value: 1, down: true, momentary: true }, undefined],
    ['stick', { input: 'axis 0', value: 1 }, 'stick'],
    ['stick', { input: 'cc 1 7', value: 1 }, undefined],
    ['list', { input: 'note 1 60', value: 1, down: true }, undefined],
  ] as const)('a %s by %o', (type, event, as) => {
    expect(bindingAs(type, undefined, event)).toBe(as);
  });

  it('that were kept are read, and whatever is none is left out', () => {
    const good: Binding = { gear: 'Pads', input: 'note 1 1', page: 'p', control: 'a', as: 'press' };
    const bad = [null, 7, {}, { ...good, as: 'kick' }, { ...good, page: '../x' }, { ...good, gear: '' }];
    expect(readBindings([good, ...bad])).toEqual([good]);
    expect(readBindings('[]')).toEqual([]);
  });

  it('axes go in pairs', () => {
    expect([firstAxis('axis 0'), firstAxis('axis 1'), firstAxis('axis 3'), otherAxis('axis 2')]).toEqual([
      'axis 0',
      'axis 0',
      'axis 2',
      'axis 3',
    ]);
  });
});

describe('a stick', () => {
  it('rests inside its dead zone, reaches its end, and never jumps', () => {
    expect(outOfDeadZone(0.1, -0.05)).toEqual({ x: 0, y: 0 });
    expect(outOfDeadZone(1, 0)).toEqual({ x: 1, y: 0 });
    fc.assert(
      fc.property(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), (x, y) => {
        const at = outOfDeadZone(x, y);
        expect(Math.hypot(at.x, at.y)).toBeLessThanOrEqual(1.0001);
        const further = outOfDeadZone(x * 1.001, y * 1.001);
        expect(Math.hypot(further.x - at.x, further.y - at.y)).toBeLessThan(0.01);
      }),
    );
  });
});

describe('a fader without a motor', () => {
  it('takes hold where it comes past the device, and loses it when somebody else moves that', () => {
    const fader = new PickUp();
    expect([0.1, 0.3, 0.45].map((to) => fader.moved(to, 0.5))).toEqual([false, false, false]);
    expect(fader.moved(0.6, 0.5)).toBe(true);
    expect(fader.moved(0.9, 0.6)).toBe(true);
    // The device stays where the fader left it: it still has hold.
    fader.resumes(0.9);
    expect(fader.moved(0.92, 0.9)).toBe(true);
    fader.resumes(0.2);
    expect(fader.moved(0.95, 0.2)).toBe(false);
    expect(fader.moved(0.21, 0.2)).toBe(true);
  });

  it('takes hold at once where the device says nothing', () => {
    expect(new PickUp().moved(0.7, undefined)).toBe(true);
  });
});

describe('an endless encoder', () => {
  it.each<[EncoderCoding, readonly (readonly [raw: number, notches: number])[]]>([
    [
      'twos',
      [
        [1, 1],
        [5, 5],
        [127, -1],
        [120, -8],
        [0, 0],
      ],
    ],
    [
      'offset',
      [
        [65, 1],
        [63, -1],
        [64, 0],
        [70, 6],
      ],
    ],
    [
      'sign',
      [
        [1, 1],
        [65, -1],
        [67, -3],
        [0, 0],
      ],
    ],
  ])('says in %s how far it was turned', (coding, rows) => {
    for (const [raw, notches] of rows) expect([raw, notchesOf(coding, raw)]).toEqual([raw, notches]);
  });

  it('goes as far one way as the other, in every coding', () => {
    const mirrored = { twos: (n: number) => 128 - n, offset: (n: number) => 128 - n, sign: (n: number) => n + 64 };
    for (const coding of ['twos', 'offset', 'sign'] as const)
      for (let n = 1; n < 60; n += 1) {
        const raw = coding === 'offset' ? 64 + n : n;
        const other = coding === 'offset' ? 64 - n : mirrored[coding](n);
        expect(notchesOf(coding, raw) + notchesOf(coding, other)).toBe(0);
      }
  });
});

describe('a rocker', () => {
  it.each([
    ['axis 1', -1, 1],
    ['axis 3', 1, -1],
    ['axis 2', 0.5, 0.5],
    ['bend 1', 1, 1],
    ['cc 1 7', 0, -1],
  ])('%s at %s is %s up', (input, value, way) => expect(rockerWay(input, value)).toBe(way));
});

describe('a notch', () => {
  it('counts once when turned slowly, as often as it may when turned fast, and never less the faster it is', () => {
    expect(notch(0.5, 8, Infinity)).toBe(0.5);
    expect(notch(0.5, 8, 10)).toBe(4);
    expect(notch(0.5, 1, 10)).toBe(0.5);
    fc.assert(
      fc.property(fc.nat(400), fc.nat(400), fc.double({ min: 1, max: 50, noNaN: true }), (a, b, quicken) => {
        const [fast, slow] = [notch(1, quicken, Math.min(a, b)), notch(1, quicken, Math.max(a, b))];
        expect(fast).toBeGreaterThanOrEqual(slow);
        expect(slow).toBeGreaterThanOrEqual(1);
        expect(fast).toBeLessThanOrEqual(quicken + 1e-9);
      }),
    );
  });
});
