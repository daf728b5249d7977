/** The switcher itself, without a socket: what it shows, what it accepts, and what changes at each frame. */

export const inputCount = 12;

export const firmware = '1.0';

export type SwitcherCommand =
  | { readonly verb: 'take'; readonly input: number }
  | { readonly verb: 'ready'; readonly input: number }
  | { readonly verb: 'cut' }
  | { readonly verb: 'mix' }
  | { readonly verb: 'rate'; readonly frames: number }
  | { readonly verb: 'name'; readonly input: number; readonly text: string };

export interface SwitcherState {
  readonly program: number;
  readonly preview: number;
  /** Frames a mix takes. */
  readonly rate: number;
  /** Frames of the running mix that are done, or `null` when none runs. */
  readonly mixed: number | null;
  readonly names: readonly string[];
}

export type SwitcherField = 'program' | 'preview' | 'mix' | 'rate' | { readonly name: number };

export interface Refusal {
  readonly code: number;
  readonly text: string;
}

export const startNames = [
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

/** A change takes effect at the next frame, in the order of the commands, as in a real mixer. */
export class SwitcherModel {
  private current: SwitcherState = { program: 1, preview: 2, rate: 25, mixed: null, names: [...startNames] };
  private queue: SwitcherCommand[] = [];

  /** `onChange` is told which fields have changed, after each frame in which some have. */
  constructor(private readonly onChange: (fields: readonly SwitcherField[]) => void) {}

  get state(): SwitcherState {
    return this.current;
  }

  /** Accepts a command for the next frame, or says why not. */
  request(command: SwitcherCommand): Refusal | undefined {
    const refusal = this.check(command);
    if (!refusal) this.queue.push(command);
    return refusal;
  }

  /** One frame passes. */
  frame(): void {
    const before = this.current;
    const queue = this.queue;
    this.queue = [];
    const started = before.mixed;
    for (const command of queue) this.apply(command);
    if (started !== null && this.current.mixed !== null) this.advanceMix(this.current.mixed + 1);
    if (this.current !== before) this.report(before);
  }

  private check(command: SwitcherCommand): Refusal | undefined {
    if ('input' in command && (command.input < 1 || command.input > inputCount)) {
      return { code: 21, text: `no input ${command.input}` };
    }
    if (command.verb === 'rate' && (command.frames < 1 || command.frames > 250)) {
      return { code: 22, text: 'rate is 1 to 250 frames' };
    }
    if (command.verb === 'name' && [...command.text].length > 20)
      return { code: 22, text: 'a name has at most 20 characters' };
    const mixing = this.current.mixed !== null || this.queue.some((queued) => queued.verb === 'mix');
    if (mixing && (command.verb === 'mix' || command.verb === 'cut')) return { code: 31, text: 'mix running' };
    return undefined;
  }

  private apply(command: SwitcherCommand): void {
    const now = this.current;
    switch (command.verb) {
      case 'take':
        // Taking an input by hand ends a mix: the bus is what was asked for last.
        this.current = { ...now, program: command.input, mixed: null };
        break;
      case 'ready':
        this.current = { ...now, preview: command.input };
        break;
      case 'cut':
        this.current = { ...now, program: now.preview, preview: now.program };
        break;
      case 'mix':
        this.current = { ...now, mixed: 0 };
        break;
      case 'rate':
        this.current = { ...now, rate: command.frames };
        break;
      case 'name':
        this.current = { ...now, names: now.names.map((name, n) => (n === command.input - 1 ? command.text : name)) };
        break;
    }
  }

  private advanceMix(mixed: number): void {
    const now = this.current;
    this.current =
      mixed < now.rate ? { ...now, mixed } : { ...now, program: now.preview, preview: now.program, mixed: null };
  }

  private report(before: SwitcherState): void {
    const now = this.current;
    const fields: SwitcherField[] = [];
    if (now.program !== before.program) fields.push('program');
    if (now.preview !== before.preview) fields.push('preview');
    if (now.mixed !== before.mixed) fields.push('mix');
    if (now.rate !== before.rate) fields.push('rate');
    now.names.forEach((name, n) => name !== before.names[n] && fields.push({ name: n + 1 }));
    this.onChange(fields);
  }
}
