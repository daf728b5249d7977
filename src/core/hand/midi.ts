/**
 * MIDI 1.0 channel voice messages, as far as buttons and faders send them (“MIDI 1.0 Detailed Specification”, 4.2, Table II).
 */

/** Something that was done on a piece of gear. */
export interface GearEvent {
  /**
   * What was used, the same each time: `note 1 60`, `cc 1 7`, `bend 3`, `program 1 5`, `pressure 1` of a channel, `pressure 1 60` of a key,
   * `button 0`, `axis 1`, `key F5`.
   */
  readonly input: string;
  /** How far, from 0 to 1; of an axis from -1 to 1. */
  readonly value: number;
  /** Pressed, or let go; `undefined` for what only moves. */
  readonly down?: boolean;
  /** Pressed and released at once, because no message says when it ends. */
  readonly momentary?: true;
  /** Of a control change: its value as it came, 0 to 127. An endless encoder says in it how far it was turned. */
  readonly raw?: number;
}

const noteOff = 0x8;
const noteOn = 0x9;
const keyPressure = 0xa;
const controlChange = 0xb;
const programChange = 0xc;
const channelPressure = 0xd;
const pitchBend = 0xe;

/** Reads one message. `undefined` for what no control can be bound to: clocks, system messages, and messages that are cut off. */
export function readMidi(bytes: ArrayLike<number>): GearEvent | undefined {
  const status = bytes[0] ?? 0;
  const [first, second] = [bytes[1], bytes[2]];
  if (status < 0x80 || status >= 0xf0 || first === undefined || first > 127) return undefined;
  const channel = (status & 0x0f) + 1;
  if (status >> 4 === programChange)
    return { input: `program ${channel} ${first}`, value: 1, down: true, momentary: true };
  if (status >> 4 === channelPressure) return { input: `pressure ${channel}`, value: first / 127 };
  if (second === undefined || second > 127) return undefined;
  switch (status >> 4) {
    case noteOn:
      // A note on without velocity is a note off (4.2, “Note On”).
      return { input: `note ${channel} ${first}`, value: second / 127, down: second > 0 };
    case noteOff:
      return { input: `note ${channel} ${first}`, value: 0, down: false };
    case keyPressure:
      return { input: `pressure ${channel} ${first}`, value: second / 127 };
    case controlChange:
      // Numbers from 120 on are channel mode messages.
      return first >= 120 ? undefined : { input: `cc ${channel} ${first}`, value: second / 127, raw: second };
    case pitchBend:
      return { input: `bend ${channel}`, value: (first + second * 128) / 16_383 };
    default:
      return undefined;
  }
}

/** The message that sets the lamp or the motor of what sends this input; `undefined` for inputs that have none. */
export function writeMidi(input: string, value: number): number[] | undefined {
  const [kind, channelText, number] = input.split(' ');
  const channel = Number(channelText) - 1;
  const level = Math.round(Math.min(1, Math.max(0, value)) * 127);
  if (!(channel >= 0 && channel < 16)) return undefined;
  if (kind === 'note') return [(noteOn << 4) | channel, Number(number), level];
  if (kind === 'cc') return [(controlChange << 4) | channel, Number(number), level];
  if (kind === 'bend') {
    const fine = Math.round(Math.min(1, Math.max(0, value)) * 16_383);
    return [(pitchBend << 4) | channel, fine & 0x7f, fine >> 7];
  }
  return undefined;
}
