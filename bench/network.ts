import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/** The test of a rig and a search, in a network of their own where what is not there says nothing. */
export async function measureNetwork(): Promise<void> {
  const isRoot = process.platform === 'linux' && process.getuid?.() === 0;
  if (!isRoot || spawnSync('ip', ['netns'], { stdio: 'ignore' }).status !== 0) {
    return console.log('\nNo network namespaces here: tests and searches of a silent network were not measured.');
  }
  const [desk, far] = [`sfb${process.pid}d`, `sfb${process.pid}f`];
  const ip = (...args: string[]) => execFileSync('ip', args, { stdio: 'pipe' });
  const file = join(process.cwd(), 'node_modules/.cache', `bench-network-${process.pid}.js`);
  const says = `require('net').createServer(s=>{s.write('HAIL switcher 1 12\\r\\n');s.on('error',()=>0).on('data',()=>s.write('DONE\\r\\n'))}).listen(4401,'0.0.0.0',()=>console.log('up'))`;
  let device: ReturnType<typeof spawn> | undefined;
  try {
    await build({
      entryPoints: ['bench/network-inside.ts'],
      outfile: file,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      packages: 'external',
    });
    for (const space of [desk, far]) ip('netns', 'add', space);
    ip('-n', desk, 'link', 'add', 'eth0', 'type', 'veth', 'peer', 'name', 'eth0', 'netns', far);
    for (const space of [desk, far]) for (const link of ['lo', 'eth0']) ip('-n', space, 'link', 'set', link, 'up');
    ip('-n', desk, 'addr', 'add', '10.71.0.1/22', 'dev', 'eth0');
    // Forty devices: forty addresses of one computer.
    for (let n = 0; n < 40; n += 1) ip('-n', far, 'addr', 'add', `10.71.1.${n + 1}/22`, 'dev', 'eth0');
    device = spawn('ip', ['netns', 'exec', far, process.execPath, '-e', says], { stdio: ['ignore', 'pipe', 'ignore'] });
    await new Promise((resolve) => device?.stdout?.once('data', resolve));
    const inside = spawn('ip', ['netns', 'exec', desk, process.execPath, file], {
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    await new Promise((resolve) => inside.once('exit', resolve));
  } finally {
    device?.kill();
    for (const space of [desk, far]) spawnSync('ip', ['netns', 'del', space], { stdio: 'ignore' });
    rmSync(file, { force: true });
  }
}
