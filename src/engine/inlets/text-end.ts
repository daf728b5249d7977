import { answerLine, requestOfLine, type InletAnswer } from '../../core/inlet';
import { longestInletText, type InletData } from '../../core/show';
import type { Subscriber } from './followers';
import type { InletEnd, Listener } from './inlet-listener';
import { newsLine } from './news-text';
import { listenTcp, listenUdp, type SendBack } from './sockets';

const endings = /\r\n|\r|\n/;

/** Lines of text that end with CR, LF or both, over TCP or UDP; each gets a line as its answer. */
export function listenText(data: InletData, listener: Listener): InletEnd {
  if (data.over === 'udp')
    return listenUdp(data, listener, (bytes, from, send) => {
      const text = bytes.toString('utf8').trim();
      if (text.length > longestInletText) return listener.onRefused(from, 'text too long');
      const peer = peerOf(data, listener, from, send, true);
      for (const line of text.split(endings)) hear(line, from, peer, listener);
    });
  return listenTcp(data, listener, (from, send) => {
    const peer = peerOf(data, listener, from, send, false);
    const decoder = new TextDecoder();
    let rest = '';
    return {
      onClose: () => listener.followers.unfollow(peer.subscriber.id),
      onBytes: (chunk) => {
        const lines = (rest + decoder.decode(chunk, { stream: true })).split(endings);
        rest = lines.pop() ?? '';
        if (rest.length > longestInletText || lines.some((line) => line.length > longestInletText)) {
          listener.onRefused(from, 'line too long');
          const message = `A line can have at most ${longestInletText} characters.`;
          peer.answer({ is: 'error', code: 'too-long', message });
          rest = '';
        }
        for (const line of lines) if (line.length <= longestInletText) hear(line, from, peer, listener);
      },
    };
  });
}

interface Peer {
  readonly answer: (given: InletAnswer) => Uint8Array | undefined;
  readonly subscriber: Subscriber;
}

/** @param lapses nothing tells when it has gone */
function peerOf({ port }: InletData, listener: Listener, from: string, send: SendBack, lapses: boolean): Peer {
  const say = (line: string) => send(Buffer.from(`${line}\r\n`));
  return {
    answer: (given) => say(answerLine(given)),
    subscriber: {
      id: `${port} ${from}`,
      lapses,
      tell: (subject, now) => {
        const told = say(newsLine(subject, now));
        if (told) listener.onTold(told);
      },
    },
  };
}

function hear(line: string, from: string, { answer, subscriber }: Peer, listener: Listener): void {
  const text = line.trim();
  if (text !== '') listener.onHeard({ text, request: () => requestOfLine(text), from, answer, subscriber });
}
