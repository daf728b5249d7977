import type { MapDiff, TallyView } from '../../core/live';
import type { Tally, TallyNetwork } from '../../core/tally';
import type { RunningShow } from '../show/running-show';

type TallyDiff = { readonly devices: MapDiff<TallyView['devices'][string]> };

/** The tally of every tied device, as the screens are told it. */
export class TallyBoard {
  private network: TallyNetwork | undefined;
  /** Those that are on the board. */
  private shown = new Set<string>();

  /** @param onChange told what has changed for the screens, and the devices whose tally it is */
  constructor(
    private readonly show: RunningShow,
    private readonly onChange: (diff: TallyDiff, devices: readonly string[]) => void,
  ) {}

  of(device: string): Tally | undefined {
    return this.network?.of(device);
  }

  get view(): TallyView {
    return { devices: this.viewOf([...(this.network?.all.keys() ?? [])]) };
  }

  /** How many devices have a tally. */
  get count(): number {
    return this.network?.all.size ?? 0;
  }

  /** Devices, drivers or ties have changed: everything is told anew. */
  onNetwork(network: TallyNetwork): void {
    this.network = network;
    const devices = [...network.all.keys()];
    const gone = [...this.shown].filter((device) => !network.all.has(device));
    this.shown = new Set(devices);
    if (devices.length + gone.length > 0)
      this.onChange({ devices: { put: this.viewOf(devices), drop: gone } }, [...devices, ...gone]);
  }

  onTally(devices: readonly string[]): void {
    if (devices.length > 0) this.onChange({ devices: { put: this.viewOf(devices) } }, devices);
  }

  private viewOf(devices: readonly string[]): TallyView['devices'] {
    return Object.fromEntries(
      devices.flatMap((id) => {
        const device = this.show.devices.get(id);
        const tally = this.network?.of(id);
        return device && tally ? [[id, { tag: device.data.tag, name: device.data.name, ...tally }]] : [];
      }),
    );
  }
}
