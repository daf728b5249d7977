import type { DeviceStatus, Publish } from '../../core/live';
import { isWell } from '../../core/session';
import { TallyNetwork, type Tally } from '../../core/tally';
import type { Dispatcher } from '../presses/dispatcher';
import { DisplayFeed } from './display-feed';
import { type CommandRequest, type Presses } from '../presses/presses';
import { prepare } from '../devices/prepare';
import type { ReadingStore } from '../devices/readings';
import type { LinkChange, ShowChange } from '../parts';
import type { StatusBoard } from '../topics/status-board';
import type { TopicBook } from '../topics/topic-book';
import type { Aims } from '../aim/aims';
import type { RunningShow } from '../show/running-show';
import { TallyBoard } from './tally-board';
import { TallyLamps } from './tally-lamps';
import { TallyReadings } from './tally-readings';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly dispatcher: Dispatcher;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly presses: Presses;
  readonly aims: Aims;
  readonly newId: () => string;
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly status: StatusBoard;
}

/** Everything that says which picture is on air: the board of all devices, the cameras' lamps, and the displays of multiviewers. */
export class Tallies {
  private readonly board: TallyBoard;
  private readonly lamps: TallyLamps;
  private readonly displays: DisplayFeed;
  private readonly told: TallyReadings;
  private network: TallyNetwork | undefined;
  private looking: NodeJS.Immediate | undefined;
  private counted = 0;

  constructor(private readonly sources: Sources) {
    const { show, readings, dispatcher, statuses, presses, aims, newId, publish, topics } = sources;
    const word = (id: string) => statuses.get(id)?.link.word;
    const send = (request: CommandRequest) => presses.command(request, () => undefined);
    this.board = new TallyBoard(show, (diff, devices) => {
      publish('tally', diff);
      this.lamps.onTally(devices);
    });
    this.lamps = new TallyLamps({ show, board: this.board, isUp: (id) => word(id) === 'up', send, newId });
    this.told = new TallyReadings(show, readings);
    this.displays = new DisplayFeed({
      show,
      readings,
      isUp: (id) => isWell(word(id) ?? 'off'),
      send,
      sendAgain: (device, command, params) => {
        const driver = show.driverOf(device);
        const prepared = driver && prepare(driver, command, params);
        if (prepared?.ok) dispatcher.repeat(device, prepared.value, aims.aim);
      },
      newId,
    });
    topics.serve('tally', { whole: () => this.board.view });
    aims.listen({
      // No lamp stays lit that nobody puts out.
      onLeaving: () => this.lamps.putOut(),
      onAim: () => this.onAim(),
    });
  }

  /** Whether a device's picture is on air, where a tie makes it the source of something. */
  of(device: string): Tally | undefined {
    return this.board.of(device);
  }

  onShow({ kind }: ShowChange): void {
    if (kind === 'device' || kind === 'tie') this.lookSoon();
  }

  /** Devices, drivers or ties have changed; when a whole show is taken over, they do so many times in a row. */
  private lookSoon(): void {
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
    this.told.onTally(devices, switchers);
  }

  private look(): void {
    const { show, readings, status } = this.sources;
    const devices = [...show.devices.values()];
    this.network = new TallyNetwork(
      {
        devices,
        ties: [...show.ties.values()],
        documentOf: show.documentOf,
        readingNow: (ref) => readings.get(ref),
      },
      [...devices.flatMap(({ data }) => data.displays ?? []), ...this.told.look()],
    );
    this.board.onNetwork(this.network);
    this.displays.onNetwork(this.network);
    this.told.onNetwork(this.network);
    if (this.counted === this.board.count) return;
    this.counted = this.board.count;
    status.set({ tallies: this.counted });
  }

  onLink({ device, status: { link } }: LinkChange): void {
    const { word } = link;
    this.lamps.onLink(device, word === 'up');
    this.displays.onLink(device, isWell(word));
  }

  /** Commands go elsewhere from now on: what was told before counts no more. */
  private onAim(): void {
    this.lamps.onAim();
    this.displays.forget();
    this.lookSoon();
  }

  stop(): void {
    clearImmediate(this.looking);
    this.displays.stop();
  }
}
