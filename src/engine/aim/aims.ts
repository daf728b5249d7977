import type { Aim } from '../../core/live';
import type { DeviceRecord } from '../../core/show';
import type { Log } from '../../log';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { LinkChange, ShowChange } from '../parts';
import type { StatusBoard } from '../topics/status-board';
import type { Place, Rehearsals, RehearsalPlaces } from './rehearsal';

interface Sources {
  readonly rehearsals: Rehearsals | undefined;
  readonly show: Pick<RunningShow, 'devices'>;
  readonly asRun: Pick<AsRun, 'record' | 'keepAim' | 'opened'>;
  readonly status: Pick<StatusBoard, 'set'>;
  readonly log: Log;
  /** This engine never reaches the devices: it rehearses from its start to its end. */
  readonly isPrivate?: boolean;
}

/** Who has a say when the aim changes, and hears of it. */
interface AimListener {
  /** What goes on at the devices and has to end before their connections are closed, as a sentence; `undefined` when nothing does. */
  readonly goesOn?: () => string | undefined;
  /** The connections are about to be closed: what the devices have to be told is told now. */
  readonly onLeaving?: () => void;
  /** A rehearsal begins. */
  readonly onRaise?: () => void;
  /** A rehearsal ends; what it has left open matters no more. */
  readonly onCurtain?: () => void;
  /** These devices have to be connected again, at the place that they have now. */
  readonly onReopen?: (devices: readonly DeviceRecord[]) => void;
  readonly onAim?: (aim: Aim) => void;
}

/** How long the last messages to the devices have to leave before the connections close. */
const farewellMs = 200;
const againMs = 1000;

/** Where presses go: to the devices, to private stand-ins, or nowhere. A rehearsal takes the place of the devices altogether. */
export class Aims {
  private now: Aim = 'live';
  private standIns: RehearsalPlaces | undefined;
  private changing = false;
  private again: NodeJS.Timeout | undefined;
  private usualPages: string | null = null;

  private readonly listeners: AimListener[] = [];

  constructor(private readonly sources: Sources) {
    if (sources.isPrivate) this.now = 'rehearse';
  }

  listen(listener: AimListener): void {
    this.listeners.push(listener);
  }

  /** Takes over the aim that the record has kept. */
  async start(): Promise<void> {
    const aim = await this.sources.asRun.opened;
    if (aim && !this.sources.isPrivate) this.recall(aim);
  }

  get aim(): Aim {
    return this.now;
  }

  /** The address of the usual stand-ins' pages, while stand-ins run. */
  setStandinPages(address: string | null): void {
    this.usualPages = address;
    this.sources.status.set({ standinPages: this.standinPages });
  }

  onShow({ kind }: ShowChange): void {
    if (kind === 'device') this.lookAfter();
  }

  onLink({ status }: LinkChange): void {
    if (status.link.word === 'down') this.lookAfter();
  }

  /** The address of the pages on which stand-ins are seen and operated, while some run. */
  get standinPages(): string | null {
    return this.standIns ? `http://127.0.0.1:${this.standIns.pagePort}` : this.usualPages;
  }

  /** At the start: as it was, but a rehearsal is over when its stand-ins are. */
  private recall(aim: Aim): void {
    this.now = aim === 'rehearse' ? 'dry' : aim;
    this.sources.status.set({ aim: this.now });
    if (aim !== 'rehearse') return;
    const text = 'The rehearsal was over with the end of the program. The aim is dry until somebody says otherwise.';
    this.sources.asRun.record({ kind: 'note', text });
  }

  /** Where a device is stood in for, without a place where nothing does; `undefined` while nothing is rehearsed. */
  placeOf(device: string): { readonly place: Place | undefined } | undefined {
    return this.now === 'rehearse' ? { place: this.standIns?.places[device] } : undefined;
  }

  /** Changes the aim, or says why not now. */
  async set(aim: Aim, who: string): Promise<string | undefined> {
    if (aim === this.now) return undefined;
    if (this.changing) return 'The aim is just being changed.';
    if (aim !== 'rehearse' && this.now !== 'rehearse') return void this.turn(aim, who);
    this.changing = true;
    try {
      return await (aim === 'rehearse' ? this.raise(who) : this.drop(aim, who));
    } finally {
      this.changing = false;
    }
  }

  /** A device is new, changed or not reached: while something is rehearsed its stand-in is looked after. */
  private lookAfter(): void {
    if (this.now !== 'rehearse') return;
    this.again ??= setTimeout(() => {
      this.again = undefined;
      void this.arrangeAgain();
    }, againMs);
  }

  stop(): void {
    clearTimeout(this.again);
  }

  private async raise(who: string): Promise<string | undefined> {
    const { rehearsals } = this.sources;
    if (!rehearsals) return 'There is nothing here that could stand in for the devices.';
    const notNow = () => {
      const open = this.listeners.map(({ goesOn }) => goesOn?.()).find((each) => each !== undefined);
      return open === undefined ? undefined : `Not now: ${open} Then the devices can be let go.`;
    };
    const open = notNow();
    if (open !== undefined) return open;
    let standIns: RehearsalPlaces;
    try {
      standIns = await rehearsals.arrange(this.devices);
    } catch (cause) {
      this.sources.log.error({ cause }, 'The stand-ins for the rehearsal could not be started.');
      return 'The stand-ins for the rehearsal could not be started. Nothing has changed. Try again in a moment.';
    }
    for (const each of this.listeners) each.onLeaving?.();
    await new Promise((resolve) => setTimeout(resolve, farewellMs));
    // Somebody may have begun something meanwhile.
    const late = notNow();
    if (late !== undefined) {
      this.tellAim();
      await this.endStage();
      return late;
    }
    this.standIns = standIns;
    for (const each of this.listeners) each.onRaise?.();
    this.turn('rehearse', who);
    this.reopen(this.devices);
    return undefined;
  }

  private async drop(aim: Aim, who: string): Promise<undefined> {
    for (const each of this.listeners) each.onCurtain?.();
    clearTimeout(this.again);
    this.again = undefined;
    this.standIns = undefined;
    this.turn(aim, who);
    this.reopen(this.devices);
    await this.endStage();
  }

  private async endStage(): Promise<void> {
    try {
      await this.sources.rehearsals?.end();
    } catch (cause) {
      this.sources.log.warn({ cause }, 'The stand-ins of the rehearsal could not be ended; they end with the program.');
    }
  }

  private turn(aim: Aim, who: string): void {
    const before = this.now;
    this.now = aim;
    this.tellAim();
    this.sources.asRun.record({ kind: 'aim', aim, who });
    this.sources.status.set({
      aim,
      ...(aim === 'rehearse' || before === 'rehearse' ? { standinPages: this.standinPages } : {}),
    });
  }

  private tellAim(): void {
    this.sources.asRun.keepAim(this.now);
    for (const each of this.listeners) each.onAim?.(this.now);
  }

  private get devices(): readonly DeviceRecord[] {
    return [...this.sources.show.devices.values()];
  }

  private reopen(devices: readonly DeviceRecord[]): void {
    for (const each of this.listeners) each.onReopen?.(devices);
  }

  private async arrangeAgain(): Promise<void> {
    const { rehearsals, status } = this.sources;
    const standIns = await rehearsals?.arrange(this.devices).catch((cause: unknown) => {
      this.sources.log.warn({ cause }, 'The rehearsal could not follow a change of the rig.');
      return undefined;
    });
    if (!standIns || this.now !== 'rehearse') return;
    const before = this.standIns?.places ?? {};
    this.standIns = standIns;
    status.set({ standinPages: this.standinPages });
    this.reopen(this.devices.filter(({ id }) => JSON.stringify(before[id]) !== JSON.stringify(standIns.places[id])));
  }
}
