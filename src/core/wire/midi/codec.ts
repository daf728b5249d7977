import { fail, ok, type Result } from '../../result';
import type { DecodeError } from '../decode-error';
import { fromHex, toHex } from '../hex';
import type { MidiMessage } from './messages';
import {
  channelMessages,
  exclusiveEnd,
  exclusiveStart,
  systemMessages,
  type ChannelMessage,
  type SystemMessage,
} from './wire';

const isByte = (value: number): boolean => Number.isInteger(value) && value >= 0 && value <= 127;
const isWide = (value: number): boolean => Number.isInteger(value) && value >= 0 && value <= 16_383;

/** The bytes of a message, with its status byte: nothing is left out by running status. Fails with a sentence for a value that has no room. */
export function encodeMidi(message: MidiMessage): Result<Uint8Array, string> {
  switch (message.kind) {
    case 'exclusive':
      if (message.data.some((byte) => byte > 127)) return fail('Bytes between F0 and F7 must be 7F or lower.');
      return ok(Uint8Array.of(exclusiveStart, ...message.data, exclusiveEnd));
    case 'noteOff':
    case 'noteOn':
    case 'keyPressure':
    case 'control':
    case 'program':
    case 'pressure':
    case 'bend': {
      const { kind, channel, value } = message;
      if (!Number.isInteger(channel) || channel < 1 || channel > 16) return fail('A channel is from 1 to 16.');
      const number = 'number' in message ? message.number : 0;
      if (!isByte(number)) return fail(`${number} is no number from 0 to 127.`);
      if (!(kind === 'bend' ? isWide(value) : isByte(value)))
        return fail(`${value} is no value from 0 to ${kind === 'bend' ? 16_383 : 127}.`);
      const status = channelMessages[kind].status * 16 + channel - 1;
      if (kind === 'bend') return ok(Uint8Array.of(status, value & 127, value >> 7));
      return ok(channelMessages[kind].data === 1 ? Uint8Array.of(status, value) : Uint8Array.of(status, number, value));
    }
    default: {
      const { kind, value } = message;
      const { status, data } = systemMessages[kind];
      if (data > 0 && !(data === 2 ? isWide(value) : isByte(value)))
        return fail(`${value} is no value from 0 to ${data === 2 ? 16_383 : 127}.`);
      if (data === 2) return ok(Uint8Array.of(status, value & 127, value >> 7));
      return ok(data === 1 ? Uint8Array.of(status, value) : Uint8Array.of(status));
    }
  }
}

/** Reads exactly one message, which begins with its status byte. */
export function decodeMidi(bytes: Uint8Array): Result<MidiMessage, DecodeError> {
  const [status = 0, first = 0, second = 0] = bytes;
  const wrong = (offset: number, message: string, code: DecodeError['code'] = 'bad-value') =>
    fail({ code, offset, message });
  if (bytes.length === 0 || status < 0x80) return wrong(0, 'It begins without a status byte.');
  if (status === exclusiveStart) {
    if (bytes.at(-1) !== exclusiveEnd || bytes.length < 2)
      return wrong(bytes.length, 'It does not end with F7.', 'short');
    const data = bytes.slice(1, -1);
    const at = data.findIndex((byte) => byte > 127);
    return at === -1 ? ok({ kind: 'exclusive', data }) : wrong(at + 1, 'Bytes between F0 and F7 must be 7F or lower.');
  }
  const needed = dataBytesOf(status);
  if (needed === undefined) return wrong(0, `${toHex(bytes.subarray(0, 1))} is no status byte of MIDI 1.0.`);
  if (bytes.length !== needed + 1)
    return wrong(
      bytes.length,
      `It has ${bytes.length - 1} data bytes instead of ${needed}.`,
      bytes.length <= needed ? 'short' : 'left-over',
    );
  const at = bytes.subarray(1).findIndex((byte) => byte > 127);
  if (at !== -1) return wrong(at + 1, 'A data byte is above 7F.');
  const wide = first + second * 128;
  if (status >= 0xf0) {
    const kind = systemNames.get(status);
    return kind ? ok({ kind, value: needed === 2 ? wide : first }) : wrong(0, 'unknown');
  }
  const kind = channelNames.get(status >> 4);
  const channel = (status & 15) + 1;
  if (!kind) return wrong(0, 'unknown');
  if (kind === 'bend') return ok({ kind, channel, value: wide });
  if (kind === 'program' || kind === 'pressure') return ok({ kind, channel, value: first });
  return ok({ kind, channel, number: first, value: second });
}

/** How many data bytes follow a status byte; `undefined` for F0, F7 and what MIDI 1.0 leaves undefined. */
export function dataBytesOf(status: number): number | undefined {
  if (status < 0xf0) {
    const kind = channelNames.get(status >> 4);
    return kind && channelMessages[kind].data;
  }
  const kind = systemNames.get(status);
  return kind && systemMessages[kind].data;
}

const channelNames = new Map(
  (Object.keys(channelMessages) as ChannelMessage[]).map((kind) => [channelMessages[kind].status as number, kind]),
);
const systemNames = new Map(
  (Object.keys(systemMessages) as SystemMessage[]).map((kind) => [systemMessages[kind].status as number, kind]),
);

/**
 * A message as a line, which replies of a driver read: `noteOn 1 60 100` (channel, key, velocity), `control 2 7 127`, `program 1 5`,
 * `bend 1 8192`, `exclusive 7F 7F 06 01`, `start`.
 */
export function midiText(message: MidiMessage): string {
  if (message.kind === 'exclusive') return `exclusive ${toHex(message.data).replace(/..(?=.)/g, '$& ')}`.trim();
  if (!('channel' in message)) {
    return systemMessages[message.kind].data === 0 ? message.kind : `${message.kind} ${message.value}`;
  }
  const number = 'number' in message ? [message.number] : [];
  return [message.kind, message.channel, ...number, message.value].join(' ');
}

/** The message that a line names, as `midiText` writes it. Fails with a sentence for a line that is none. */
export function midiOf(line: string): Result<MidiMessage, string> {
  const [kind = '', ...words] = line.trim().split(/\s+/);
  if (kind === 'exclusive') {
    const data = fromHex(words.join(''));
    if (!data.ok) return fail('The bytes of an exclusive message are hexadecimal digits, without F0 and F7.');
    const message = { kind, data: data.value } as const;
    const bytes = encodeMidi(message);
    return bytes.ok ? ok(message) : bytes;
  }
  const numbers = words.map(Number);
  const named = madeOf(kind, numbers);
  if (!named) {
    const known = [...Object.keys(channelMessages), ...Object.keys(systemMessages), 'exclusive'].join(', ');
    return fail(`“${line}” is no MIDI message. Known: ${known}, each with its numbers.`);
  }
  const bytes = encodeMidi(named);
  return bytes.ok ? ok(named) : bytes;
}

function madeOf(kind: string, numbers: readonly number[]): MidiMessage | undefined {
  const [first = 0, second = 0, third = 0] = numbers;
  if (Object.hasOwn(channelMessages, kind)) {
    const name = kind as ChannelMessage;
    if (name === 'program' || name === 'pressure' || name === 'bend')
      return numbers.length === 2 ? { kind: name, channel: first, value: second } : undefined;
    return numbers.length === 3 ? { kind: name, channel: first, number: second, value: third } : undefined;
  }
  if (!Object.hasOwn(systemMessages, kind)) return undefined;
  const name = kind as SystemMessage;
  return numbers.length === Math.min(1, systemMessages[name].data) ? { kind: name, value: first } : undefined;
}
