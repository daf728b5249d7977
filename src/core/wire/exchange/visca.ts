import { ok } from '../../result';
import { ByteFramer } from '../bytes';
import { toHex } from '../hex';
import {
  decodeViscaPacket,
  encodeViscaPacket,
  endByte,
  isInquiry,
  maxPayloadBytes,
  readViscaReply,
  resetSequence,
  ViscaPending,
} from '../visca';
import type { Answer, Arrived, Exchange } from './exchange';
import { dropped, wrongKind } from './plain';

const nothing = new Uint8Array();
const maxRemembered = 256;

/** Messages in datagrams behind a header: the answer carries the number of the request. */
export function viscaIpExchange(): Exchange {
  const refs = new Map<number, number>();
  let next = 1;
  const answerTo = (sequence: number, payload: Uint8Array): Answer | undefined => {
    const ref = refs.get(sequence);
    if (ref === undefined) return undefined;
    const reply = readViscaReply(payload);
    if (reply.kind === 'other') return undefined;
    if (reply.kind === 'ack') return { ref, how: 'accepted' };
    refs.delete(sequence);
    return reply.kind === 'error' ? { ref, how: 'refused', code: reply.code } : { ref, how: 'done' };
  };
  return {
    write: (message, ref) => {
      if (message.kind !== 'visca') return wrongKind(message);
      const { payload } = message;
      // A control command that resets the counting goes out as number 0 and starts both ends anew.
      const reset = payload.length === 1 && payload[0] === resetSequence[0];
      const sequence = reset ? 0 : next;
      next = reset ? 1 : (next + 1) >>> 0;
      if (reset) refs.clear();
      refs.set(sequence, ref);
      if (refs.size > maxRemembered) refs.delete(refs.keys().next().value ?? 0);
      const type = reset ? 'control' : isInquiry(payload) ? 'inquiry' : 'command';
      return ok(encodeViscaPacket({ type, sequence, payload }));
    },
    read: (chunk): Arrived[] => {
      const raw = chunk.slice();
      const packet = decodeViscaPacket(raw);
      if (!packet.ok)
        return [
          {
            raw,
            says: [],
            fault: `Not a message with header, at byte ${packet.error.offset}: ${packet.error.message}`,
          },
        ];
      const { type, sequence, payload } = packet.value;
      const says = [{ kind: 'text', text: toHex(payload) }] as const;
      if (type === 'controlReply') {
        if (payload[0] === 0x0f) {
          return [{ raw, says, broken: 'The camera counts the messages differently; the counting starts anew.' }];
        }
        const ref = refs.get(sequence);
        refs.delete(sequence);
        return [{ raw, says, answer: ref === undefined ? undefined : { ref, how: 'done' } }];
      }
      if (type !== 'reply') return [{ raw, says: [], fault: 'It is not a reply.' }];
      return [{ raw, says, answer: answerTo(sequence, payload) }];
    },
    rest: () => nothing,
    forget: (ref) => {
      for (const [sequence, each] of refs) if (each === ref) refs.delete(sequence);
    },
  };
}

/** The same messages without a header, over a stream or in datagrams. */
export function viscaBareExchange(): Exchange {
  const framer = new ByteFramer({ kind: 'terminated', terminator: Uint8Array.of(endByte) }, maxPayloadBytes);
  const pending = new ViscaPending();
  return {
    write: (message, ref) => {
      if (message.kind !== 'visca') return wrongKind(message);
      pending.begin(ref, isInquiry(message.payload));
      return ok(message.payload);
    },
    read: (chunk) =>
      framer.push(chunk).map((frame): Arrived => {
        if (frame.kind === 'dropped') return dropped(frame, maxPayloadBytes, chunk);
        return { raw: frame.raw, says: [{ kind: 'text', text: toHex(frame.raw) }], answer: pending.match(frame.raw) };
      }),
    rest: () => framer.rest(),
    forget: (ref) => pending.forget(ref),
  };
}
