import type { HelperStatus } from '../../core/live';
import { isLocalPort } from '../../core/net';
import { helpersOf, type DeviceRecord, type Helper } from '../../core/show';
import type { Part } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { Prober } from './prober-client';

/** The interval between checks, and the time that a program may take to answer. */
const lookEveryMs = 10_000;
const timeoutMs = 800;

interface Sources {
  readonly show: RunningShow;
  readonly prober: Prober;
  readonly setHelpers: (device: string, helpers: readonly HelperStatus[] | undefined) => void;
  /** True while a stand-in takes the device's place: its helper programs are then of no concern. */
  readonly isStaged: (device: string) => boolean;
  readonly lookEveryMs?: number;
}

/** Checks regularly, through the prober, whether the helper programs of the devices accept connections on their TCP ports. */
export class HelperWatch implements Part {
  private timer: NodeJS.Timeout | undefined;
  private readonly end = new AbortController();
  private readonly told = new Set<string>();

  constructor(private readonly sources: Sources) {}

  start(): void {
    void this.look();
  }

  stop(): void {
    clearTimeout(this.timer);
    this.end.abort();
  }

  private async look(): Promise<void> {
    const { show, isStaged } = this.sources;
    const watched = [...show.devices.values()].flatMap((device) => {
      const helpers = helpersOf(show.driverOf(device)?.document, device.data);
      return helpers.length > 0 && isReachable(device) && !isStaged(device.id) ? [{ device, helpers }] : [];
    });
    const ids = new Set(watched.map(({ device }) => device.id));
    for (const id of this.told) if (!ids.has(id)) this.tell(id, undefined);
    await Promise.all(watched.map(({ device, helpers }) => this.lookAt(device, helpers)));
    if (this.end.signal.aborted) return;
    this.timer = setTimeout(() => void this.look(), this.sources.lookEveryMs ?? lookEveryMs);
    this.timer.unref();
  }

  private async lookAt({ id, data }: DeviceRecord, helpers: readonly Helper[]): Promise<void> {
    const ports = helpers.map(({ port }) => port);
    try {
      const order = { do: 'ports', address: data.host, ports, timeoutMs } as const;
      const { open } = await this.sources.prober.ask(order, this.end.signal);
      this.tell(
        id,
        helpers.map(({ title, port }) => ({ title, port, isRunning: open.includes(port) })),
      );
    } catch {
      // No prober: the state is unknown, and the supervisor reports why.
      this.tell(id, undefined);
    }
  }

  private tell(id: string, helpers: readonly HelperStatus[] | undefined): void {
    if (helpers) this.told.add(id);
    else this.told.delete(id);
    this.sources.setHelpers(id, helpers);
  }
}

/** True for a device with a network address of its own. */
const isReachable = ({ data }: DeviceRecord): boolean =>
  data.enabled && !data.through && data.host !== '' && !isLocalPort(data.host);
