import { isLocalPort } from '../../core/net';
import type { DeviceStatus } from '../../core/live';
import type { LinkChange, Part } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { HardwareBook } from './hardware-book';
import type { Prober } from './prober-client';

/** The interval at which the table of neighbours is read while a known device is missing. */
const lookEveryMs = 5000;

interface Sources {
  readonly show: RunningShow;
  readonly prober: Prober;
  readonly hardware: Pick<HardwareBook, 'macOf' | 'hadAddress'>;
  readonly setMovedTo: (device: string, address: DeviceStatus['movedTo']) => void;
  readonly lookEveryMs?: number;
}

/**
 * Notices that a device which is down or silent has another address now: the system's own table of neighbours has its hardware address there. It
 * reads that table and sends nothing, so that a device is seen once it has spoken to this computer, or once a search has reached it.
 */
export class MovedWatch implements Part {
  private timer: NodeJS.Timeout | undefined;
  private readonly end = new AbortController();
  private readonly missing = new Set<string>();

  constructor(private readonly sources: Sources) {}

  onLink({ device, status }: LinkChange): void {
    const { word } = status.link;
    if (word === 'down' || word === 'silent') this.missing.add(device);
    // While it is called again nothing is known yet.
    else if (word !== 'calling') this.found(device);
    if (this.missing.size > 0 && !this.timer) void this.look();
  }

  stop(): void {
    clearTimeout(this.timer);
    this.end.abort();
  }

  private found(device: string): void {
    if (this.missing.delete(device)) this.sources.setMovedTo(device, undefined);
  }

  private async look(): Promise<void> {
    const { show, prober, hardware, setMovedTo } = this.sources;
    this.timer = setTimeout(() => this.lookAgain(), this.sources.lookEveryMs ?? lookEveryMs);
    this.timer.unref();
    const wanted = [...this.missing].filter((device) => hardware.macOf(device) !== undefined);
    if (wanted.length === 0) return;
    try {
      const { known } = await prober.ask({ do: 'neighbours' }, this.end.signal);
      const hosts = new Set([...show.devices.values()].map(({ data }) => data.host));
      for (const device of wanted) {
        const host = show.devices.get(device)?.data.host ?? '';
        if (!this.missing.has(device) || host === '' || isLocalPort(host)) continue;
        const mac = hardware.macOf(device);
        // An address of another device of the rig is that one's own matter, and one that the same computer has besides is no news.
        const isNew = (address: string) => !hosts.has(address) && !hardware.hadAddress(device, address);
        setMovedTo(device, known.find((each) => each.mac === mac && isNew(each.address))?.address);
      }
    } catch {
      // No prober: nothing is known, and the supervisor reports why.
    }
  }

  private lookAgain(): void {
    this.timer = undefined;
    for (const device of this.missing) if (!this.sources.show.devices.has(device)) this.missing.delete(device);
    if (this.missing.size > 0 && !this.end.signal.aborted) void this.look();
  }
}
