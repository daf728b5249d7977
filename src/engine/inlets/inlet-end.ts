import { createSocket } from 'node:dgram';
import { createServer, type Socket } from 'node:net';
import { messageText } from '../../core/inlet';
import type { InletData } from '../../core/show';
import { longestInletText } from '../../core/show';
import { decodeOsc, encodeOsc, messagesOf, type OscMessage } from '../../core/wire/osc';

/** One thing that came in. */
export interface Heard {
  /** What watches wait for. */
  readonly text: string;
  /** For a message of Open Sound Control. */
  readonly osc?: OscMessage;
  readonly from: string;
  /** Answers the sender. */
  readonly answer: (text: string) => void;
}

/** What an open inlet tells. */
interface Listener {
  readonly mayComeFrom: (address: string) => boolean;
  readonly onHeard: (heard: Heard) => void;
  /** Something came in that is not even a message, or that is not taken from there. */
  readonly onRefused: (from: string, why: string) => void;
  readonly onState: (state: 'listening' | 'failed', why?: string) => void;
}

/** An inlet that listens; it ends once. */
export interface InletEnd {
  readonly close: () => void;
}

const connectionsMost = 16;

/** Opens an inlet at its address and port. What goes wrong is told, also later. */
export function openInlet(data: InletData, listener: Listener): InletEnd {
  return data.over === 'tcp' ? listenTcp(data, listener) : listenUdp(data, listener);
}

/** The reason why a port cannot be opened, with what to try. */
function failure({ code }: NodeJS.ErrnoException, { port, host }: InletData): string {
  if (code === 'EADDRINUSE')
    return `Another program uses port ${port} here. Choose another port, or close that program.`;
  if (code === 'EADDRNOTAVAIL') return `This computer does not have the address ${host}.`;
  if (code === 'EACCES') return `This program may not open port ${port}. Choose a port above 1023.`;
  return `Port ${port} cannot be opened (${code ?? 'unknown reason'}).`;
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
    socket.on('close', () => open.delete(socket));
    // A caller that goes away is nothing that anybody has to know.
    socket.on('error', () => socket.destroy());
    const answer = (text: string) => {
      // A client that does not read is disconnected before its answers fill the memory.
      if (socket.writableLength > 65_536) socket.destroy();
      else if (socket.writable) socket.write(`${text}\r\n`);
    };
    socket.setEncoding('utf8');
    let rest = '';
    socket.on('data', (chunk: string) => {
      const lines = (rest + chunk).split(/\r\n|\r|\n/);
      rest = lines.pop() ?? '';
      if (rest.length > longestInletText || lines.some((line) => line.length > longestInletText)) {
        listener.onRefused(from, 'line too long');
        answer(`error too-long A line can have at most ${longestInletText} characters.`);
        rest = '';
      }
      for (const line of lines) {
        const text = line.trim();
        if (text !== '' && text.length <= longestInletText) listener.onHeard({ text, from, answer });
      }
    });
  });
  server.on('error', (error) => listener.onState('failed', failure(error, data)));
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
  const send = (bytes: Uint8Array, port: number, address: string) => {
    // An answer that cannot be sent is not missed: datagrams promise nothing.
    if (isOpen) socket.send(bytes, port, address, () => undefined);
  };
  socket.on('error', (error) => listener.onState('failed', failure(error, data)));
  socket.on('message', (bytes, { address, port }) => {
    const from = `${address}:${port}`;
    if (!listener.mayComeFrom(address)) return listener.onRefused(from, 'sender not allowed');
    if (data.speaks === 'osc') return hearOsc(bytes, from, (reply) => send(reply, port, address), listener);
    const text = bytes.toString('utf8').trim();
    if (text.length > longestInletText) return listener.onRefused(from, 'text too long');
    const answer = (said: string) => send(Buffer.from(`${said}\r\n`), port, address);
    for (const line of text.split(/\r\n|\r|\n/))
      if (line.trim() !== '') listener.onHeard({ text: line.trim(), from, answer });
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
function hearOsc(bytes: Uint8Array, from: string, send: (bytes: Uint8Array) => void, listener: Listener): void {
  const packet = decodeOsc(bytes);
  if (!packet.ok) return listener.onRefused(from, 'not an OSC message');
  for (const osc of messagesOf(packet.value)) {
    const text = messageText(osc.address, osc.args);
    if (text.length > longestInletText) listener.onRefused(from, 'message too long');
    else {
      const answer = (said: string) =>
        send(encodeOsc({ kind: 'message', address: '/answer', args: [{ type: 's', value: said }] }));
      listener.onHeard({ text, osc, from, answer });
    }
  }
}
