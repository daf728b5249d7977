import type { Aim, DeviceStatus, TallyView } from '../../core/live';
import { TallyNetwork } from '../../core/tally';
import type { Dispatcher } from '../presses/dispatcher';
import { DisplayFeed } from './display-feed';
import { type CommandRequest, type Presses } from '../presses/presses';
import { prepare } from '../devices/prepare';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';
import { TallyBoard } from './tally-board';
import { TallyLamps } from './tally-lamps';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly dispatcher: Dispatcher;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly presses: Presses;
  readonly aim: () => Aim;
  readonly newId: () => string;
  /** What has changed for the screens. */
  readonly onChange: (diff: unknown) => void;
  /** How many devices have a tally now, where that has changed. */
  readonly onCount: (count: number) => void;
}

/** Everything that says which picture is on air: the board of all devices, the cameras' lamps, and the displays of multiviewers. */
export class Tallies {
  private readonly board: TallyBoard;
  private readonly lamps: TallyLamps;
  private readonly displays: DisplayFeed;
  private network: TallyNetwork | undefined;
  private looking: NodeJS.Immediate | undefined;
  private counted = 0;

  constructor(private readonly sources: Sources) {
    const { show, readings, dispatcher, statuses, presses, aim, newId, onChange } = sources;
    const word = (id: string) => statuses.get(id)?.link.word;
    const send = (request: CommandRequest) => presses.command(request, () => undefined);
    this.board = new TallyBoard(show, (diff, devices) => {
      onChange(diff);
      this.lamps.onTally(devices);
    });
    this.lamps = new TallyLamps({ show, board: this.board, isUp: (id) => word(id) === 'up', send, newId });
    this.displays = new DisplayFeed({
      show,
      readings,
      isUp: (id) => word(id) === 'up' || word(id) === 'one-way',
      send,
      sendAgain: (device, command, params) => {
        const driver = show.driverOf(device);
        const prepared = driver && prepare(driver, command, params);
        if (prepared?.ok) dispatcher.repeat(device, prepared.value, aim());
      },
      newId,
    });
  }

  get view(): TallyView {
    return this.board.view;
  }

  get count(): number {
    return this.board.count;
  }

  /** Devices, drivers or ties have changed; when a whole show is taken over, they do so many times in a row. */
  lookSoon(): void {
    this.looking ??= setImmediate(() => {
      this.looking = undefined;
      this.look();
    });
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (!this.network) return;
    const { devices, switchers } = this.network.onReadings(device, keys);
    this.board.onTally(devices);
    this.displays.onReadings(device, keys, switchers);
  }

  private look(): void {
    const { show, readings, onCount } = this.sources;
    const devices = [...show.devices.values()];
    this.network = new TallyNetwork(
      {
        devices,
        ties: [...show.ties.values()],
        documentOf: show.documentOf,
        readingNow: (ref) => readings.get(ref),
      },
      devices.flatMap(({ data }) => data.displays ?? []),
    );
    this.board.onNetwork(this.network);
    this.displays.onNetwork(this.network);
    if (this.counted !== this.board.count) onCount((this.counted = this.board.count));
  }

  onLink(device: string, word: DeviceStatus['link']['word']): void {
    this.lamps.onLink(device, word === 'up');
    this.displays.onLink(device, word === 'up' || word === 'one-way');
  }

  /** The devices are about to be let go: no lamp stays lit that nobody puts out. */
  onLeave(): void {
    this.lamps.putOut();
  }

  /** Commands go elsewhere from now on: what was told before counts no more. */
  onAim(): void {
    this.lamps.onAim();
    this.displays.forget();
    this.lookSoon();
  }

  stop(): void {
    clearImmediate(this.looking);
    this.displays.stop();
  }
}
