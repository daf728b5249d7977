import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../hex';
import { decodeMidi, encodeMidi, MidiFramer, midiOf, midiText, type MidiMessage } from '.';

const bytes = (hex: string): Uint8Array => {
  const read = fromHex(hex);
  if (!read.ok) throw new Error(hex);
  return read.value;
};

/** MIDI 1.0 Detailed Specification 4.2.1, tables II to VI; machine control RP-013; show control RP-002. */
const vectors: readonly (readonly [name: string, hex: string, line: string, message: MidiMessage])[] = [
  ['note off', '80 3C 40', 'noteOff 1 60 64', { kind: 'noteOff', channel: 1, number: 60, value: 64 }],
  ['note on', '9F 00 7F', 'noteOn 16 0 127', { kind: 'noteOn', channel: 16, number: 0, value: 127 }],
  ['polyphonic pressure', 'A1 3C 01', 'keyPressure 2 60 1', { kind: 'keyPressure', channel: 2, number: 60, value: 1 }],
  ['control change', 'B0 07 7F', 'control 1 7 127', { kind: 'control', channel: 1, number: 7, value: 127 }],
  ['program change', 'C9 05', 'program 10 5', { kind: 'program', channel: 10, value: 5 }],
  ['channel pressure', 'D0 40', 'pressure 1 64', { kind: 'pressure', channel: 1, value: 64 }],
  ['pitch bend, middle', 'E0 00 40', 'bend 1 8192', { kind: 'bend', channel: 1, value: 8192 }],
  ['pitch bend, highest', 'E0 7F 7F', 'bend 1 16383', { kind: 'bend', channel: 1, value: 16_383 }],
  ['quarter frame', 'F1 35', 'quarterFrame 53', { kind: 'quarterFrame', value: 0x35 }],
  ['song position', 'F2 08 01', 'songPosition 136', { kind: 'songPosition', value: 136 }],
  ['song select', 'F3 02', 'songSelect 2', { kind: 'songSelect', value: 2 }],
  ['tune request', 'F6', 'tuneRequest', { kind: 'tuneRequest', value: 0 }],
  ['start', 'FA', 'start', { kind: 'start', value: 0 }],
  ['continue', 'FB', 'continue', { kind: 'continue', value: 0 }],
  ['stop', 'FC', 'stop', { kind: 'stop', value: 0 }],
  ['reset', 'FF', 'reset', { kind: 'reset', value: 0 }],
  [
    'machine control: play',
    'F0 7F 7F 06 02 F7',
    'exclusive 7F 7F 06 02',
    { kind: 'exclusive', data: bytes('7F7F0602') },
  ],
  ['an empty exclusive', 'F0 F7', 'exclusive', { kind: 'exclusive', data: new Uint8Array() }],
];

describe.each(vectors)('%s', (_name, hex, line, message) => {
  const raw = bytes(hex);
  it('is written and read', () => {
    expect(encodeMidi(message)).toEqual({ ok: true, value: raw });
    expect(decodeMidi(raw)).toEqual({ ok: true, value: message });
  });

  it('is a line, and the line is it', () => {
    expect(midiText(message)).toBe(line);
    expect(midiOf(line)).toEqual({ ok: true, value: message });
  });

  it('is cut from the stream at every split, and twice in a row', () => {
    for (let at = 0; at <= raw.length; at += 1) {
      const framer = new MidiFramer(64);
      const frames = [...framer.push(raw.subarray(0, at)), ...framer.push(raw.subarray(at)), ...framer.push(raw)];
      expect(frames).toEqual([
        { kind: 'message', raw },
        { kind: 'message', raw },
      ]);
    }
  });

  it('is refused when it is cut off, or has a byte too many', () => {
    for (let length = 0; length < raw.length; length += 1) expect(decodeMidi(raw.subarray(0, length)).ok).toBe(false);
    expect(decodeMidi(Uint8Array.of(...raw, 0)).ok).toBe(false);
  });
});

const cut = (hex: string, most = 64) =>
  new MidiFramer(most)
    .push(bytes(hex))
    .map(({ kind, raw }) => (kind === 'message' ? toHex(raw) : `dropped ${toHex(raw)}`));

it.each([
  ['running status', '90 3C 64 3E 65 80 3C 00', ['903C64', '903E65', '803C00']],
  ['a real-time message inside another one', '90 F8 3C FE 64', ['F8', 'FE', '903C64']],
  ['a real-time message inside an exclusive one', 'F0 43 FA 10 F7', ['FA', 'F04310F7']],
  ['running status after a system message, which ends it', '90 3C 64 F1 35 3E', ['903C64', 'F135', 'dropped 3E']],
  ['an exclusive message that a status ends', 'F0 43 10 90 3C 64', ['dropped F04310', '903C64']],
  ['an end without a beginning', 'F7 90 3C 64', ['dropped F7', '903C64']],
  ['undefined statuses', 'F4 F9 FD 90 3C 64', ['dropped F4', 'dropped F9', 'dropped FD', '903C64']],
  ['data that belongs to nothing', '3C 64 90 3C 64', ['dropped 3C', 'dropped 64', '903C64']],
])('the stream is cut right: %s', (_what, hex, wanted) => expect(cut(hex)).toEqual(wanted));

it('an exclusive message longer than allowed is dropped whole, and what follows is read', () => {
  expect(cut('F0 01 02 03 04 05 06 07 08 F7 90 3C 64', 8)).toEqual(['dropped F0010203040506F7', '903C64']);
});

it('random bytes never throw, and whatever is cut can be read', () =>
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 60 }), (stream) => {
      for (const frame of new MidiFramer(16).push(stream))
        if (frame.kind === 'message') expect(decodeMidi(frame.raw).ok).toBe(true);
    }),
    { numRuns: 3000 },
  ));

it.each([
  ['noteOn 17 60 1', 'channel'],
  ['noteOn 1 128 1', '0 to 127'],
  ['bend 1 16384', '16383'],
  ['noteOn 1 60', 'no MIDI message'],
  ['play', 'no MIDI message'],
  ['exclusive 7F F7', '7F'],
  ['exclusive 7', 'hexadecimal'],
  ['control 1 7 1.5', '0 to 127'],
])('%s is refused with a sentence', (line, words) => {
  const read = midiOf(line);
  expect(!read.ok && read.error).toContain(words);
});
