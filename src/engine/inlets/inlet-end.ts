import { createSocket } from 'node:dgram';
import { createServer, type Socket } from 'node:net';
import { answerLine, messageText, requestOfLine, requestOfOsc, type InletAnswer } from '../../core/inlet';
import type { InletData } from '../../core/show';
import { longestInletText } from '../../core/show';
import { decodeOsc, encodeOsc, messagesOf } from '../../core/wire/osc';
import type { News, Subscriber } from './followers';
import { listenHttp } from './http-end';
import { portFailure, type InletEnd, type Listener } from './inlet-listener';
import { listenBroker } from './mqtt-broker';
import { speakThrough } from './mqtt-elsewhere';
import { newsLine, newsOsc } from './news-text';

const connectionsMost = 16;

/** Opens an inlet at its address and port. What goes wrong is told, also later. */
export function openInlet(data: InletData, listener: Listener): InletEnd {
  if (data.speaks === 'http') return listenHttp(data, listener);
  if (data.speaks === 'mqtt')
    return data.broker ? speakThrough(data, data.broker, listener) : listenBroker(data, listener);
  return data.over === 'tcp' ? listenTcp(data, listener) : listenUdp(data, listener);
}

function listenTcp(data: InletData, listener: Listener): InletEnd {
  const open = new Set<Socket>();
  const server = createServer((socket) => {
    const address = socket.remoteAddress ?? '';
    const from = `${address}:${socket.remotePort ?? 0}`;
    if (!listener.mayComeFrom(address) || open.size >= connectionsMost) {
      listener.onRefused(from, open.size >= connectionsMost ? 'too many connections' : 'sender not allowed');
      socket.destroy();
      return;
    }
    open.add(socket);
    socket.on('close', () => {
      open.delete(socket);
      listener.followers.unfollow(subscriber.id);
    });
    // A caller that goes away is nothing that anybody has to know.
    socket.on('error', () => socket.destroy());
    const say = (text: string): Uint8Array | undefined => {
      // A client that does not read is disconnected before its answers fill the memory.
      if (socket.writableLength > 65_536) socket.destroy();
      if (!socket.writable) return undefined;
      const bytes = Buffer.from(`${text}\r\n`);
      socket.write(bytes);
      return bytes;
    };
    const tell = (text: string) => {
      const bytes = say(text);
      if (bytes) listener.onTold(bytes);
    };
    const answer = (given: InletAnswer) => say(answerLine(given));
    const subscriber: Subscriber = {
      id: `${data.port} ${from}`,
      lapses: false,
      tell: (subject, now) => tell(newsLine(subject, now)),
    };
    socket.setEncoding('utf8');
    let rest = '';
    socket.on('data', (chunk: string) => {
      const lines = (rest + chunk).split(/\r\n|\r|\n/);
      rest = lines.pop() ?? '';
      if (rest.length > longestInletText || lines.some((line) => line.length > longestInletText)) {
        listener.onRefused(from, 'line too long');
        const message = `A line can have at most ${longestInletText} characters.`;
        answer({ is: 'error', code: 'too-long', message });
        rest = '';
      }
      for (const line of lines) {
        const text = line.trim();
        if (text !== '' && text.length <= longestInletText)
          listener.onHeard({ text, request: () => requestOfLine(text), from, answer, subscriber });
      }
    });
  });
  server.on('error', (error) => listener.onState('failed', portFailure(error, data)));
  server.listen(data.port, data.host, () => listener.onState('listening'));
  return {
    close: () => {
      server.close();
      for (const socket of open) socket.destroy();
    },
  };
}

function listenUdp(data: InletData, listener: Listener): InletEnd {
  const socket = createSocket(data.host.includes(':') ? 'udp6' : 'udp4');
  let isOpen = true;
  const send = (bytes: Uint8Array, port: number, address: string): Uint8Array | undefined => {
    if (!isOpen) return undefined;
    // An answer that cannot be sent is not missed: datagrams promise nothing.
    socket.send(bytes, port, address, () => undefined);
    return bytes;
  };
  socket.on('error', (error) => listener.onState('failed', portFailure(error, data)));
  socket.on('message', (bytes, { address, port }) => {
    const from = `${address}:${port}`;
    if (!listener.mayComeFrom(address)) return listener.onRefused(from, 'sender not allowed');
    if (data.speaks === 'osc')
      return hearOsc(bytes, `${data.port}`, from, (reply) => send(reply, port, address), listener);
    const text = bytes.toString('utf8').trim();
    if (text.length > longestInletText) return listener.onRefused(from, 'text too long');
    const say = (said: string) => send(Buffer.from(`${said}\r\n`), port, address);
    const subscriber: Subscriber = {
      id: `${data.port} ${from}`,
      lapses: true,
      tell: (subject, now) => {
        const bytes = say(newsLine(subject, now));
        if (bytes) listener.onTold(bytes);
      },
    };
    const answer = (given: InletAnswer) => say(answerLine(given));
    for (const line of text.split(/\r\n|\r|\n/))
      if (line.trim() !== '')
        listener.onHeard({ text: line.trim(), request: () => requestOfLine(line), from, answer, subscriber });
  });
  socket.bind(data.port, data.host, () => listener.onState('listening'));
  return {
    close: () => {
      isOpen = false;
      socket.close();
    },
  };
}

/** Answers go to `/answer` of the sender, as OSC 1.0 defines no answers. */
function hearOsc(
  bytes: Uint8Array,
  inlet: string,
  from: string,
  send: (bytes: Uint8Array) => Uint8Array | undefined,
  listener: Listener,
): void {
  const packet = decodeOsc(bytes);
  if (!packet.ok) return listener.onRefused(from, 'not an OSC message');
  const subscriber: Subscriber = {
    id: `${inlet} ${from}`,
    lapses: true,
    tell: (subject, now: News) => {
      const told = send(encodeOsc(newsOsc(subject, now)));
      if (told) listener.onTold(told);
    },
  };
  for (const osc of messagesOf(packet.value)) {
    const text = messageText(osc.address, osc.args);
    if (text.length > longestInletText) listener.onRefused(from, 'message too long');
    else {
      const answer = (given: InletAnswer) =>
        send(encodeOsc({ kind: 'message', address: '/answer', args: [{ type: 's', value: answerLine(given) }] }));
      listener.onHeard({ text, bytes, request: () => requestOfOsc(osc.address, osc.args), from, answer, subscriber });
    }
  }
}
