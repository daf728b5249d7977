import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { familyOf, isLoopbackAddress } from '../../core/net';
import type { LinkChange, Part } from '../parts';
import { replaceFile } from '../record/replace-file';
import type { RunningShow } from '../show/running-show';
import type { Prober } from './prober-client';

const bookSchema = z.record(z.string(), z.string().regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/));

/**
 * Remembers each device's hardware address, also over a restart, so that a device can be recognised at a new address. Only devices on an own subnet
 * have one that can be seen.
 */
export class HardwareBook implements Part {
  private readonly known: Map<string, string>;
  /** By device, all addresses that its hardware had while it was reached: a computer may have several. */
  private readonly addresses = new Map<string, ReadonlySet<string>>();
  private saving = Promise.resolve();

  constructor(
    private readonly sources: {
      readonly dataDir: string;
      readonly show: RunningShow;
      readonly prober: Prober;
      /** Which other device of the rig was at this hardware address before; `undefined` when none was. */
      readonly setAnswersAs: (device: string, other: string | undefined) => void;
      readonly onFault: (message: string, cause: unknown) => void;
    },
  ) {
    this.known = new Map(Object.entries(readKept(sources.dataDir)));
  }

  /** In lower case with colons; `undefined` if it was never seen. */
  macOf(device: string): string | undefined {
    return this.known.get(device);
  }

  /** True for an address that the device's hardware had already while the device was reached. */
  hadAddress(device: string, address: string): boolean {
    return this.addresses.get(device)?.has(address) ?? false;
  }

  onLink({ device, status }: LinkChange): void {
    if (status.link.word === 'up') void this.learn(device);
  }

  /** Waits for the last write. */
  async stop(): Promise<void> {
    await this.saving;
  }

  private async learn(device: string): Promise<void> {
    const data = this.sources.show.devices.get(device)?.data;
    if (!data || data.through || familyOf(data.host) !== 4 || isLoopbackAddress(data.host)) return;
    try {
      const { known } = await this.sources.prober.ask({ do: 'neighbours' });
      const mac = known.find(({ address }) => address === data.host)?.mac;
      this.addresses.set(device, new Set(known.flatMap((each) => (each.mac === mac ? [each.address] : []))));
      const before = this.known.get(device);
      const other = mac === undefined || before === mac ? undefined : before && this.ownerOf(mac, device, data.host);
      this.sources.setAnswersAs(device, other);
      // What another device is known by stays with it until somebody has put the addresses right.
      if (mac === undefined || before === mac || other !== undefined) return;
      this.known.set(device, mac);
      this.saving = this.saving.then(() => this.save());
    } catch {
      // No prober: the supervisor reports why.
    }
  }

  /** The other device, at another address, that is known by this hardware. Several devices at one address are one computer. */
  private ownerOf(mac: string, device: string, host: string): string | undefined {
    for (const [id, known] of this.known) {
      const other = this.sources.show.devices.get(id);
      if (known === mac && id !== device && other && other.data.host !== host) return id;
    }
    return undefined;
  }

  private async save(): Promise<void> {
    const { dataDir, onFault } = this.sources;
    const file = fileOf(dataDir);
    try {
      await replaceFile(file, JSON.stringify(Object.fromEntries(this.known)));
    } catch (error) {
      onFault('The hardware addresses of the devices could not be saved.', error);
    }
  }
}

const fileOf = (dataDir: string): string => join(dataDir, 'hardware-addresses.json');

function readKept(dataDir: string): Record<string, string> {
  try {
    return bookSchema.parse(JSON.parse(readFileSync(fileOf(dataDir), 'utf8')));
  } catch {
    // Missing or damaged: the addresses are learned again.
    return {};
  }
}
