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

export function openSocket(url: string): Promise<WebSocket> {
  // The certificate is the program's own.
  const socket = new WebSocket(url, { perMessageDeflate: false, rejectUnauthorized: false });
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

/** The page of the demo show whose buttons are pressed. */
export const page = 'page-race';
const inputOf = (n: number) => (n % 6) + 1;

interface Other {
  readonly name: string;
  /** A message that says that a press has ended. */
  readonly ends: (text: string, id: string) => boolean;
  /** A message that says that the device has reported. */
  readonly reports: (text: string) => boolean;
}

/** Through the bare relay: the same message goes in, the same line comes out. */
export async function barePath(port: number, device: BenchDevice): Promise<Path> {
  const socket = await openSocket(`ws://127.0.0.1:${port}`);
  const fits = (text: string) => text.includes('NOW');
  return pathOver(socket, device, { name: 'bare relay', ends: fits, reports: fits });
}

/** A panel of Sorrelfinch that shows a page, once it has all of it. */
export async function ownPanel(url: string, shown: string): Promise<WebSocket> {
  const socket = await openSocket(`${url}/live?as=panel`);
  const whole = nextMessage(socket, (text) => text.includes('"t":"whole"'));
  socket.send(JSON.stringify({ t: 'sub', topics: [`page:${shown}`] }));
  await whole;
  return socket;
}

/** Through Sorrelfinch, as a panel. */
export async function ownPath(
  url: string,
  device: BenchDevice,
  shown: string = page,
  name = 'Sorrelfinch',
): Promise<Path> {
  const socket = await ownPanel(url, shown);
  return pathOver(socket, device, {
    name,
    ends: (text, id) => text.includes(id) && /"outcome":"(confirmed|late|refused|lost)"/.test(text),
    reports: (text) => text.includes('"t":"diff"'),
  });
}

/** A press acts once: no two paths may use the same id. */
let ids = 0;

function pathOver(socket: WebSocket, device: BenchDevice, { name, ends, reports }: Other): Path {
  return {
    name,
    press: async (n) => {
      const id = `bench-${process.pid}-${(ids += 1)}`;
      const message = JSON.stringify({ t: 'press', id, page, control: `ctl-program-${inputOf(n)}`, gesture: 'tap' });
      const ended = nextMessage(socket, (text) => ends(text, id));
      const arrived = new Promise<number>((resolve) => (device.onPress = resolve));
      const sentAt = performance.now();
      socket.send(message);
      const ms = (await arrived) - sentAt;
      await ended;
      return ms;
    },
    report: async (n) => {
      const seen = nextMessage(socket, reports);
      const sentAt = performance.now();
      device.report(`NOW program ${inputOf(n)}`);
      return (await seen) - sentAt;
    },
    close: () => socket.close(),
  };
}
