import { tallySender } from '../../core/live';
import type { CommandRequest } from '../presses/presses';
import type { RunningShow } from '../show/running-show';
import type { TallyBoard } from './tally-board';

interface Sources {
  readonly show: RunningShow;
  readonly board: TallyBoard;
  readonly isUp: (device: string) => boolean;
  readonly send: (request: CommandRequest) => void;
  readonly newId: () => string;
}

/**
 * Lights the tally lamps of the devices that have one. A lamp is told what is known; while nobody knows whether its device is on
 * air, it is put out, for a lamp that is lit says that it is.
 */
export class TallyLamps {
  /** What each lamp was told last over its present connection. */
  private readonly told = new Map<string, boolean>();

  constructor(private readonly sources: Sources) {}

  /** The tally of these devices has changed. */
  onTally(devices: readonly string[]): void {
    for (const device of devices) this.light(device);
  }

  /** A device is there again: its lamp is as somebody left it. */
  onLink(device: string, up: boolean): void {
    this.told.delete(device);
    if (up) this.light(device);
  }

  /** Commands go elsewhere from now on: what was told before counts no more. */
  onAim(): void {
    const known = [...this.told.keys()];
    this.told.clear();
    for (const device of known) this.light(device);
  }

  /** Puts every lamp out that is lit. */
  putOut(): void {
    for (const [device, lit] of this.told) if (lit) this.tell(device, false);
  }

  private light(id: string): void {
    const tally = this.sources.board.of(id);
    if (tally) this.tell(id, tally.onAir === true);
  }

  private tell(id: string, lit: boolean): void {
    const { show, isUp, send, newId } = this.sources;
    const device = show.devices.get(id);
    const lamp = device && show.driverOf(device)?.document.tallyLamp;
    if (!device || !lamp || !isUp(id) || this.told.get(id) === lit) return;
    this.told.set(id, lit);
    const params = lit ? lamp.onAir : lamp.off;
    const base = { id: newId(), gesture: 'tap', guard: true, who: tallySender } as const;
    send({ ...base, device, command: lamp.command, params, label: `${device.data.tag} tally lamp` });
  }
}
