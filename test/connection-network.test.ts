import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest';
import type { StageReport } from '../src/engine/network/connection-test';

/**
 * Silence, other subnets and drops, in networks that exist only for this test: three namespaces in a row, joined by virtual
 * cables. Nothing leaves this machine.
 *
 * ```
 *  desk 10.71.0.2/24 ─── 10.71.0.1 gateway 10.72.0.1 ─── 10.72.0.7 far
 *                    └── 10.71.0.7 near (on the same cable as the gateway)
 * ```
 */
const prefix = `sf${process.pid}`;
const [desk, gate, far] = ['d', 'g', 'f'].map((each) => `${prefix}${each}`) as [string, string, string];
const ip = (...args: string[]) => execFileSync('ip', args, { stdio: 'pipe' });
const inside = (space: string, ...args: string[]) =>
  execFileSync('ip', ['netns', 'exec', space, ...args], { stdio: 'pipe' });
const can =
  process.platform === 'linux' &&
  process.getuid?.() === 0 &&
  spawnSync('ip', ['netns'], { stdio: 'ignore' }).status === 0;
const hasResponder = spawnSync('/usr/bin/python3', ['-c', 'import zeroconf'], { stdio: 'ignore' }).status === 0;
const probes = join(process.cwd(), 'node_modules/.cache', `network-probes-${process.pid}`);
const probe = join(probes, 'network-probe.js');

function run(host: string, port = 4401, driver = 'vision-switcher'): StageReport[] {
  const said = inside(desk, process.execPath, probe, driver, host, String(port)).toString();
  return JSON.parse(said.split('\n').find((line) => line.startsWith('[')) ?? '[]') as StageReport[];
}

/** An own set of addresses for the desk; what it had comes back after the test. */
function withDesk(address: string, gateway: string | undefined): void {
  const set = (to: string, via: string | undefined) => {
    ip('-n', desk, 'addr', 'flush', 'dev', 'eth0');
    if (to === '') return;
    ip('-n', desk, 'addr', 'add', to, 'dev', 'eth0');
    if (via) ip('-n', desk, 'route', 'add', 'default', 'via', via);
  };
  set(address, gateway);
  onTestFinished(() => set('10.71.0.2/24', '10.71.0.1'));
}

// On the machine that decides, this is not passed over.
describe.skipIf(!can && !process.env.CI)('on a network of its own, the connection test', () => {
  let device: ReturnType<typeof spawn>;
  beforeAll(async () => {
    await build({
      entryPoints: [
        'test/support/network-probe.ts',
        'test/support/announced-probe.ts',
        'test/support/moved-probe.ts',
        'test/support/tcp-probe.ts',
      ],
      outdir: probes,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      packages: 'external',
    });
    for (const space of [desk, gate, far]) {
      ip('netns', 'add', space);
      ip('-n', space, 'link', 'set', 'lo', 'up');
    }
    const cable = (a: string, nameA: string, b: string, nameB: string) => {
      ip('-n', a, 'link', 'add', nameA, 'type', 'veth', 'peer', 'name', nameB, 'netns', b);
      ip('-n', a, 'link', 'set', nameA, 'up');
      ip('-n', b, 'link', 'set', nameB, 'up');
    };
    cable(desk, 'eth0', gate, 'lan');
    cable(gate, 'wan', far, 'eth0');
    ip('-n', desk, 'addr', 'add', '10.71.0.2/24', 'dev', 'eth0');
    ip('-n', desk, 'route', 'add', 'default', 'via', '10.71.0.1');
    for (const address of ['10.71.0.1/24', '10.71.0.7/24']) ip('-n', gate, 'addr', 'add', address, 'dev', 'lan');
    ip('-n', gate, 'addr', 'add', '10.72.0.1/24', 'dev', 'wan');
    ip('-n', far, 'addr', 'add', '10.72.0.7/24', 'dev', 'eth0');
    ip('-n', far, 'route', 'add', 'default', 'via', '10.72.0.1');
    inside(gate, 'sh', '-c', 'echo 1 > /proc/sys/net/ipv4/ip_forward');
    // A device that does its protocol's greeting and no more.
    const says = `require('net').createServer(s=>{s.write('HAIL switcher 1 12\\r\\n');s.on('error',()=>0).on('data',()=>s.write('DONE\\r\\n'))}).listen(4401,'0.0.0.0',()=>console.log('up'))`;
    device = spawn('ip', ['netns', 'exec', far, process.execPath, '-e', says], { stdio: ['ignore', 'pipe', 'ignore'] });
    await new Promise((resolve) => device.stdout?.once('data', resolve));
  });
  afterAll(() => {
    device?.kill();
    for (const space of [desk, gate, far]) spawnSync('ip', ['netns', 'del', space], { stdio: 'ignore' });
    rmSync(probes, { recursive: true, force: true });
  });

  const make: Readonly<Record<string, () => StageReport[]>> = {
    'network address': () => run('10.71.0.0'),
    'broadcast address': () => run('10.71.0.255'),
    'no network': () => {
      withDesk('', undefined);
      return run('10.72.0.7');
    },
    'other subnet': () => {
      withDesk('10.71.0.2/24', undefined);
      return run('192.168.3.7');
    },
    'gateway outside': () => {
      withDesk('10.71.0.2/24', undefined);
      ip('-n', desk, 'route', 'add', 'default', 'via', '10.99.0.1', 'dev', 'eth0', 'onlink');
      return run('10.72.0.7');
    },
    'dead router': () => {
      withDesk('10.71.0.2/24', '10.71.0.66');
      return run('10.72.0.7');
    },
    'neighbour subnet': () => {
      withDesk('10.71.0.2/24', undefined);
      return run('10.71.1.7');
    },
    'nobody there': () => run('10.71.0.99'),
    'dropped beyond': () => {
      ip('-n', gate, 'route', 'add', 'blackhole', '10.73.0.0/24');
      onTestFinished(() => void ip('-n', gate, 'route', 'del', 'blackhole', '10.73.0.0/24'));
      return run('10.73.0.7');
    },
    'dropped port': () => {
      // The near computer answers for its address, and sends nothing back: the way to the desk is a black hole for what comes from it.
      inside(gate, 'ip', 'rule', 'add', 'from', '10.71.0.7', 'blackhole');
      onTestFinished(() => void inside(gate, 'ip', 'rule', 'del', 'from', '10.71.0.7', 'blackhole'));
      return run('10.71.0.7');
    },
  };

  const rows = readFileSync('docs/connection-test.md', 'utf8')
    .split('\n')
    .flatMap((line) => {
      const cells = line.split('|').map((cell) => cell.trim());
      const made = /^`([^`]+)` \(netns\)$/.exec(cells[2] ?? '')?.[1];
      return made === undefined ? [] : [{ made, stage: cells[3] ?? '', named: (cells[4] ?? '').replaceAll('`', '') }];
    });

  it('is described row by row', () => {
    expect(rows.map(({ made }) => made).sort()).toEqual(Object.keys(make).sort());
  });

  it.each(rows)('names “$made” $named at $stage', ({ made, stage, named }) => {
    const stages = make[made]?.() ?? [];
    const failed = stages.find(({ verdict }) => verdict.is === 'failed');
    expect([failed?.verdict.trouble, failed?.stage, failed?.verdict.seen]).toEqual([
      named,
      stage,
      failed?.verdict.seen,
    ]);
  });

  it('notices by itself, without sending anything, that a device has another address now', async () => {
    const own = (change: string, address: string) => ip('-n', gate, 'addr', change, `${address}/24`, 'dev', 'lan');
    own('add', '10.71.0.30');
    onTestFinished(() => void spawnSync('ip', ['-n', gate, 'addr', 'del', '10.71.0.40/24', 'dev', 'lan']));
    // The computer of the device is known at two addresses, its own and that of the router.
    inside(desk, 'ping', '-c', '1', '10.71.0.30');
    inside(desk, 'ping', '-c', '1', '10.71.0.1');
    const watch = spawn('ip', ['netns', 'exec', desk, process.execPath, join(probes, 'moved-probe.js'), '10.71.0.30'], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    onTestFinished(() => void watch.kill());
    const says = (word: string) =>
      new Promise<string>((resolve) =>
        watch.stdout.on('data', (chunk) => String(chunk).includes(word) && resolve(String(chunk).trim())),
      );
    await says('known');
    const moved = says('moved');
    own('del', '10.71.0.30');
    own('add', '10.71.0.40');
    // The device speaks to this computer from its new address.
    inside(gate, 'ping', '-c', '1', '-I', '10.71.0.40', '10.71.0.2');
    expect(await moved).toBe('moved to 10.71.0.40');
  });

  it.skipIf(!hasResponder && !process.env.CI)(
    'hears what another program announces, also from outside the own addresses (RFC 6762, RFC 6763)',
    async () => {
      const says = `
import sys
from zeroconf import ServiceInfo, Zeroconf
info = ServiceInfo('_bankcam._tcp.local.', 'Bank camera._bankcam._tcp.local.', port=4402,
  parsed_addresses=['192.168.50.9'], server='jetty.local.', properties={'model': 'L1'})
zc = Zeroconf(interfaces=['10.71.0.1'])
zc.register_service(info)
print('up', flush=True)
sys.stdin.read()
zc.close()`;
      const other = spawn('ip', ['netns', 'exec', gate, '/usr/bin/python3', '-c', says], {
        stdio: ['pipe', 'pipe', 'inherit'],
      });
      // It takes a while to say goodbye; until then the next test would hear it.
      onTestFinished(() => {
        const gone = new Promise<void>((resolve) => other.once('exit', () => resolve()));
        other.stdin.end();
        return gone;
      });
      await new Promise((resolve) => other.stdout.once('data', resolve));
      const heard = inside(desk, process.execPath, join(probes, 'announced-probe.js')).toString();
      expect(JSON.parse(heard)).toEqual([
        {
          name: 'Bank camera',
          service: '_bankcam._tcp.local',
          host: 'jetty.local',
          port: 4402,
          transport: 'tcp',
          addresses: ['192.168.50.9'],
        },
      ]);
    },
    30_000,
  );

  it('finds what answers when everybody is asked: by PJLink, VISCA and WS-Discovery', async () => {
    // In another language: each answers only the question of its own protocol, and one of them noise besides.
    const says = `
import socket, struct
def listen(port, group=None):
    sock = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    sock.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    sock.setsockopt(socket.SOL_SOCKET, socket.SO_BROADCAST, 1)
    sock.bind(('', port))
    if group:
        sock.setsockopt(socket.IPPROTO_IP, socket.IP_ADD_MEMBERSHIP, socket.inet_aton(group) + socket.inet_aton('10.71.0.1'))
    return sock
import select
pjlink, visca, wsd = listen(4352), listen(52380), listen(3702, '239.255.255.250')
print('up', flush=True)
while True:
    for sock in select.select([pjlink, visca, wsd], [], [])[0]:
        data, peer = sock.recvfrom(4000)
        if peer[0].startswith('10.71.0.1') or peer[0] == '10.71.0.7': continue
        if sock is pjlink and data == b'%2SRCH\\r':
            sock.sendto(b'%2ACKN=02:00:5e:10:00:01\\r', peer)
            sock.sendto(b'%2ACKN=nonsense\\r', peer)
        if sock is visca and data == b'\\x02ENQ:network\\xff\\x03':
            sock.sendto(b'\\x02MAC:02-00-5e-10-00-02\\xffMODEL:Lens\\xffNAME:Jetty\\xff\\x03', peer)
        if sock is wsd and b'Probe' in data:
            sock.sendto(b'<s:Envelope><d:ProbeMatches><d:ProbeMatch><d:Scopes>onvif://www.onvif.org/name/Quay%20view onvif://www.onvif.org/hardware/Q1</d:Scopes><d:XAddrs>http://10.71.0.7:8000/onvif/device_service</d:XAddrs></d:ProbeMatch></d:ProbeMatches></s:Envelope>', peer)
`;
    const other = spawn('ip', ['netns', 'exec', gate, '/usr/bin/python3', '-u', '-c', says], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    onTestFinished(() => void other.kill());
    await new Promise((resolve) => other.stdout.once('data', resolve));
    const heard = inside(desk, process.execPath, join(probes, 'announced-probe.js')).toString();
    const found = (JSON.parse(heard) as { readonly service: string }[]).sort((a, b) =>
      a.service.localeCompare(b.service),
    );
    const at = { host: '', addresses: ['10.71.0.1'] };
    expect(found).toEqual([
      {
        ...at,
        name: 'Quay view Q1',
        service: 'ONVIF (WS-Discovery)',
        transport: 'tcp',
        port: 8000,
        addresses: ['10.71.0.7'],
      },
      { ...at, name: 'Screen 10:00:01', service: 'PJLink', transport: 'tcp', port: 4352, mac: '02:00:5e:10:00:01' },
      { ...at, name: 'Jetty', service: 'VISCA over IP', transport: 'udp', port: 52381, mac: '02:00:5e:10:00:02' },
    ]);
  });

  it('goes through a gateway to a device that is well, and says over which', () => {
    const stages = run('10.72.0.7');
    expect(stages.find(({ verdict }) => verdict.is === 'failed')).toBeUndefined();
    expect(stages[1]?.verdict.seen).toContain('10.71.0.1, which answers');
    expect(stages.at(-1)?.stage).toBe('reports');
  });

  // The system asks after 5 s of silence, ten times a second apart: real time, with as much again to spare.
  it('a device whose cable is pulled is noticed within half a minute, though nothing is asked of it', async () => {
    const holds = spawn(
      'ip',
      ['netns', 'exec', desk, process.execPath, join(probes, 'tcp-probe.js'), '10.72.0.7', '4401'],
      {
        stdio: ['ignore', 'pipe', 'inherit'],
      },
    );
    onTestFinished(() => {
      holds.kill();
      ip('-n', far, 'link', 'set', 'eth0', 'up');
      spawnSync('ip', ['-n', far, 'route', 'add', 'default', 'via', '10.72.0.1'], { stdio: 'ignore' });
    });
    let said = '';
    holds.stdout?.on('data', (text) => (said += String(text)));
    const saysWithin = async (what: string, ms: number) => {
      const until = performance.now() + ms;
      while (!said.includes(what) && performance.now() < until) await new Promise((resolve) => setTimeout(resolve, 50));
      expect(said).toContain(what);
    };
    await saysWithin('open', 5000);
    ip('-n', far, 'link', 'set', 'eth0', 'down');
    await saysWithin('end ', 30_000);
    expect(said).toMatch(/ETIMEDOUT/);
  });
});
