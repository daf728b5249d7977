import { decodeMidi, midiText, MidiFramer } from '../midi';
import type { Arrived, Exchange } from './exchange';
import type { Framing } from './framing';
import { overlong, writeBytes } from './plain';

/** They come many times a second and say nothing that a page could show. */
const beats: ReadonlySet<string> = new Set(['clock', 'activeSensing']);

/** MIDI: each message is said as a line, such as `control 2 7 127`. Clock and active sensing are passed over, and so is what other channels say. */
export function midiExchange({ channel = 0, maxFrameBytes }: Extract<Framing, { kind: 'midi' }>): Exchange {
  const framer = new MidiFramer(maxFrameBytes);
  return {
    write: writeBytes,
    read: (chunk) =>
      framer.push(chunk).flatMap((frame): Arrived[] => {
        const { raw } = frame;
        if (frame.kind === 'dropped') {
          if (frame.code === 'overlong') return [overlong(maxFrameBytes, raw)];
          return [{ raw, says: [], fault: 'Bytes that belong to no message were dropped.' }];
        }
        const message = decodeMidi(raw);
        if (!message.ok) return [{ raw, says: [], fault: message.error.message }];
        if (beats.has(message.value.kind)) return [];
        if (channel !== 0 && 'channel' in message.value && message.value.channel !== channel) return [];
        return [{ raw, says: [{ kind: 'text', text: midiText(message.value) }] }];
      }),
    rest: () => framer.rest(),
    forget: () => undefined,
  };
}
