import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePorts } from '../../e2e/free-ports';

/** An MQTT broker and clients of other people, from Debian. */

const broker = '/usr/sbin/mosquitto';
const subscriber = '/usr/bin/mosquitto_sub';
export const hasBroker = existsSync(broker) && existsSync(subscriber);

export interface Ends {
  readonly stop: () => Promise<void>;
}

/** Starts a broker with these lines in its settings. */
export async function startBroker(
  settings = 'allow_anonymous true',
  at?: number,
): Promise<Ends & { readonly port: number }> {
  const port = at ?? (await freePorts(1));
  const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-broker-'));
  const file = join(folder, 'broker.conf');
  writeFileSync(file, `listener ${port} 127.0.0.1\n${settings}\n`);
  const child = spawn(broker, ['-c', file], { stdio: ['ignore', 'ignore', 'pipe'] });
  const stop = async () => {
    await ended(child);
    rmSync(folder, { recursive: true, force: true });
  };
  let said = '';
  await new Promise<void>((resolve, reject) => {
    child.stderr.on('data', (chunk) => {
      said += String(chunk);
      if (/ running\b/.test(said)) resolve();
    });
    child.once('exit', () => reject(new Error(`The broker ended:\n${said}`)));
  });
  return { port, stop };
}

function ended(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill();
  });
}

/** Publishes as another program does; kept by the broker unless `more` says otherwise. */
export function publish(port: number, topic: string, payload: string, more: readonly string[] = ['-r']): void {
  const args = ['-h', '127.0.0.1', '-p', String(port), '-t', topic, '-m', payload, '-q', '1', ...more];
  const { status, stderr } = spawnSync('/usr/bin/mosquitto_pub', args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
}

/** A device behind the broker: what is published to the topic is in `lines`, and is acted upon. It listens when this resolves. */
export async function startListener(
  port: number,
  topic: string,
  onMessage: (payload: string) => void,
): Promise<Ends & { readonly lines: readonly string[] }> {
  const args = ['-h', '127.0.0.1', '-p', String(port), '-t', topic, '-t', 'ready', '-q', '1'];
  const child = spawn(subscriber, args, { stdio: ['ignore', 'pipe', 'inherit'] });
  const lines: string[] = [];
  publish(port, 'ready', 'it listens');
  await new Promise<void>((resolve, reject) => {
    let rest = '';
    child.once('exit', () => reject(new Error('The listener ended.')));
    child.stdout.on('data', (chunk) => {
      const parts = (rest + String(chunk)).split('\n');
      rest = parts.pop() ?? '';
      for (const line of parts) {
        if (line === 'it listens') {
          resolve();
          continue;
        }
        lines.push(line);
        onMessage(line);
      }
    });
  });
  return { lines, stop: () => ended(child) };
}
