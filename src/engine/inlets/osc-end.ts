import { messageText, requestOfOsc, type InletAnswer } from '../../core/inlet';
import { longestInletText, type InletData } from '../../core/show';
import { decodeOsc, encodeOsc, messagesOf, OscStream } from '../../core/wire/osc';
import type { Subscriber } from './followers';
import type { InletEnd, Listener } from './inlet-listener';
import { answerOsc, newsOsc } from './news-text';
import { listenTcp, listenUdp, type SendBack } from './sockets';

const mostPacketBytes = 65_536;

/** Open Sound Control over UDP, or over TCP in either of its two framings. Answers go to `/answer` of the sender, as OSC defines none. */
export function listenOsc(data: InletData, listener: Listener): InletEnd {
  if (data.over === 'udp')
    return listenUdp(data, listener, (bytes, from, send) => {
      hear(bytes, from, send, subscriberOf(data, listener, from, send, true), listener);
    });
  return listenTcp(data, listener, (from, write, end) => {
    const stream = new OscStream(mostPacketBytes);
    const send: SendBack = (packet) => write(stream.encode(packet)) && packet;
    const subscriber = subscriberOf(data, listener, from, send, false);
    return {
      onClose: () => listener.followers.unfollow(subscriber.id),
      onBytes: (chunk) => {
        for (const frame of stream.push(chunk)) {
          if (frame.kind === 'frame') {
            hear(frame.raw, from, send, subscriber, listener);
            continue;
          }
          listener.onRefused(from, 'packet too long, or not OSC');
          return end();
        }
      },
    };
  });
}

function subscriberOf(
  { port }: InletData,
  listener: Listener,
  from: string,
  send: SendBack,
  lapses: boolean,
): Subscriber {
  return {
    id: `${port} ${from}`,
    lapses,
    tell: (subject, now) => {
      const told = send(encodeOsc(newsOsc(subject, now)));
      if (told) listener.onTold(told);
    },
  };
}

function hear(bytes: Uint8Array, from: string, send: SendBack, subscriber: Subscriber, listener: Listener): void {
  const packet = decodeOsc(bytes);
  if (!packet.ok) return listener.onRefused(from, 'not an OSC message');
  for (const osc of messagesOf(packet.value)) {
    const text = messageText(osc.address, osc.args);
    if (text.length > longestInletText) listener.onRefused(from, 'message too long');
    else {
      const answer = (given: InletAnswer) => send(encodeOsc(answerOsc(given)));
      listener.onHeard({ text, bytes, request: () => requestOfOsc(osc.address, osc.args), from, answer, subscriber });
    }
  }
}
