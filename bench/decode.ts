import { compileDriver, decodeSaid } from '../src/core/driver';
import {
  checksums,
  encodeModbusResponse,
  encodeOsc,
  encodeSlip,
  encodeViscaPacket,
  fromHex,
  isCut,
  makeExchange,
  type Exchange,
} from '../src/core/wire';
import { shippedDrivers } from '../src/drivers';
import { median } from './stats';

/**
 * Frames decoded a second, by protocol: from the bytes of the stream to the readings, with the drivers that ship. Text lines
 * are compared with a bare line splitter that looks at nothing.
 */

const drivers = new Map(
  shippedDrivers.flatMap((document) => {
    const compiled = compileDriver(document);
    return compiled.ok ? [[compiled.value.document.id, compiled.value] as const] : [];
  }),
);
const ascii = new TextEncoder();
const hex = (text: string) => {
  const bytes = fromHex(text);
  return bytes.ok ? bytes.value : new Uint8Array();
};

interface Row {
  readonly name: string;
  readonly driver: string;
  readonly stream: boolean;
  /** One chunk of the stream, or one datagram. */
  readonly chunk: Uint8Array;
  readonly frames: number;
  /** The question that the frames answer. */
  readonly to?: string;
  /** Before a chunk is read: what was asked. */
  readonly ask?: (exchange: Exchange) => void;
}

const perChunk = 100;
const repeated = (one: Uint8Array) => Uint8Array.from(Array.from({ length: perChunk }, () => [...one]).flat());
const visca = hex('90 50 00 01 02 03 00 04 05 06 FF');
const boardBody = hex('C0 01 4C 41 4E 45 20 34 20 20');
const board = Uint8Array.from([2, ...boardBody, checksums.xor8.of(boardBody)]);
const coils = { do: 'read', table: 'coil', address: 0, count: 5 } as const;

const rows: readonly Row[] = [
  {
    name: 'text lines',
    driver: 'vision-switcher',
    stream: true,
    chunk: repeated(ascii.encode('NOW program 3\r\n')),
    frames: perChunk,
  },
  {
    name: 'OSC over TCP, SLIP',
    driver: 'audio-mixer',
    stream: true,
    chunk: repeated(
      encodeSlip(encodeOsc({ kind: 'message', address: '/strip/03/level', args: [{ type: 'f', value: -12 }] })),
    ),
    frames: perChunk,
  },
  {
    name: 'OSC over UDP',
    driver: 'title-machine',
    stream: false,
    chunk: encodeOsc({
      kind: 'message',
      address: '/titles/layer/row',
      args: [
        { type: 'i', value: 1 },
        { type: 'i', value: 4 },
      ],
    }),
    frames: 1,
  },
  {
    name: 'VISCA over IP',
    driver: 'ptz-camera',
    stream: false,
    chunk: encodeViscaPacket({ type: 'reply', sequence: 1, payload: visca }),
    frames: 1,
    to: 'panTilt',
  },
  {
    name: 'VISCA over TCP',
    driver: 'ptz-camera-bare',
    stream: true,
    chunk: repeated(visca),
    frames: perChunk,
    to: 'panTilt',
  },
  {
    name: 'Modbus TCP',
    driver: 'relay-gateway',
    stream: true,
    chunk: encodeModbusResponse({ transaction: 1, unit: 1 }, coils, {
      is: 'values',
      table: 'coil',
      values: [1, 0, 1, 0, 1],
    }),
    frames: 1,
    ask: (exchange) => void exchange.write({ kind: 'modbus', request: coils, unit: 1 }, 1),
  },
  {
    name: 'fixed bytes, checksum',
    driver: 'results-board',
    stream: true,
    chunk: repeated(board),
    frames: perChunk,
  },
];

/** Frames a second over a second or so, the median of some runs. */
function rate(work: () => void, frames: number): number {
  const runs = Array.from({ length: 5 }, () => {
    const until = performance.now() + 300;
    let done = 0;
    const from = performance.now();
    while (performance.now() < until) {
      for (let n = 0; n < 20; n += 1) work();
      done += 20 * frames;
    }
    return (done / (performance.now() - from)) * 1000;
  });
  return median(runs);
}

export function measureDecoding(): void {
  console.log('\nFrames decoded a second, from bytes to readings (one core)');
  for (const { name, driver: id, stream, chunk, frames, to, ask } of rows) {
    const driver = drivers.get(id);
    if (!driver || !isCut(driver.document.framing)) continue;
    let exchange = makeExchange(driver.document.framing, stream);
    let read = 0;
    const once = () => {
      // A transaction number is used once: a new conversation asks for it anew.
      if (ask && driver.document.framing.kind === 'modbus') exchange = makeExchange(driver.document.framing, stream);
      ask?.(exchange);
      for (const frame of exchange.read(chunk)) {
        for (const said of frame.says) read += decodeSaid(driver, said, to)?.readings.length ?? 0;
      }
    };
    once();
    if (read === 0) throw new Error(`${name}: nothing was read.`);
    const own = rate(once, frames);
    if (name !== 'text lines') {
      console.log(`  ${name.padEnd(22)} ${Math.round(own).toLocaleString('en')}`);
      continue;
    }
    const decoder = new TextDecoder();
    let lines = 0;
    const bare = rate(() => {
      lines += decoder.decode(chunk).split('\r\n').length;
    }, frames);
    if (lines === 0) throw new Error('The splitter read nothing.');
    const verdict = own / bare >= 0.5 ? 'within' : 'OVER';
    console.log(
      `  ${name.padEnd(22)} ${Math.round(own).toLocaleString('en')}   bare splitter ${Math.round(bare).toLocaleString('en')}   ratio ${(own / bare).toFixed(2)}  ${verdict} 0.5`,
    );
  }
}
