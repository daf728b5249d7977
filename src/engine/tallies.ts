import type { Aim, DeviceStatus, TallyView } from '../core/live';
import type { DeviceSession } from './device-session';
import { DisplayFeed } from './display-feed';
import { type CommandRequest, type Presses } from './presses';
import { prepare } from './prepare';
import type { ReadingStore } from './readings';
import type { RunningShow } from './running-show';
import { TallyBoard } from './tally-board';
import { TallyLamps } from './tally-lamps';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly presses: Presses;
  readonly aim: () => Aim;
  readonly newId: () => string;
  readonly onChange: (view: TallyView, count: number) => void;
}

/** Everything that says which picture is on air: the board of all devices, the cameras' lamps, and the displays of multiviewers. */
export class Tallies {
  private readonly board: TallyBoard;
  private readonly lamps: TallyLamps;
  private readonly displays: DisplayFeed;

  constructor(sources: Sources) {
    const { show, readings, sessions, statuses, presses, aim, newId, onChange } = sources;
    const word = (id: string) => statuses.get(id)?.link.word;
    const send = (request: CommandRequest) => presses.command(request, () => undefined);
    this.board = new TallyBoard(show, readings, (devices) => {
      onChange(this.board.view, this.board.count);
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
        if (aim() !== 'dry' && prepared?.ok) sessions.get(device.id)?.send(prepared.value, () => undefined);
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

  /** Devices, drivers or ties have changed. */
  lookSoon(): void {
    this.board.lookSoon();
    this.displays.lookSoon();
  }

  onReadings(device: string, keys: readonly string[]): void {
    this.board.onReadings(device, keys);
    this.displays.onReadings(device, keys);
  }

  onLink(device: string, word: DeviceStatus['link']['word']): void {
    this.lamps.onLink(device, word === 'up');
    this.displays.onLink(device, word === 'up' || word === 'one-way');
  }

  /** Commands go elsewhere from now on: what was told before counts no more. */
  /** The devices are about to be let go: no lamp stays lit that nobody puts out. */
  onLeave(): void {
    this.lamps.putOut();
  }

  onAim(): void {
    this.lamps.onAim();
    this.displays.lookSoon(true);
  }

  stop(): void {
    this.board.stop();
    this.displays.stop();
  }
}
