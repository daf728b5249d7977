import type { Aim } from '../../core/live';
import type { DeviceRecord } from '../../core/show';
import type { AsRunEntry } from '../record/as-run';
import type { Place, Rehearsals, RehearsalPlaces } from './rehearsal';

interface Sources {
  readonly rehearsals: Rehearsals | undefined;
  readonly devices: () => readonly DeviceRecord[];
  /** What goes on at the devices and has to end before they are let go; `undefined` when nothing does. */
  readonly goesOn: () => string | undefined;
  /** The devices are let go: what can still be told to them is told now. */
  readonly onLeave: () => void;
  /** The rehearsal begins. */
  readonly onRaise: () => void;
  /** What a rehearsal has left open is of no interest any more. */
  readonly onCurtain: () => void;
  /** Every device is reached anew, at the place that it has now. */
  readonly reopen: (devices: readonly DeviceRecord[]) => void;
  readonly onAim: (aim: Aim, who: string) => void;
  readonly record: (entry: AsRunEntry) => void;
  readonly publish: (diff: { readonly aim?: Aim; readonly standinPages?: string | null }) => void;
  /** Where the usual stand-ins are seen, where there are any. */
  readonly standinPages: () => string | null;
}

/** What is told to the devices as they are let go gets so long to leave. */
const farewellMs = 200;
const againMs = 1000;

/** Where presses go: to the devices, to private stand-ins, or nowhere. A rehearsal takes the place of the devices altogether. */
export class Aims {
  private now: Aim = 'live';
  private stage: RehearsalPlaces | undefined;
  private changing = false;
  private again: NodeJS.Timeout | undefined;

  constructor(private readonly sources: Sources) {}

  get aim(): Aim {
    return this.now;
  }

  get standinPages(): string | null {
    return this.stage ? `http://127.0.0.1:${this.stage.pagePort}` : this.sources.standinPages();
  }

  /** At the start: as it was, but a rehearsal is over when its stand-ins are. */
  recall(aim: Aim): void {
    this.now = aim === 'rehearse' ? 'dry' : aim;
    if (aim !== 'rehearse') return;
    const text = 'The rehearsal was over with the end of the program. The aim is dry until somebody says otherwise.';
    this.sources.record({ kind: 'note', text });
  }

  /** Where a device is stood in for, without a place where nothing does; `undefined` while nothing is rehearsed. */
  placeOf(device: string): { readonly place: Place | undefined } | undefined {
    return this.now === 'rehearse' ? { place: this.stage?.places[device] } : undefined;
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
  lookAfter(): void {
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
    const { rehearsals, devices, goesOn, onLeave, onRaise, reopen } = this.sources;
    if (!rehearsals) return 'There is nothing here that could stand in for the devices.';
    const notNow = () => {
      const open = goesOn();
      return open === undefined ? undefined : `Not now: ${open} Then the devices can be let go.`;
    };
    const open = notNow();
    if (open !== undefined) return open;
    let stage: RehearsalPlaces;
    try {
      stage = await rehearsals.arrange(devices());
    } catch {
      return 'The stand-ins for the rehearsal could not be started. Nothing has changed. Try again in a moment.';
    }
    onLeave();
    await new Promise((resolve) => setTimeout(resolve, farewellMs));
    // Somebody may have begun something meanwhile.
    const late = notNow();
    if (late !== undefined) {
      this.sources.onAim(this.now, who);
      await rehearsals.end().catch(() => undefined);
      return late;
    }
    this.stage = stage;
    onRaise();
    this.turn('rehearse', who);
    reopen(devices());
    return undefined;
  }

  private async drop(aim: Aim, who: string): Promise<undefined> {
    const { rehearsals, devices, onCurtain, reopen } = this.sources;
    onCurtain();
    clearTimeout(this.again);
    this.again = undefined;
    this.stage = undefined;
    this.turn(aim, who);
    reopen(devices());
    await rehearsals?.end().catch(() => undefined);
  }

  private turn(aim: Aim, who: string): void {
    const before = this.now;
    this.now = aim;
    this.sources.onAim(aim, who);
    this.sources.record({ kind: 'aim', aim, who });
    this.sources.publish({
      aim,
      ...(aim === 'rehearse' || before === 'rehearse' ? { standinPages: this.standinPages } : {}),
    });
  }

  private async arrangeAgain(): Promise<void> {
    const { rehearsals, devices, reopen, publish } = this.sources;
    const stage = await rehearsals?.arrange(devices()).catch(() => undefined);
    if (!stage || this.now !== 'rehearse') return;
    const before = this.stage?.places ?? {};
    this.stage = stage;
    publish({ standinPages: this.standinPages });
    reopen(devices().filter(({ id }) => JSON.stringify(before[id]) !== JSON.stringify(stage.places[id])));
  }
}
