import { readMidi, type GearEvent } from '../../core/hand';
import type { GearView } from '../../core/live';

export interface FromGear extends GearEvent {
  /** Which piece of gear, by its name; `keyboard` for the keys. */
  readonly gear: string;
}

export const keyboard = 'keyboard';
const axisStep = 0.01;
/** Movements of an axis this small are noise. */
const axisSilence = 0.04;

/**
 * The gear at this screen: MIDI devices, game controllers and the keyboard, as the browser offers them (Web MIDI API, Gamepad API).
 * It tells what is done on it and what there is; it knows nothing of controls.
 */
export class Gear {
  private readonly eventListeners = new Set<(event: FromGear) => void>();
  private readonly listListeners = new Set<() => void>();
  private list: readonly GearView[] = [];
  private midi: MIDIAccess | undefined;
  private readonly opened = new Map<string, MIDIInput>();
  private readonly failed = new Set<string>();
  private readonly usedAt = new Map<string, number>();
  private readonly pads = new Map<string, { buttons: boolean[]; axes: number[] }>();
  private frame = 0;
  private running = false;
  /** Why there is no MIDI; `undefined` while there is, or before it was asked for. */
  midiRefused: string | undefined;

  readonly getList = (): readonly GearView[] => this.list;
  readonly onList = (listener: () => void): (() => void) => follow(this.listListeners, listener);
  readonly onEvent = (listener: (event: FromGear) => void): (() => void) => follow(this.eventListeners, listener);

  start(): void {
    if (this.running) return;
    this.running = true;
    window.addEventListener('gamepadconnected', this.onPads);
    window.addEventListener('gamepaddisconnected', this.onPads);
    window.addEventListener('keydown', this.onKey, true);
    window.addEventListener('keyup', this.onKey, true);
    this.onPads();
  }

  stop(): void {
    this.running = false;
    window.removeEventListener('gamepadconnected', this.onPads);
    window.removeEventListener('gamepaddisconnected', this.onPads);
    window.removeEventListener('keydown', this.onKey, true);
    window.removeEventListener('keyup', this.onKey, true);
    cancelAnimationFrame(this.frame);
    for (const input of this.opened.values()) input.onmidimessage = null;
    this.opened.clear();
  }

  /** Looks for MIDI devices, again for those that another program held; the browser may ask the person first. */
  async lookForMidi(): Promise<void> {
    if (!('requestMIDIAccess' in navigator)) {
      this.midiRefused = window.isSecureContext
        ? 'This browser has no MIDI.'
        : 'Browsers give MIDI only at a secure address: join over https.';
      return this.tell();
    }
    try {
      this.midi ??= await navigator.requestMIDIAccess({ sysex: false });
      this.midiRefused = undefined;
    } catch {
      this.midiRefused = 'The browser was not allowed to use MIDI. Allow it in its settings for this address.';
      return this.tell();
    }
    this.midi.onstatechange = () => void this.openInputs();
    this.failed.clear();
    await this.openInputs();
  }

  /** Sends to the MIDI device of this name: its lamps and motors. */
  send(gear: string, message: readonly number[]): void {
    for (const output of this.midi?.outputs.values() ?? []) {
      if (output.name !== gear || output.state !== 'connected') continue;
      try {
        output.send([...message]);
      } catch {
        // It has just been unplugged.
      }
    }
  }

  private async openInputs(): Promise<void> {
    for (const input of this.midi?.inputs.values() ?? []) {
      if (input.state !== 'connected') {
        this.opened.delete(input.id);
        continue;
      }
      if (this.opened.has(input.id)) continue;
      try {
        await input.open();
        this.failed.delete(input.id);
        this.opened.set(input.id, input);
        input.onmidimessage = ({ data }) => {
          const event = data && readMidi(data);
          if (event) this.say({ ...event, gear: input.name ?? input.id });
        };
      } catch {
        // Where a device can have one reader only, another program is it.
        this.failed.add(input.id);
      }
    }
    this.tell();
  }

  private readonly onPads = () => {
    cancelAnimationFrame(this.frame);
    const known = navigator.getGamepads?.().filter((pad) => pad !== null) ?? [];
    for (const id of this.pads.keys()) if (!known.some((pad) => pad.id === id)) this.letGo(id);
    this.tell();
    // They have to be asked again and again; without one nothing is asked.
    if (this.running && known.length > 0) this.frame = requestAnimationFrame(this.poll);
  };

  private readonly poll = () => {
    for (const pad of navigator.getGamepads()) {
      if (!pad) continue;
      const before = this.pads.get(pad.id) ?? { buttons: [], axes: [] };
      pad.buttons.forEach(({ pressed, value }, n) => {
        if (pressed === (before.buttons[n] ?? false)) return;
        before.buttons[n] = pressed;
        this.say({ gear: pad.id, input: `button ${n}`, value, down: pressed });
      });
      pad.axes.forEach((axis, n) => {
        const value = Math.abs(axis) < axisSilence ? 0 : axis;
        if (Math.abs(value - (before.axes[n] ?? 0)) < axisStep) return;
        before.axes[n] = value;
        this.say({ gear: pad.id, input: `axis ${n}`, value });
      });
      this.pads.set(pad.id, before);
    }
    this.frame = requestAnimationFrame(this.poll);
  };

  /** A controller that is gone holds nothing any more. */
  private letGo(id: string): void {
    const before = this.pads.get(id);
    this.pads.delete(id);
    before?.buttons.forEach(
      (pressed, n) => pressed && this.say({ gear: id, input: `button ${n}`, value: 0, down: false }),
    );
    before?.axes.forEach((value, n) => value !== 0 && this.say({ gear: id, input: `axis ${n}`, value: 0 }));
  }

  private readonly onKey = (event: KeyboardEvent) => {
    const { target } = event;
    const typing = target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
    // The keys that work the screen itself stay what they are.
    if (typing || event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
    if (/^(Tab|Shift|Enter|Escape| |Arrow.*|Home|End|Page.*)$/.test(event.key)) return;
    this.say({
      gear: keyboard,
      input: `key ${event.code}`,
      value: event.type === 'keydown' ? 1 : 0,
      down: event.type === 'keydown',
    });
  };

  private say(event: FromGear): void {
    const now = Date.now();
    if (now - (this.usedAt.get(event.gear) ?? 0) > 250) {
      this.usedAt.set(event.gear, now);
      this.tell();
    }
    for (const listener of this.eventListeners) listener(event);
  }

  private tell(): void {
    const used = (name: string) => {
      const at = this.usedAt.get(name);
      return at === undefined ? {} : { usedAt: at };
    };
    const midi = [...(this.midi?.inputs.values() ?? [])].map((input): GearView => {
      const name = input.name ?? input.id;
      const state = input.state !== 'connected' ? 'gone' : this.failed.has(input.id) ? 'held elsewhere' : 'ready';
      return { id: input.id, name, kind: 'midi', state, ...used(name) };
    });
    const pads = (navigator.getGamepads?.() ?? []).flatMap((pad): GearView[] =>
      pad ? [{ id: `pad ${pad.index}`, name: pad.id, kind: 'pad', state: 'ready', ...used(pad.id) }] : [],
    );
    this.list = [...midi, ...pads].map((each) => ({
      ...each,
      id: each.id.slice(0, 120),
      name: each.name.slice(0, 120),
    }));
    for (const listener of this.listListeners) listener();
  }
}

function follow<T>(listeners: Set<T>, listener: T): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}
