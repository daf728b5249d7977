import { readFileSync } from 'node:fs';
import { rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { familyOf, isLoopbackAddress } from '../../core/net';
import type { LinkChange, Part } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { Prober } from './prober-client';

const bookSchema = z.record(z.string(), z.string().regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/));

/**
 * Remembers the hardware address that each device was reached at, also over a restart: at another address it is still known by it. Only devices on
 * a subnet of this computer show theirs.
 */
export class HardwareBook implements Part {
  private readonly known: Map<string, string>;
  private saving = Promise.resolve();

  constructor(
    private readonly sources: {
      readonly dataDir: string;
      readonly show: RunningShow;
      readonly prober: Prober;
      readonly onFault: (message: string, cause: unknown) => void;
    },
  ) {
    this.known = new Map(Object.entries(readKept(sources.dataDir)));
  }

  /** In small letters with colons; `undefined` where it was never seen. */
  macOf(device: string): string | undefined {
    return this.known.get(device);
  }

  onLink({ device, status }: LinkChange): void {
    if (status.link.word === 'up') void this.learn(device);
  }

  /** What is being written is finished. */
  async stop(): Promise<void> {
    await this.saving;
  }

  private async learn(device: string): Promise<void> {
    const data = this.sources.show.devices.get(device)?.data;
    if (!data || data.through || familyOf(data.host) !== 4 || isLoopbackAddress(data.host)) return;
    try {
      const { mac } = await this.sources.prober.ask({ do: 'neighbour', address: data.host });
      if (mac === undefined || this.known.get(device) === mac) return;
      this.known.set(device, mac);
      this.saving = this.saving.then(() => this.save());
    } catch {
      // Without the prober nothing is learned; the supervisor says why it is away.
    }
  }

  private async save(): Promise<void> {
    const { dataDir, onFault } = this.sources;
    const file = fileOf(dataDir);
    try {
      await writeFile(`${file}.new`, JSON.stringify(Object.fromEntries(this.known)));
      await rename(`${file}.new`, file);
    } catch (error) {
      onFault('The hardware addresses of the devices could not be kept.', error);
    }
  }
}

const fileOf = (dataDir: string): string => join(dataDir, 'hardware-addresses.json');

function readKept(dataDir: string): Record<string, string> {
  try {
    return bookSchema.parse(JSON.parse(readFileSync(fileOf(dataDir), 'utf8')));
  } catch {
    // Not there yet, or damaged: it is learned anew.
    return {};
  }
}
