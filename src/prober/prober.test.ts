import { createSocket } from 'node:dgram';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import fc from 'fast-check';
import { describe, expect, it, onTestFinished } from 'vitest';
import { ServiceBook } from './announced';
import type { Announced } from '../core/diagnosis';
import { linuxGateways, linuxGateways6, printedGateways, readNetwork, sourceFor } from './network';
import { lookUp } from './lookup';
import { carryOut } from './orders';
import { inTurn, tryTcp, tryUdp } from './ports';
import { linuxNeighbour, printedNeighbour } from './reach';
import { serveProber } from './serve';
import { proberAt } from '../engine';
import { pjlinkSearch, viscaInquiry, wsDiscovery } from './search/readers';

async function listen(onSocket: (socket: Socket) => void): Promise<number> {
  const server = createServer((socket) => {
    socket.on('error', () => undefined);
    onSocket(socket);
  });
  onTestFinished(() => void server.close());
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  return (server.address() as AddressInfo).port;
}
async function closedPort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

describe('what the systems print', () => {
  it('of gateways is read on Linux, macOS and Windows', () => {
    const head = 'Iface\tDestination\tGateway\tFlags\tRefCnt\tUse\tMetric\tMask\tMTU\tWindow\tIRTT\n';
    const lines = [
      'eth0\t00000000\t0105000A\t0003\t0\t0\t0\t00000000',
      'eth0\t0005000A\t00000000\t0001\t0\t0\t0\t00FFFFFF',
    ];
    expect(linuxGateways(head + lines.join('\n'))).toEqual([{ address: '10.0.5.1', interface: 'eth0' }]);
    const six =
      '00000000000000000000000000000000 00 00000000000000000000000000000000 00 fd000000000000000000000000000001 00000400 00000001 00000000 00000003     eth0';
    expect(linuxGateways6(six)).toEqual([{ address: 'fd00:0000:0000:0000:0000:0000:0000:0001', interface: 'eth0' }]);
    expect(printedGateways('default   10.0.5.1   UGScg   en0')).toMatchObject([{ address: '10.0.5.1' }]);
    expect(printedGateways('  0.0.0.0   0.0.0.0   10.0.5.1   10.0.5.20   25')).toMatchObject([{ address: '10.0.5.1' }]);
    expect(printedGateways('nonsense\n\n')).toEqual([]);
  });

  it('of neighbours is read, with those that were asked for in vain', () => {
    const table =
      'IP address HW type Flags HW address Mask Device\n10.0.5.7 0x1 0x2 02:00:00:00:00:07 * eth0\n10.0.5.8 0x1 0x0 00:00:00:00:00:00 * eth0';
    expect(linuxNeighbour(table, '10.0.5.7')).toEqual({ neighbour: 'known', mac: '02:00:00:00:00:07' });
    expect(linuxNeighbour(table, '10.0.5.8').neighbour).toBe('missing');
    expect(printedNeighbour('? (10.0.5.7) at 2:0:0:0:0:7 on en0', '10.0.5.7').neighbour).toBe('known');
    expect(printedNeighbour('? (10.0.5.70) at 2:0:0:0:0:7 on en0', '10.0.5.7').neighbour).toBe('missing');
    expect(printedNeighbour('? (10.0.5.7) at (incomplete) on en0', '10.0.5.7').neighbour).toBe('missing');
  });

  it('of this computer names loopback, and the address that would be used', async () => {
    const { interfaces } = await readNetwork();
    expect(interfaces.find(({ address }) => address === '127.0.0.1')).toMatchObject({ internal: true, prefix: 8 });
    expect(await sourceFor('127.0.0.1')).toBe('127.0.0.1');
    expect(await lookUp('127.0.0.1')).toEqual({ addresses: ['127.0.0.1'], error: undefined });
  });
});

describe('a port', () => {
  it('that opens is heard, one that hangs up at once is told from it, and a closed one refuses', async () => {
    const greets = await listen((socket) => socket.write('HAIL\r\n'));
    const heard = await tryTcp('127.0.0.1', greets, { timeoutMs: 1000, listenMs: 100 });
    expect([heard.answer, text(heard.heard)]).toEqual(['open', 'HAIL\r\n']);
    const hangsUp = await listen((socket) => socket.destroy());
    expect((await tryTcp('127.0.0.1', hangsUp, { timeoutMs: 1000, listenMs: 300 })).answer).toBe('closed-at-once');
    expect((await tryTcp('127.0.0.1', await closedPort(), { timeoutMs: 1000 })).answer).toBe('refused');
  });

  it('that is spoken to answers, and no more than so much of it is kept', async () => {
    const answers = await listen((socket) => socket.on('data', (data) => socket.write(`you said ${String(data)}`)));
    const said = await tryTcp('127.0.0.1', answers, {
      timeoutMs: 1000,
      listenMs: 400,
      say: new TextEncoder().encode('hello'),
    });
    expect(text(said.heard)).toBe('you said hello');
    const floods = await listen((socket) => socket.write(new Uint8Array(100_000)));
    expect((await tryTcp('127.0.0.1', floods, { timeoutMs: 1000, listenMs: 2000 })).heard).toHaveLength(512);
  });

  it('of datagrams refuses by ICMP, answers, or says nothing', async () => {
    const socket = createSocket('udp4', (message, from) => {
      if (message.length > 0) socket.send('yes', from.port, from.address);
    });
    onTestFinished(() => void socket.close());
    await new Promise<void>((resolve) => void socket.bind(0, '127.0.0.1', resolve));
    const { port } = socket.address();
    const say = new TextEncoder().encode('there?');
    expect(text((await tryUdp('127.0.0.1', port, { timeoutMs: 1000, say })).heard)).toBe('yes');
    expect((await tryUdp('127.0.0.1', port, { timeoutMs: 150 })).answer).toBe('silent');
    expect((await tryUdp('127.0.0.1', await closedPort(), { timeoutMs: 600, say })).answer).toBe('refused');
  });

  it('of datagrams refuses even when this process stands still until the time is over', async () => {
    const tried = tryUdp('127.0.0.1', await closedPort(), { timeoutMs: 60, say: new TextEncoder().encode('there?') });
    // Ticks come before timers and reads: the first datagram leaves, and then everything is due at once.
    const until = performance.now() + 100;
    const standStill = () => void (performance.now() < until && process.nextTick(standStill));
    standStill();
    expect((await tried).answer).toBe('refused');
  });
});

describe('many tries', () => {
  it('are never more at a time than allowed, and end when they shall', async () => {
    let now = 0;
    let most = 0;
    let done = 0;
    const stop = new AbortController();
    const work = async () => {
      now += 1;
      most = Math.max(most, now);
      await new Promise((resolve) => setImmediate(resolve));
      now -= 1;
      done += 1;
      if (done === 50) stop.abort();
    };
    await inTurn(Array.from({ length: 500 }), 8, work, stop.signal);
    expect(most).toBe(8);
    expect(done).toBeLessThan(70);
  });

  it('of a search tell what is open as it is found, and how far they are', async () => {
    const open = await listen((socket) => socket.write('HAIL switcher 1 12\r\n'));
    const lines: { tried: number; of: number; hit?: { port: number; heard: string } }[] = [];
    const probes = [open, await closedPort()].map((port) => ({ kind: 'tcp' as const, port, say: '' }));
    await carryOut(
      { do: 'search', addresses: ['127.0.0.1'], probes, timeoutMs: 500 },
      (line) => lines.push(line as never),
      new AbortController().signal,
    );
    expect(lines.at(-1)).toMatchObject({ tried: 2, of: 2 });
    const [hit] = lines.flatMap((line) => line.hit ?? []);
    expect([hit?.port, Buffer.from(hit?.heard ?? '', 'hex').toString()]).toEqual([open, 'HAIL switcher 1 12\r\n']);
  });
});

it('over its private port the prober answers with the token only, and refuses what is no order', async () => {
  const port = await closedPort();
  const server = await serveProber(port, 'secret');
  onTestFinished(() => {
    server.closeAllConnections();
    server.close();
  });
  const { interfaces } = await proberAt(port, 'secret').ask({ do: 'network' });
  expect(interfaces.length).toBeGreaterThan(0);
  await expect(proberAt(port, 'guess').ask({ do: 'network' })).rejects.toThrow('403');
  await expect(proberAt(port, 'secret').ask({ do: 'nonsense' } as never)).rejects.toThrow('400');
});

describe('what announces itself', () => {
  it('is put together from its pieces in any order, and told once', () => {
    const found: Announced[] = [];
    const asked: string[] = [];
    const book = new ServiceBook(
      (each) => found.push(each),
      (name, type) => asked.push(`${type} ${name}`),
    );
    const srv = {
      type: 'SRV',
      name: 'Tower._cam._udp.local',
      data: { target: 'tower.local', port: 52381, priority: 0, weight: 0 },
    };
    book.hear([{ type: 'A', name: 'tower.local', data: '169.254.7.7' }] as never);
    book.hear([srv] as never);
    book.hear([{ type: 'PTR', name: '_cam._udp.local', data: 'Tower._cam._udp.local' }] as never);
    book.hear([srv] as never);
    expect(found).toEqual([
      {
        name: 'Tower',
        service: '_cam._udp.local',
        host: 'tower.local',
        transport: 'udp',
        addresses: ['169.254.7.7'],
        port: 52381,
      },
    ]);
    book.hear([{ type: 'PTR', name: '_services._dns-sd._udp.local', data: '_other._tcp.local' }] as never);
    expect(asked).toContain('PTR _other._tcp.local');
  });
});

describe('what answers when everybody is asked', () => {
  const readers = [pjlinkSearch, viscaInquiry, wsDiscovery('1')];

  it('is read as far as it fits, whatever comes', () => {
    const noise = fc.oneof(
      fc.uint8Array({ maxLength: 300 }),
      fc.string({ maxLength: 300 }).map((text) => new TextEncoder().encode(`ProbeMatch<d:XAddrs>${text}</d:XAddrs>`)),
      fc.string({ maxLength: 60 }).map((text) => Uint8Array.of(2, ...new TextEncoder().encode(`MAC:${text}`), 255, 3)),
    );
    let read = 0;
    fc.assert(
      fc.property(noise, (message) => {
        for (const reader of readers) {
          const found = reader.read(message);
          if (!found) continue;
          read += 1;
          expect(found.port).toBeGreaterThan(0);
        }
      }),
      { numRuns: 3000 },
    );
    expect(read).toBeGreaterThan(100);
  });

  it('is no device when it is the question itself, which a broadcast brings back', () => {
    for (const reader of readers) expect(reader.read(reader.say)).toBeUndefined();
  });
});
