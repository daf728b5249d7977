/** A screen or projector without a socket: it warms up, cools down, and shows one of its inputs. */

export type Power = 'off' | 'on' | 'cooling' | 'warming';
export type Health = 'well' | 'warning' | 'error';

export const parts = ['fan', 'lamp', 'temperature', 'cover', 'filter', 'other'] as const;
export type ScreenPart = (typeof parts)[number];

interface ScreenInput {
  /** As PJLink writes it: the kind, then the number. */
  readonly id: string;
  readonly name: string;
  /** The resolution of what is connected; empty for no signal. */
  readonly signal: string;
}

export interface ScreenState {
  readonly power: Power;
  readonly input: string;
  readonly isBlank: boolean;
  readonly isMuted: boolean;
  readonly isFrozen: boolean;
  readonly volume: number;
  readonly microphone: number;
  readonly health: Readonly<Record<ScreenPart, Health>>;
  readonly lampHours: number;
}

export const inputs: readonly ScreenInput[] = [
  { id: '11', name: 'Computer', signal: '' },
  { id: '21', name: 'Video', signal: '' },
  { id: '31', name: 'Program feed', signal: '1920x1080' },
  { id: '32', name: 'Results', signal: '1280x720' },
];

const framesPerSecond = 25;
const warmUpFrames = 3 * framesPerSecond;
const coolDownFrames = 2 * framesPerSecond;
const loudest = 20;

/** Why it does not do what it is asked: there is no such input or value, or not now. */
export type Refusal = 'parameter' | 'time';

export class ScreenModel {
  private current: ScreenState = {
    power: 'off',
    input: '31',
    isBlank: false,
    isMuted: false,
    isFrozen: false,
    volume: 8,
    microphone: 4,
    health: { fan: 'well', lamp: 'well', temperature: 'well', cover: 'well', filter: 'well', other: 'well' },
    lampHours: 1834,
  };
  private framesLeft = 0;

  constructor(
    private readonly onChange: () => void,
    on: boolean,
  ) {
    if (on) this.current = { ...this.current, power: 'on' };
  }

  get state(): ScreenState {
    return this.current;
  }

  setPower(on: boolean): Refusal | undefined {
    const { power } = this.current;
    if (on ? power === 'on' || power === 'warming' : power === 'off' || power === 'cooling') return undefined;
    // While it warms up or cools down it does nothing else.
    if (power === 'warming' || power === 'cooling') return 'time';
    this.framesLeft = on ? warmUpFrames : coolDownFrames;
    this.set(on ? { power: 'warming' } : { power: 'cooling', isBlank: false, isMuted: false, isFrozen: false });
    return undefined;
  }

  setInput(id: string): Refusal | undefined {
    if (!inputs.some((input) => input.id === id)) return 'parameter';
    return this.whileOn({ input: id, isFrozen: false });
  }

  setMute(patch: { readonly isBlank?: boolean; readonly isMuted?: boolean }): Refusal | undefined {
    return this.whileOn(patch);
  }

  setFrozen(isFrozen: boolean): Refusal | undefined {
    return this.whileOn({ isFrozen });
  }

  step(what: 'volume' | 'microphone', by: 1 | -1): Refusal | undefined {
    return this.whileOn({ [what]: Math.min(loudest, Math.max(0, this.current[what] + by)) });
  }

  setHealth(part: ScreenPart, health: Health): void {
    this.set({ health: { ...this.current.health, [part]: health } });
  }

  /** One frame of the house sync passes. */
  frame(): void {
    if (this.framesLeft === 0) return;
    this.framesLeft -= 1;
    if (this.framesLeft === 0) this.set({ power: this.current.power === 'warming' ? 'on' : 'off' });
  }

  private whileOn(patch: Partial<ScreenState>): Refusal | undefined {
    if (this.current.power !== 'on') return 'time';
    this.set(patch);
    return undefined;
  }

  private set(patch: Partial<ScreenState>): void {
    this.current = { ...this.current, ...patch };
    this.onChange();
  }
}
