import { readdir, realpath } from 'node:fs/promises';
import type { LocalPortInfo } from '../core/diagnosis';

const byIdFolder = '/dev/serial/by-id';

/**
 * The serial ports of this computer. Where the system keeps names that stay with an adapter whatever it is plugged into (udev on Linux), they
 * are used.
 */
export async function listSerialPorts(): Promise<readonly LocalPortInfo[]> {
  const [found, stable] = await Promise.all([listed(), stableNames()]);
  return found.map(({ path, manufacturer, serialNumber }) => {
    const title = [manufacturer, serialNumber].filter(Boolean).join(' ');
    return { path: stable.get(path) ?? path, title: title === '' ? path : `${title} (${path})` };
  });
}

async function listed() {
  try {
    const { SerialPort } = await import('serialport');
    return await SerialPort.list();
  } catch {
    // On a computer for which there is no such library none can be opened either.
    return [];
  }
}

async function stableNames(): Promise<ReadonlyMap<string, string>> {
  // There is no such folder on other systems, nor while no adapter is plugged in.
  const names = await readdir(byIdFolder).catch(() => []);
  const pairs = await Promise.all(
    names.map(async (name) => {
      const stable = `${byIdFolder}/${name}`;
      // An adapter that is pulled right now has no place any more.
      return [await realpath(stable).catch(() => ''), stable] as const;
    }),
  );
  return new Map(pairs);
}
