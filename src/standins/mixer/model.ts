/** An audio mixer without a socket: strips with levels, mutes, names and meters, and stored settings. */

const sceneCount = 6;
export const quietest = -90;
export const loudest = 10;

export interface Strip {
  readonly name: string;
  /** In dB, -90 (shut) to 10. */
  readonly level: number;
  readonly muted: boolean;
}

export interface Scene {
  readonly name: string;
  readonly strips: readonly Pick<Strip, 'level' | 'muted'>[] | null;
}

export interface MixerState {
  readonly strips: readonly Strip[];
  readonly main: Pick<Strip, 'level' | 'muted'>;
  readonly scenes: readonly Scene[];
  readonly lastScene: number;
}

const names = [
  'Commentary 1',
  'Commentary 2',
  'Pontoon mic',
  'Umpire radio',
  'Start horn',
  'Bank left',
  'Bank right',
  'Replay',
  'Titles',
  'Music',
  'Phone in',
  'Talkback',
];

/** A level on its way. */
interface Fade {
  readonly from: number;
  readonly to: number;
  readonly frames: number;
  readonly gone: number;
}

const framesPerSecond = 25;

export class MixerModel {
  private current: MixerState;
  private frames = 0;
  /** By strip; 0 is main. */
  private readonly fades = new Map<number, Fade>();

  constructor(private readonly onChange: (before: MixerState, now: MixerState) => void) {
    const strips = names.map((name, n) => ({ name, level: n < 2 ? -5 : -20, muted: n > 8 }));
    const stored = (muted: (n: number) => boolean) =>
      strips.map((strip, n) => ({ level: strip.level, muted: muted(n) }));
    this.current = {
      strips,
      main: { level: 0, muted: false },
      scenes: [
        { name: 'Race', strips: stored((n) => n > 8) },
        { name: 'Interview', strips: stored((n) => n !== 2 && n !== 0) },
        { name: 'Music only', strips: stored((n) => n !== 9) },
        ...Array.from({ length: sceneCount - 3 }, () => ({ name: '', strips: null })),
      ],
      lastScene: 0,
    };
  }

  get state(): MixerState {
    return this.current;
  }

  /** Levels as meters show them, strips first and main last, in dB. They breathe, and follow fader and mute. */
  get meters(): number[] {
    const { strips, main } = this.current;
    const levels = strips.map(({ level, muted }, n) => {
      if (muted || level <= quietest) return quietest;
      return Math.max(quietest, level - 12 + 6 * Math.sin(this.frames / (5 + n)));
    });
    const loud = Math.max(...levels) + main.level;
    return [...levels, main.muted ? quietest : Math.max(quietest, loud)];
  }

  /** Moves a level in a time; 0 is main. A level that is set meanwhile ends it. */
  fade(n: number, to: number, ms: number): string | undefined {
    const from = n === 0 ? this.current.main.level : this.current.strips[n - 1]?.level;
    if (from === undefined) return `no strip ${n}`;
    this.fades.set(n, { from, to, frames: Math.max(1, Math.round((ms / 1000) * framesPerSecond)), gone: 0 });
    return undefined;
  }

  setStrip(n: number, change: Partial<Strip>): string | undefined {
    if (change.level !== undefined) this.fades.delete(n);
    if (!this.current.strips[n - 1]) return `no strip ${n}`;
    const strips = this.current.strips.map((strip, at) => (at === n - 1 ? { ...strip, ...change } : strip));
    return this.change({ strips });
  }

  setMain(change: Partial<MixerState['main']>): string | undefined {
    if (change.level !== undefined) this.fades.delete(0);
    return this.change({ main: { ...this.current.main, ...change } });
  }

  recall(n: number): string | undefined {
    const stored = this.current.scenes[n - 1]?.strips;
    if (!stored) return `nothing is stored as ${n}`;
    this.fades.clear();
    const strips = this.current.strips.map((strip, at) => ({ ...strip, ...stored[at] }));
    return this.change({ strips, lastScene: n });
  }

  store(n: number, name: string): string | undefined {
    if (!this.current.scenes[n - 1]) return `no place ${n}`;
    const strips = this.current.strips.map(({ level, muted }) => ({ level, muted }));
    const scenes = this.current.scenes.map((scene, at) => (at === n - 1 ? { name, strips } : scene));
    return this.change({ scenes, lastScene: n });
  }

  frame(): void {
    this.frames += 1;
    if (this.fades.size === 0) return;
    let { strips, main } = this.current;
    for (const [n, { from, to, frames, gone }] of this.fades) {
      const level = gone + 1 >= frames ? to : Math.round((from + ((to - from) * (gone + 1)) / frames) * 10) / 10;
      if (n === 0) main = { ...main, level };
      else strips = strips.map((strip, at) => (at === n - 1 ? { ...strip, level } : strip));
      if (gone + 1 >= frames) this.fades.delete(n);
      else this.fades.set(n, { from, to, frames, gone: gone + 1 });
    }
    this.change({ strips, main });
  }

  private change(change: Partial<MixerState>): undefined {
    const before = this.current;
    this.current = { ...before, ...change };
    this.onChange(before, this.current);
    return undefined;
  }
}
