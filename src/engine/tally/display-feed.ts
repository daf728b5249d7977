import { displayParams, displaysOf, readingsForNames, type DisplayNow, type TallyNetwork } from '../../core/tally';
import type { DriverDocument } from '../../core/driver';
import { tallySender } from '../../core/live';
import { readingId, type DeviceRecord } from '../../core/show';
import type { CommandRequest } from '../presses/presses';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly isUp: (device: string) => boolean;
  /** A display has something else to say: goes the way of all commands, and is recorded. */
  readonly send: (request: CommandRequest) => void;
  /** The same once more, for a datagram may have been lost: goes out only while commands do, unrecorded. */
  readonly sendAgain: (device: DeviceRecord, command: string, params: CommandRequest['params']) => void;
  readonly newId: () => string;
}

type Displays = NonNullable<DriverDocument['displays']>;

interface Told {
  readonly said: Map<number, DisplayNow>;
  readonly timer: NodeJS.Timeout;
}

/**
 * Keeps the names and lamps of multiviewers true. Nothing comes back from them, so that each display is told anew when its device
 * can be reached again, and all of them again every few seconds.
 */
export class DisplayFeed {
  private readonly told = new Map<string, Told>();
  private network: TallyNetwork | undefined;
  /** By switcher, the devices that show inputs of it, and the readings that these are named by. */
  private readonly viewers = new Map<string, Set<string>>();
  private names: ReadonlySet<string> = new Set();

  constructor(private readonly sources: Sources) {}

  /** Devices, drivers or ties have changed, or where commands go. */
  onNetwork(network: TallyNetwork): void {
    this.network = network;
    this.look();
  }

  /** What was told before counts no more: everything is told again at the next look. */
  forget(): void {
    for (const { said } of this.told.values()) said.clear();
  }

  onLink(device: string, up: boolean): void {
    const told = this.told.get(device);
    if (!told) return;
    told.said.clear();
    if (up) this.say([device]);
  }

  /** @param switchers those of which any input may be seen elsewhere now */
  onReadings(device: string, keys: readonly string[], switchers: ReadonlySet<string>): void {
    if (this.viewers.size === 0) return;
    const renamed = this.viewers.has(device) && keys.some((key) => this.names.has(readingId({ device, key })));
    const touched = renamed ? new Set([...switchers, device]) : switchers;
    const viewers = new Set<string>();
    for (const switcher of touched) for (const viewer of this.viewers.get(switcher) ?? []) viewers.add(viewer);
    if (viewers.size > 0) this.say(viewers, touched);
  }

  stop(): void {
    for (const { timer } of this.told.values()) clearInterval(timer);
    this.told.clear();
  }

  private look(): void {
    const { show } = this.sources;
    const viewers = [...show.devices.values()].filter(
      (each) => this.displaysBy(each) && (each.data.displays?.length || this.told.has(each.id)),
    );
    this.names = new Set(viewers.flatMap(readingsForNames).map(readingId));
    this.viewers.clear();
    for (const { id, data } of viewers)
      for (const { switcher } of data.displays ?? [])
        this.viewers.set(switcher, (this.viewers.get(switcher) ?? new Set()).add(id));
    const ids = new Set(viewers.map(({ id }) => id));
    for (const [id, { timer }] of this.told) {
      if (ids.has(id)) continue;
      clearInterval(timer);
      this.told.delete(id);
    }
    for (const viewer of viewers) {
      if (this.told.has(viewer.id)) continue;
      const timer = setInterval(() => this.again(viewer.id), this.displaysBy(viewer)?.againMs ?? 5000);
      this.told.set(viewer.id, { said: new Map(), timer });
    }
    this.say(this.told.keys());
  }

  /** @param only what shows inputs of these switchers; else everything, and what shows nothing any more */
  private say(viewers: Iterable<string>, only?: ReadonlySet<string>): void {
    const { show, isUp } = this.sources;
    for (const id of viewers) {
      const said = this.told.get(id)?.said;
      const device = show.devices.get(id);
      const by = device && this.displaysBy(device);
      if (!said || !device || !by || !isUp(id)) continue;
      const now = this.nowOf(device, only);
      // A display that shows nothing of ours any more would keep its last lamp.
      const left = only ? [] : [...said.keys()].filter((number) => !now.some((each) => each.number === number));
      for (const number of left) now.push({ number, text: '', lamp: 'off' });
      for (const each of now) this.tell(device, by, said, each);
      for (const number of left) said.delete(number);
    }
  }

  private tell(device: DeviceRecord, by: Displays, said: Map<number, DisplayNow>, now: DisplayNow): void {
    const before = said.get(now.number);
    if (before?.text === now.text && before.lamp === now.lamp) return;
    said.set(now.number, now);
    const label = `${device.data.tag} display ${now.number}: ${now.text}`;
    const request = { id: this.sources.newId(), gesture: 'tap', guard: true, who: tallySender, label } as const;
    this.sources.send({ ...request, device, command: by.command, params: displayParams(by, now) });
  }

  private again(id: string): void {
    const { show, isUp, sendAgain } = this.sources;
    const device = show.devices.get(id);
    const by = device && this.displaysBy(device);
    if (!device || !by || !isUp(id)) return;
    for (const now of this.told.get(id)?.said.values() ?? []) sendAgain(device, by.command, displayParams(by, now));
  }

  private nowOf(device: DeviceRecord, only: ReadonlySet<string> | undefined): DisplayNow[] {
    const { show, readings } = this.sources;
    const { network } = this;
    if (!network) return [];
    const nameOf = (id: string) => show.devices.get(id)?.data.name;
    return displaysOf(device, { network, nameOf, readingNow: (ref) => readings.get(ref) }, only);
  }

  private displaysBy(device: DeviceRecord) {
    return this.sources.show.driverOf(device)?.document.displays;
  }
}
