import { readMidi, type GearEvent } from '../../core/hand';
import type { GearView } from '../../core/live';

export interface FromGear extends GearEvent {
  /** Which piece of gear, by its name; `keyboard` for the keys. */
  readonly gear: string;
}

const keyboard = 'keyboard';
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
  private readonly pads = new Map<number, { name: string; buttons: boolean[]; axes: number[] }>();
  /** Keys whose going down was told: their coming up is told whatever else is held or has the focus by then. */
  private readonly keysDown = new Set<string>();
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
    for (const [output, name] of named(this.midi?.outputs.values() ?? [])) {
      if (name !== gear || output.state !== 'connected') continue;
      try {
        output.send([...message]);
      } catch {
        // It has just been unplugged.
      }
    }
  }

  private async openInputs(): Promise<void> {
    for (const [input, name] of named(this.midi?.inputs.values() ?? [])) {
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
          if (!event) return;
          this.say({ ...event, gear: name });
          if (event.momentary) this.say({ ...event, gear: name, value: 0, down: false });
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
    for (const index of [...this.pads.keys()]) if (!known.some((pad) => pad.index === index)) this.letGo(index);
    this.tell();
    // They have to be asked again and again; without one nothing is asked.
    if (this.running && known.length > 0) this.frame = requestAnimationFrame(this.poll);
  };

  private readonly poll = () => {
    for (const [pad, name] of namedPads()) {
      const before = this.pads.get(pad.index) ?? { name, buttons: [], axes: [] };
      pad.buttons.forEach(({ pressed, value }, n) => {
        if (pressed === (before.buttons[n] ?? false)) return;
        before.buttons[n] = pressed;
        this.say({ gear: before.name, input: `button ${n}`, value, down: pressed });
      });
      pad.axes.forEach((axis, n) => {
        const value = Math.abs(axis) < axisSilence ? 0 : axis;
        if (Math.abs(value - (before.axes[n] ?? 0)) < axisStep) return;
        before.axes[n] = value;
        this.say({ gear: before.name, input: `axis ${n}`, value });
      });
      this.pads.set(pad.index, before);
    }
    this.frame = requestAnimationFrame(this.poll);
  };

  /** A controller that is gone holds nothing any more. */
  private letGo(index: number): void {
    const before = this.pads.get(index);
    const id = before?.name ?? '';
    this.pads.delete(index);
    before?.buttons.forEach(
      (pressed, n) => pressed && this.say({ gear: id, input: `button ${n}`, value: 0, down: false }),
    );
    before?.axes.forEach((value, n) => value !== 0 && this.say({ gear: id, input: `axis ${n}`, value: 0 }));
  }

  private readonly onKey = (event: KeyboardEvent) => {
    if (event.type === 'keyup') {
      // Also while Ctrl or a field holds the keyboard by now: what was held must not go on.
      if (this.keysDown.delete(event.code))
        this.say({ gear: keyboard, input: `key ${event.code}`, value: 0, down: false });
      return;
    }
    const { target } = event;
    const typing = target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
    // The keys that work the screen itself stay what they are.
    if (typing || event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
    if (/^(Tab|Shift|Enter|Escape| |Arrow.*|Home|End|Page.*)$/.test(event.key)) return;
    this.keysDown.add(event.code);
    this.say({ gear: keyboard, input: `key ${event.code}`, value: 1, down: true });
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
    const midi = named(this.midi?.inputs.values() ?? []).map(([input, name]): GearView => {
      const state = input.state !== 'connected' ? 'gone' : this.failed.has(input.id) ? 'held elsewhere' : 'ready';
      return { id: input.id, name, kind: 'midi', state, ...used(name) };
    });
    const pads = namedPads().map(([pad, name]): GearView => ({
      id: `pad ${pad.index}`,
      name,
      kind: 'pad',
      state: 'ready',
      ...used(name),
    }));
    this.list = [...midi, ...pads].map((each) => ({
      ...each,
      id: each.id.slice(0, 120),
      name: each.name.slice(0, 120),
    }));
    for (const listener of this.listListeners) listener();
  }
}

/** Each piece with its name; of several with one name, the second is “name (2)”. */
function named<P extends { readonly id: string; readonly name?: string | null }>(pieces: Iterable<P>): [P, string][] {
  const count = new Map<string, number>();
  return [...pieces].map((piece) => {
    const name = piece.name ?? piece.id;
    const n = (count.get(name) ?? 0) + 1;
    count.set(name, n);
    return [piece, n === 1 ? name : `${name} (${n})`];
  });
}

/** The game controllers, told apart by the place that the browser gives them (Gamepad API, “index”). */
function namedPads(): [Gamepad, string][] {
  const pads = (navigator.getGamepads?.() ?? []).filter((pad) => pad !== null);
  const byIndex = named(pads.map((pad) => ({ id: pad.id, name: pad.id, pad })));
  return byIndex.map(([{ pad }, name]) => [pad, name]);
}

function follow<T>(listeners: Set<T>, listener: T): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}
