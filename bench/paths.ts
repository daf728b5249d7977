import WebSocket from 'ws';
import type { BenchDevice } from './device';

/** A way from a panel to a device and back, to be measured. */
export interface Path {
  readonly name: string;
  /** Presses once; resolves with the time from sending to the first byte at the device, in milliseconds. */
  readonly press: (n: number) => Promise<number>;
  /** Lets the device report once; resolves with the time to the message at the panel. */
  readonly report: (n: number) => Promise<number>;
  readonly close: () => void;
}

function open(url: string): Promise<WebSocket> {
  const socket = new WebSocket(url, { perMessageDeflate: false });
  return new Promise((resolve, reject) => {
    socket.once('open', () => resolve(socket));
    socket.once('error', reject);
  });
}

/** Resolves when the next message that fits has come. */
function nextMessage(socket: WebSocket, fits: (text: string) => boolean): Promise<number> {
  return new Promise((resolve) => {
    const onMessage = (data: WebSocket.RawData) => {
      const at = performance.now();
      if (!fits(String(data))) return;
      socket.off('message', onMessage);
      resolve(at);
    };
    socket.on('message', onMessage);
  });
}

const inputOf = (n: number) => (n % 6) + 1;

/** Through the bare relay. */
export async function barePath(port: number, device: BenchDevice): Promise<Path> {
  const socket = await open(`ws://127.0.0.1:${port}`);
  return {
    name: 'bare relay',
    press: async (n) => {
      const answered = nextMessage(socket, (text) => text.includes('NOW'));
      const arrived = new Promise<number>((resolve) => (device.onPress = resolve));
      const sentAt = performance.now();
      socket.send(`TAKE ${inputOf(n)}\r\n`);
      const ms = (await arrived) - sentAt;
      await answered;
      return ms;
    },
    report: async (n) => {
      const seen = nextMessage(socket, (text) => text.includes('NOW'));
      const sentAt = performance.now();
      device.report(`NOW program ${inputOf(n)}`);
      return (await seen) - sentAt;
    },
    close: () => socket.close(),
  };
}

/** Through Sorrelfinch, as a panel. */
export async function ownPath(
  port: number,
  device: BenchDevice,
  page: string,
  controls: (input: number) => string,
): Promise<Path> {
  const socket = await open(`ws://127.0.0.1:${port}/live?as=panel`);
  const whole = nextMessage(socket, (text) => text.includes('"t":"whole"'));
  socket.send(JSON.stringify({ t: 'sub', topics: [`page:${page}`] }));
  await whole;
  let ids = 0;
  return {
    name: 'Sorrelfinch',
    press: async (n) => {
      const id = `bench-${process.pid}-${(ids += 1)}`;
      const ended = nextMessage(
        socket,
        (text) => text.includes(id) && /"outcome":"(confirmed|late|refused|lost)"/.test(text),
      );
      const arrived = new Promise<number>((resolve) => (device.onPress = resolve));
      const sentAt = performance.now();
      socket.send(JSON.stringify({ t: 'press', id, page, control: controls(inputOf(n)), gesture: 'tap' }));
      const ms = (await arrived) - sentAt;
      await ended;
      return ms;
    },
    report: async (n) => {
      const seen = nextMessage(socket, (text) => text.includes('"t":"diff"'));
      const sentAt = performance.now();
      device.report(`NOW program ${inputOf(n)}`);
      return (await seen) - sentAt;
    },
    close: () => socket.close(),
  };
}
