import { applyRequest } from './apply';
import { checkRequest } from './check';

/** The switcher itself, without a socket: what it shows, what it accepts, and what changes at each frame. */

export const inputCount = 12;
export const keyCount = 4;
export const auxCount = 2;
export const stillCount = 2;
export const boxCount = 4;
export const firmware = '1.0';

export type SwitcherCommand =
  | { readonly verb: 'take' | 'ready'; readonly input: number }
  | { readonly verb: 'cut' | 'mix' }
  | { readonly verb: 'rate'; readonly frames: number }
  | { readonly verb: 'name'; readonly input: number; readonly text: string }
  | { readonly verb: 'black'; readonly on: boolean }
  | { readonly verb: 'key'; readonly key: number; readonly on: boolean }
  | { readonly verb: 'keysource'; readonly key: number; readonly input: number }
  | { readonly verb: 'aux'; readonly aux: number; readonly input: number }
  | { readonly verb: 'still'; readonly store: number; readonly picture: number }
  | { readonly verb: 'macro'; readonly macro: number }
  | { readonly verb: 'box'; readonly box: number; readonly on: boolean }
  | { readonly verb: 'boxsource'; readonly box: number; readonly input: number }
  | { readonly verb: 'boxat'; readonly box: number; readonly x: number; readonly y: number }
  | { readonly verb: 'boxsize'; readonly box: number; readonly size: number }
  | { readonly verb: 'boxcrop'; readonly box: number; readonly edges: readonly [number, number, number, number] };

export interface Box {
  readonly on: boolean;
  readonly source: number;
  /** Centre, in thousandths of the picture, 0 to 1000. */
  readonly x: number;
  readonly y: number;
  /** In per cent of the full picture. */
  readonly size: number;
  /** Left, top, right and bottom, in per cent of the source. */
  readonly crop: readonly [number, number, number, number];
}

export interface SwitcherState {
  readonly program: number;
  readonly preview: number;
  /** Frames a mix takes. */
  readonly rate: number;
  /** Frames of the running mix that are done, or `null` when none runs. */
  readonly mixed: number | null;
  readonly names: readonly string[];
  /** From 0, open, to `rate`, black. */
  readonly black: number;
  readonly blackWanted: boolean;
  readonly keys: readonly { readonly on: boolean; readonly source: number }[];
  readonly aux: readonly number[];
  /** Which picture is in each store. */
  readonly stills: readonly number[];
  readonly macro: { readonly running: number; readonly framesLeft: number } | null;
  readonly boxes: readonly Box[];
}

export interface Refusal {
  readonly code: number;
  readonly text: string;
}

const startNames = [
  'Start tower',
  'Mid-course',
  'Finish',
  'Pontoon',
  'Drone',
  'Launch',
  'Replay',
  'Titles',
  'Slides',
  'Boxes',
  'Clock',
  'Bars',
] as const;

/** Pictures on the switcher's card, for its still stores. */
export const pictures = [
  { name: 'Club crest', alpha: true },
  { name: 'Lane draw', alpha: false },
  { name: 'Back soon', alpha: false },
  { name: 'Sponsor strap', alpha: true },
  { name: 'Weather map', alpha: false },
] as const;

/** Stored macros: what each does, step by step, and how long it runs in frames. */
export const macros: readonly {
  readonly name: string;
  readonly frames: number;
  readonly steps: readonly { readonly at: number; readonly command: SwitcherCommand }[];
}[] = [
  {
    name: 'Opening',
    frames: 75,
    steps: [
      { at: 0, command: { verb: 'still', store: 1, picture: 1 } },
      { at: 1, command: { verb: 'ready', input: 5 } },
      { at: 25, command: { verb: 'cut' } },
      { at: 50, command: { verb: 'key', key: 1, on: true } },
    ],
  },
  {
    name: 'Four boxes',
    frames: 25,
    steps: [0, 1, 2, 3].map((n) => ({ at: n * 5, command: { verb: 'box', box: n + 1, on: true } as const })),
  },
  {
    name: 'Clear keys',
    frames: 10,
    steps: [1, 2, 3, 4].map((key) => ({ at: key, command: { verb: 'key', key, on: false } as const })),
  },
  { name: 'Break', frames: 50, steps: [{ at: 0, command: { verb: 'still', store: 2, picture: 3 } }] },
];

const quarter = [
  [280, 280],
  [720, 280],
  [280, 720],
  [720, 720],
] as const;

const start: SwitcherState = {
  program: 1,
  preview: 2,
  rate: 25,
  mixed: null,
  names: [...startNames],
  black: 0,
  blackWanted: false,
  keys: Array.from({ length: keyCount }, (_, n) => ({ on: false, source: n === 0 ? 8 : 11 })),
  aux: [1, 7],
  stills: [1, 2],
  macro: null,
  boxes: quarter.map(([x, y], n) => ({ on: n < 2, source: n + 1, x, y, size: 40, crop: [0, 0, 0, 0] as const })),
};

/** A change takes effect at the next frame, in the order of the commands, as in a real mixer. */
export class SwitcherModel {
  private current: SwitcherState = start;
  private queue: SwitcherCommand[] = [];

  /** `onChange` is told the state before and after each frame in which something has changed. */
  constructor(private readonly onChange: (before: SwitcherState, now: SwitcherState) => void) {}

  get state(): SwitcherState {
    return this.current;
  }

  /** Accepts a command for the next frame, or says why not. */
  request(command: SwitcherCommand): Refusal | undefined {
    const mixing = this.current.mixed !== null || this.queue.some((queued) => queued.verb === 'mix');
    const refusal = checkRequest(command, mixing, this.current);
    if (!refusal) this.queue.push(command);
    return refusal;
  }

  /** One frame passes. */
  frame(): void {
    const before = this.current;
    const queue = this.queue;
    this.queue = [];
    const started = before.mixed;
    for (const command of queue) this.current = applyRequest(this.current, command);
    if (started !== null && this.current.mixed !== null) this.advanceMix(this.current.mixed + 1);
    this.advanceBlack();
    this.advanceMacro(before.macro !== null);
    if (this.current !== before) this.onChange(before, this.current);
  }

  private advanceMix(mixed: number): void {
    const now = this.current;
    this.current =
      mixed < now.rate ? { ...now, mixed } : { ...now, program: now.preview, preview: now.program, mixed: null };
  }

  private advanceBlack(): void {
    const { black, blackWanted, rate } = this.current;
    const wanted = blackWanted ? rate : 0;
    if (black === wanted) return;
    const next = black < wanted ? black + 1 : Math.min(black, rate) - 1;
    this.current = { ...this.current, black: Math.max(0, Math.min(rate, next)) };
  }

  private advanceMacro(wasRunning: boolean): void {
    const { macro } = this.current;
    const stored = macro && macros[macro.running - 1];
    if (!macro || !stored) return;
    const done = stored.frames - macro.framesLeft;
    for (const { at, command } of stored.steps) {
      if (at === done && !checkRequest(command, this.current.mixed !== null, this.current)) {
        this.current = applyRequest(this.current, command);
      }
    }
    if (!wasRunning) return;
    const framesLeft = macro.framesLeft - 1;
    this.current = { ...this.current, macro: framesLeft > 0 ? { running: macro.running, framesLeft } : null };
  }
}
