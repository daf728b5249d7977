import { randomBytes, randomInt } from 'node:crypto';
import { connect } from 'node:net';
import WebSocket from 'ws';
import { Program } from '../e2e/program';
import { captureRows, writePcapng } from '../src/core/capture';
import { DriverShelf } from '../src/core/driver';
import {
  arrivedFromHttp,
  arrivedFromMqtt,
  decodeModbusRequest,
  ComPort,
  decodeSacn,
  decodeOsc,
  encodeSacn,
  decodeUmdV3,
  decodeUmdV5,
  decodeViscaPacket,
  EventStreamReader,
  makeExchange,
  type Framing,
  parseJson,
  readXml,
  SlipFramer,
} from '../src/core/wire';
import { shippedDrivers } from '../src/drivers';
import { note, percentile, sleep } from './report';

const pick = <T>(all: readonly T[]): T => all[randomInt(all.length)] as T;

/** Bytes of every kind of trouble: noise, text, what begins like a frame, long runs of one byte. */
function input(): Uint8Array {
  switch (randomInt(5)) {
    case 0:
      return randomBytes(randomInt(64));
    case 1:
      return Buffer.from(
        pick([
          'NOW program 1\r\n',
          '{"a":',
          'data:\n\n',
          '/a\0\0\0,i\0\0\0\0\0\x01',
          '#bundle\0',
          '\u{ffff}\r',
          '[[[[[[',
          '"\\u12',
          'HTTP/1.1 2',
        ]).repeat(randomInt(1, 4)),
      );
    case 2:
      return new Uint8Array(randomInt(256)).fill(pick([0, 0x0a, 0x0d, 0xc0, 0xff, 0x90, 0x5b]));
    case 3:
      return Buffer.concat([
        pick([[0x90, 0x50], [0x01, 0x00, 0, 2], [0, 1, 0, 0, 0, 6], [0xc0], [0x80]].map((each) => Buffer.from(each))),
        randomBytes(randomInt(40)),
      ]);
    default:
      return Buffer.from(
        randomBytes(randomInt(32))
          .toString('latin1')
          .replace(/[^\x20-\x7e]/g, '\n'),
      );
  }
}

/** Something that is nearly right: a few of its bytes are others, or it is cut off. */
function near(right: Uint8Array, noise: Uint8Array): Uint8Array {
  const bytes = right.slice(0, randomInt(4) === 0 ? randomInt(right.length + 1) : right.length);
  for (const byte of noise.subarray(0, 3)) if (bytes.length > 0) bytes[randomInt(bytes.length)] = byte;
  return bytes;
}

const sacn = encodeSacn({
  cid: new Uint8Array(16),
  sourceName: 'Attack',
  priority: 100,
  sequence: 0,
  isPreview: false,
  isTerminated: false,
  universe: 1,
  startCode: 0,
  slots: new Uint8Array(24),
});
const capture = writePcapng(
  Array.from({ length: 6 }, (_, n) => ({
    at: n,
    toDevice: n % 2 === 0,
    hex: '4F4B0D0A',
    comment: '',
    device: { id: 'd', transport: n < 4 ? ('tcp' as const) : ('udp' as const), host: '10.0.0.1', port: 9000 },
  })),
);

const xml = new TextEncoder().encode(
  '<?xml version="1.0"?><e:a xmlns:e="e"><!-- x --><e:b c="1 &lt; 2">t &amp; u</e:b><c/><c><![CDATA[<d>]]></c></e:a>',
);

/** Every codec and every exchange of the drivers that ship, in turn: none may throw, and none may keep more than it is allowed. */
export function codecs(inputs: number): void {
  const shelf = new DriverShelf();
  shelf.put(shippedDrivers);
  const json = (bytes: Uint8Array) => parseJson(Buffer.from(bytes).toString('utf8'));
  const slip = new SlipFramer(256);
  const events = new EventStreamReader(1024);
  const port = new ComPort({ baudRate: 9600, format: '8N1', flow: 'none' });
  const all: [string, (bytes: Uint8Array) => unknown][] = [
    ['OSC', decodeOsc],
    ['SLIP', (bytes) => slip.push(bytes)],
    ['VISCA', decodeViscaPacket],
    ['Modbus requests', decodeModbusRequest],
    ['UMD 3.1', decodeUmdV3],
    ['UMD 5.0', decodeUmdV5],
    ['sACN', (bytes) => decodeSacn(near(sacn, bytes))],
    ['RFC 2217', (bytes) => port.read(bytes)],
    ['captures', (bytes) => captureRows(near(capture, bytes), [])],
    ['event stream', (bytes) => events.push(bytes)],
    ['JSON', json],
    ['XML', (bytes) => readXml(Buffer.from(near(xml, bytes)).toString('utf8'), ['c'])],
  ];
  for (const document of shippedDrivers) {
    const { id, framing, link } = document as { id: string; framing: Framing; link: { kind: string } };
    if (framing.kind === 'http') {
      all.push([id, (body) => arrivedFromHttp(framing, { status: 200, body }, 1)]);
      continue;
    }
    if (framing.kind === 'mqtt') {
      all.push([id, (body) => arrivedFromMqtt(body)]);
      continue;
    }
    if (framing.kind === 'sacn') {
      all.push([id, decodeSacn]);
      continue;
    }
    const exchange = makeExchange(framing, link.kind === 'tcp');
    all.push([id, (bytes) => exchange.read(bytes)]);
  }
  const before = process.memoryUsage().rss;
  const from = performance.now();
  let thrown = '';
  let done = 0;
  for (; done < inputs && thrown === ''; done += 1) {
    const [name, decode] = all[done % all.length] as (typeof all)[number];
    const bytes = input();
    try {
      decode(bytes);
    } catch (error) {
      thrown = `${name} threw ${String(error)} at ${Buffer.from(bytes).toString('hex')}`;
    }
  }
  const grown = (process.memoryUsage().rss - before) / 1024 / 1024;
  const seconds = (performance.now() - from) / 1000;
  note(
    `${all.length} codecs, ${done.toLocaleString('en-GB')} inputs`,
    thrown || `none threw, ${seconds.toFixed(0)} s, ${grown.toFixed(0)} MB more`,
    thrown === '' && grown < 400,
  );
}

/** Nonsense to `/live` and to every route: no answer of 500, no restart, and a good client is answered all the while. */
export async function doors(messages: number, requests: number): Promise<void> {
  const program = await Program.start();
  const delays: number[] = [];
  let asking = true;
  const good = (async () => {
    while (asking) {
      const from = performance.now();
      await program.health();
      delays.push(performance.now() - from);
      await sleep(50);
    }
  })();
  try {
    await liveNonsense(program, messages);
    const { failed, answered } = await httpNonsense(program, requests);
    asking = false;
    await good;
    const { processes } = await program.health();
    const restarts = processes.reduce((all, each) => all + each.restarts, 0);
    note(`/live, ${messages.toLocaleString('en-GB')} messages of nonsense`, `${restarts} restarts`, restarts === 0);
    note(
      `HTTP, ${requests.toLocaleString('en-GB')} requests of nonsense`,
      `${answered} answered, ${failed} with 500`,
      failed === 0,
    );
    note(
      'a good client meanwhile',
      `p99 ${percentile(delays, 0.99).toFixed(0)} ms, longest ${Math.max(...delays).toFixed(0)} ms`,
      Math.max(...delays) < 2500,
    );
  } finally {
    asking = false;
    await program.stop();
  }
}

const kinds = [
  'sub',
  'unsub',
  'again',
  'press',
  'turn',
  'still',
  'release',
  'choose',
  'answer',
  'try',
  'trial',
  'here',
  'tell',
  'together',
  'run',
  'end run',
  'record',
  'invite',
  'withdraw',
  'throw out',
  'call',
  'ping',
  'seen',
  'ask',
  'nonsense',
];
const values = (): unknown =>
  pick<() => unknown>([
    () => randomInt(-5, 5),
    () =>
      pick([
        'page-race',
        'ctl-program-1',
        'dev-sw1',
        '',
        'x'.repeat(300),
        '__proto__',
        'constructor',
        'page:page-race',
        'status',
        'page:page-race;shift=s1',
      ]),
    () => null,
    () => [values1(), values1()],
    () => ({ [pick(['__proto__', 'label', 'page', 'x'])]: values1() }),
    () => 1e308,
    () => true,
  ])();
const values1 = (): unknown => pick([1, 'a', null, [], {}, true, 'status', 'page:page-race']);
const fields = [
  'id',
  'page',
  'control',
  'gesture',
  'topics',
  'topic',
  'context',
  'x',
  'y',
  'value',
  'device',
  'command',
  'params',
  'given',
  'guard',
  'act',
  'index',
  'title',
  'cuts',
  'missed',
  'panel',
  'to',
  'aim',
  'macro',
  'run',
  'way',
  'do',
  'joined',
  'note',
];

async function liveNonsense(program: Program, messages: number): Promise<void> {
  let sent = 0;
  while (sent < messages) {
    const socket = new WebSocket(`${program.url.replace('http', 'ws')}/live${pick(['', '?as=panel'])}`);
    let open = true;
    socket.on('close', () => (open = false)).on('error', () => (open = false));
    await new Promise((resolve) => socket.once('open', resolve).once('error', resolve).once('close', resolve));
    for (let n = 0; n < 2000 && open && sent < messages; n += 1, sent += 1) {
      const message = {
        t: pick(kinds),
        ...Object.fromEntries(Array.from({ length: randomInt(7) }, () => [pick(fields), values()])),
      };
      socket.send(randomInt(20) === 0 ? randomBytes(randomInt(200)) : JSON.stringify(message), () => undefined);
      if (n % 200 === 0) await sleep(1);
    }
    socket.terminate();
  }
}

async function httpNonsense(program: Program, requests: number): Promise<{ failed: number; answered: number }> {
  const paths = [
    '/',
    '/rig',
    '/api/press',
    '/api/send',
    '/api/test',
    '/api/find',
    '/api/health',
    '/api/readings',
    '/desk/edit',
    '/desk/show-file',
    '/desk/as-run',
    '/desk/pictures',
    '/pictures/',
    '/panel',
    '/join/x',
    '/live',
    '/_next/static/x',
    '/api/record/prune',
  ];
  let [failed, answered] = [0, 0];
  const one = () =>
    new Promise<void>((resolve) => {
      const socket = connect(Number(new URL(program.url).port), '127.0.0.1');
      const method = pick(['GET', 'POST', 'PUT', 'DELETE', 'HEAD', 'OPTIONS', 'PATCH', 'X']);
      const body = pick(['', '{', '{"page":1}', '[]', 'x'.repeat(5000), '{"__proto__":{"a":1}}', '\0\0']);
      const path = `${pick(paths)}${pick(['', '?', '?a=%', '/..', '%00', '/%2e%2e/x', '//', `?${'q'.repeat(2000)}`])}`;
      const host = pick(['localhost', '127.0.0.1', 'elsewhere.example', '']);
      const extra = pick([
        '',
        'content-type: application/json\r\n',
        'origin: https://elsewhere.example\r\n',
        'x-sorrelfinch-principal: desk\r\n',
        'transfer-encoding: chunked\r\n',
        'upgrade: websocket\r\nconnection: upgrade\r\n',
        'content-length: -1\r\n',
      ]);
      let text = '';
      let over = false;
      const end = () => {
        if (over) return;
        over = true;
        clearTimeout(giveUp);
        socket.destroy();
        if (text !== '') answered += 1;
        if (/^HTTP\/1\.1 500/.test(text)) {
          failed += 1;
          console.log(`500 for ${method} ${path} ${JSON.stringify(body).slice(0, 60)} ${extra.trim()}`);
        }
        resolve();
      };
      const giveUp = setTimeout(end, 1500);
      socket.on('error', end).on('close', end);
      socket.on('data', (chunk) => {
        text += String(chunk);
        end();
      });
      socket.write(
        `${method} ${path} HTTP/1.1\r\nhost: ${host}\r\n${extra}content-length: ${body.length}\r\n\r\n${body}`,
      );
    });
  for (let n = 0; n < requests; n += 20) await Promise.all(Array.from({ length: 20 }, one));
  return { failed, answered };
}
