import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import WebSocket from 'ws';
import { decodePicture, type PictureHead } from '../src/core/picture';
import type { PageView, ServerMessage } from '../src/core/live';
import type { ShowRecord } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { end, pause, showOfOneDevice, startProgram } from './processes';
import { BenchDevice } from './device';
import { summarise } from './stats';

const [panels, pictures, perSecond, seconds] = [4, 6, 10, 20];
const pictureBytes = 40_000;
const boundary = 'bench';
const page = 'page-pictures';

const pageOfPictures = (port: number): ShowRecord[] => [
  {
    kind: 'page',
    id: page,
    version: 1,
    data: { name: 'Pictures', order: 90, columns: 6, rows: 1, note: '', zones: [] },
  },
  ...Array.from({ length: pictures }, (_, n): ShowRecord => ({
    kind: 'control',
    id: `ctl-picture-${n}`,
    version: 1,
    data: {
      page,
      type: 'readout',
      col: n,
      row: 0,
      cols: 1,
      rows: 1,
      label: [],
      values: {},
      responses: { tap: [] },
      lamps: [],
      shows: { kind: 'address', url: `http://127.0.0.1:${port}/${n}` },
    },
  })),
];

/** A picture that nothing can make smaller, as its number and the time at which it is sent in it: drawings are handed on as they are. */
const pictureNow = (): Buffer => {
  const head = `<svg xmlns="http://www.w3.org/2000/svg"><!-- ${performance.now()} -->`;
  return Buffer.from(head.padEnd(pictureBytes, ' '));
};

/** Streams of pictures, all at the same rate, each a little later than the one before. */
async function startSource() {
  const open = new Set<ServerResponse>();
  const server = createServer((_req, res) => {
    res.writeHead(200, { 'content-type': `multipart/x-mixed-replace; boundary=${boundary}` });
    open.add(res);
    res.on('close', () => open.delete(res));
    const timer = setInterval(() => {
      const picture = pictureNow();
      res.write(`--${boundary}\r\nContent-Type: image/svg+xml\r\nContent-Length: ${picture.length}\r\n\r\n`);
      res.write(picture);
      res.write('\r\n');
    }, 1000 / perSecond);
    res.on('close', () => clearInterval(timer));
  });
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', () => resolve()));
  return {
    port: (server.address() as AddressInfo).port,
    close: () => {
      server.closeAllConnections();
      server.close();
    },
  };
}

/** The keys of the pictures, as a panel is told them. */
function keysOf(url: string): Promise<string[]> {
  const socket = new WebSocket(`${url}/live?as=panel`);
  return new Promise((resolve) => {
    socket.on('open', () => socket.send(JSON.stringify({ t: 'sub', topics: [`page:${page}`] })));
    socket.on('message', (data) => {
      const message = JSON.parse(String(data)) as ServerMessage;
      if (message.t !== 'whole' || message.topic !== `page:${page}`) return;
      const { faces } = message.data as PageView;
      socket.close();
      resolve(Object.values(faces).flatMap(({ shown }) => (shown?.kind === 'picture' ? (shown.live ?? []) : [])));
    });
  });
}

/** A screen that shows all of them. Returns how old each was when it came, in milliseconds, once its time is over. */
function agesAt(url: string, keys: readonly string[]): Promise<number[]> {
  const socket = new WebSocket(`${url}/pictures/live?as=panel`, { perMessageDeflate: false });
  const ages: number[] = [];
  socket.on('open', () =>
    socket.send(JSON.stringify({ t: 'show', pictures: keys.map((key) => ({ key, width: 320 })) })),
  );
  socket.on('message', (data: Buffer, isBinary) => {
    if (!isBinary) return;
    const picture = decodePicture(data);
    if (!picture.ok) throw new Error('A picture was cut off.');
    const sentAt = /<!-- ([\d.]+)/.exec(Buffer.from(picture.value.bytes.subarray(0, 100)).toString())?.[1];
    ages.push(performance.now() - Number(sentAt));
    const { key, n } = picture.value.head as PictureHead;
    socket.send(JSON.stringify({ t: 'drawn', key, n }));
  });
  return pause(seconds * 1000).then(() => {
    socket.close();
    return ages;
  });
}

/** Four panels with six live pictures each, ten a second: how old they are when they come, and what the engine has to bear for it. */
export async function measurePictures(): Promise<void> {
  const source = await startSource();
  const device = new BenchDevice(true);
  const port = await freePort();
  const program = await startProgram(port, [...showOfOneDevice(await device.listen()), ...pageOfPictures(source.port)]);
  const url = `ws://127.0.0.1:${port}`;
  /** Since it was asked last, in milliseconds. What is measured is a timer of 10 ms, which is not the engine’s fault. */
  const loopDelay = async () => {
    const text = await (await fetch(`http://127.0.0.1:${port}/metrics`)).text();
    const seconds = /^nodejs_eventloop_lag_p99_seconds ([\d.e-]+)$/m.exec(text)?.[1];
    return Number(seconds) * 1000 - 10;
  };
  const keys = await keysOf(url);
  if (keys.length !== pictures) throw new Error(`The page shows ${keys.length} pictures.`);
  await loopDelay();
  await pause(5000);
  const before = await loopDelay();
  const all = await Promise.all(Array.from({ length: panels }, () => agesAt(url, keys)));
  const ages = all.flat().sort((a, b) => a - b);
  const wanted = panels * pictures * perSecond * seconds;
  const p95 = ages[Math.floor(ages.length * 0.95)] ?? Number.NaN;
  const { p50, p99 } = summarise(ages);
  console.log(
    `\nLive pictures on ${panels} panels, ${pictures} each, ${perSecond} a second, ${pictureBytes / 1000} kB`,
  );
  console.log(
    `  age at the screen  p50 ${p50.toFixed(1)}   p95 ${p95.toFixed(1)}   p99 ${p99.toFixed(1)}   ${p95 <= 300 ? 'within' : 'OVER'} 300 ms`,
  );
  console.log(`  ${ages.length} of ${wanted} pictures came`);
  const delay = await loopDelay();
  console.log(
    `  loop delay of the engine  p99 ${before.toFixed(1)} before, ${delay.toFixed(1)} with them   ${delay <= 5 ? 'within' : 'OVER'} 5 ms`,
  );
  await end(program);
  source.close();
  device.close();
}
