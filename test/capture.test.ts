import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { captureRows, writePcapng } from '../src/core/capture';
import { toHex } from '../src/core/wire';
import { onTestFinished, until } from './support/rig';

/** Captures against the common program for them: it reads what is written here, and what it captured is read here. */

const tcpdump = '/usr/bin/tcpdump';
const has = existsSync(tcpdump);
const inNetworks = has && process.getuid?.() === 0 && spawnSync('ip', ['netns'], { stdio: 'ignore' }).status === 0;
const read = has || process.env.CI ? it : it.skip;
const capture = inNetworks || process.env.CI ? it : it.skip;
const hex = (text: string) => toHex(new TextEncoder().encode(text));

function folder(): string {
  const made = mkdtempSync(join(tmpdir(), 'sorrelfinch-capture-'));
  onTestFinished(() => rmSync(made, { recursive: true, force: true }));
  return made;
}

describe('a capture that is saved', () => {
  read('is read by another program: addresses, times, bytes, and every checksum is right', () => {
    const tcp = { id: 'a', transport: 'tcp', host: '10.20.30.40', port: 4401 } as const;
    const udp = { id: 'b', transport: 'udp', host: 'camera.example', port: 52_381 } as const;
    const at = Date.UTC(2026, 5, 1, 12, 0, 0, 250);
    const file = join(folder(), 'wire.pcapng');
    writeFileSync(
      file,
      writePcapng([
        { at, toDevice: true, hex: hex('TAKE 2\r\n'), comment: 'SW1 · Take 2', device: tcp },
        { at: at + 2, toDevice: false, hex: hex('DONE\r\n'), comment: '', device: tcp },
        { at: at + 4, toDevice: true, hex: '8101060400ff', comment: 'C1 · home', device: udp },
        { at: at + 5, toDevice: false, hex: hex('x'.repeat(70_001)), comment: '', device: tcp },
      ]),
    );
    const { stdout, stderr } = spawnSync(tcpdump, ['-r', file, '-n', '-vv', '-tttt', '-S'], {
      encoding: 'utf8',
      env: { ...process.env, TZ: 'UTC' },
    });
    expect(stderr).toContain('link-type RAW');
    expect(stdout).not.toMatch(/incorrect|bad|truncated|\[\|/);
    expect(stdout).toContain('2026-06-01 12:00:00.250000 IP');
    expect(stdout).toMatch(
      /192\.0\.2\.1\.49152 > 10\.20\.30\.40\.4401: Flags \[P\.\], cksum 0x[0-9a-f]+ \(correct\), seq 1:9, ack 1,/,
    );
    expect(stdout).toMatch(/10\.20\.30\.40\.4401 > 192\.0\.2\.1\.49152: .* seq 1:7, ack 9,/);
    // Too long for one packet.
    expect(stdout).toContain('seq 7:65007');
    expect(stdout).toContain('seq 65007:70008');
    expect(stdout).toMatch(/192\.0\.2\.1\.49153 > 198\.51\.100\.2\.52381: \[udp sum ok\] UDP, length 6/);
  });
});

describe('a capture that another program took', () => {
  capture.each(['pcap of an interface', 'pcap of any interface'])(
    'is read: %s, over TCP with both versions of IP, and UDP',
    async (what) => {
      const space = `cap${process.pid}${what.length}`;
      const ip = (...args: string[]) => spawnSync('ip', args, { stdio: 'ignore' });
      ip('netns', 'add', space);
      onTestFinished(() => void ip('netns', 'del', space));
      ip('-n', space, 'link', 'set', 'lo', 'up');
      const file = join(folder(), 'taken.pcap');
      const iface = what.includes('any') ? 'any' : 'lo';
      const watch = spawn('ip', ['netns', 'exec', space, tcpdump, '-i', iface, '-n', '-U', '-Z', 'root', '-w', file], {
        stdio: ['ignore', 'ignore', 'pipe'],
      });
      let told = '';
      watch.stderr.on('data', (chunk) => (told += String(chunk)));
      const gone = new Promise((resolve) => watch.once('exit', resolve));
      onTestFinished(() => void watch.kill());
      await until(
        () => told,
        (text) => text.includes('listening on'),
      );
      const talk = `
import socket, threading
def serve(listener):
    peer, _ = listener.accept()
    while True:
        more = peer.recv(1000)
        if not more: return
        peer.sendall(b'DONE ' + more)
for family, host in ((socket.AF_INET, '127.0.0.1'), (socket.AF_INET6, '::1')):
    listener = socket.socket(family)
    listener.bind((host, 7100))
    listener.listen()
    threading.Thread(target=serve, args=(listener,), daemon=True).start()
    mine = socket.socket(family)
    mine.connect((host, 7100))
    for n in range(3):
        mine.sendall(b'SET %d\\r\\n' % n)
        mine.recv(1000)
    mine.close()
box = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
box.bind(('127.0.0.1', 7200))
out = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
out.sendto(b'PING', ('127.0.0.1', 7200))
_, peer = box.recvfrom(100)
box.sendto(b'PONG', peer)
out.recv(100)
`;
      expect(spawnSync('ip', ['netns', 'exec', space, '/usr/bin/python3', '-c', talk]).status).toBe(0);
      await until(
        () => readFileSync(file).includes('PONG'),
        (seen) => seen,
      );
      watch.kill('SIGINT');
      await gone;

      const lines = { kind: 'lines', ending: 'crlf', encoding: 'utf-8', maxFrameBytes: 200 } as const;
      const device = { id: 'set', transport: 'tcp', host: '127.0.0.1', port: 7100, framing: lines } as const;
      const rows = captureRows(new Uint8Array(readFileSync(file)), [device]);
      if (!rows.ok) throw new Error(rows.error.message);
      const of = (id: string | undefined) =>
        rows.value.rows
          .filter((row) => row.device === id)
          .map((row) => `${row.dir} ${Buffer.from(row.hex, 'hex').toString()}`);
      const spoken = [0, 1, 2].flatMap((n) => [`out SET ${n}\r\n`, `in DONE SET ${n}\r\n`]);
      const part = (address: string, port: number) =>
        rows.value.parts.find(({ called }) => called.address === address && called.port === port);
      expect(part('127.0.0.1', 7100)?.device).toEqual({ id: 'set', isExact: true });
      expect(part('::1', 7100)?.device).toEqual({ id: 'set', isExact: false });
      // Both conversations of the device are its own.
      expect(of('set')).toEqual([...spoken, ...spoken]);
      expect(of(part('127.0.0.1', 7200)?.id)).toEqual(['out PING', 'in PONG']);
      expect(rows.value.parts.map(({ missing }) => missing)).toEqual([0, 0, 0]);
    },
    20_000,
  );
});
