/** A playout and replay deck without a socket: clips, a position that moves, and how it gets from one to the other. */

export interface Clip {
  readonly name: string;
  readonly seconds: number;
}

export type Transport = 'empty' | 'cued' | 'playing' | 'paused' | 'ended';

export interface DeckState {
  readonly clips: readonly Clip[];
  /** Number of the loaded clip from 1, or 0 for none. */
  readonly loaded: number;
  readonly transport: Transport;
  /** Seconds from the start of the clip. */
  readonly position: number;
  /** In per cent; 100 is normal, negative runs backwards. */
  readonly speed: number;
  readonly loop: boolean;
}

const startClips: readonly Clip[] = [
  { name: 'Opening film', seconds: 42.48 },
  { name: 'Heat 1 finish', seconds: 18.2 },
  { name: 'Heat 2 finish', seconds: 21.76 },
  { name: 'Heat 3 finish', seconds: 16.04 },
  { name: 'Photo finish lane 4', seconds: 6.4 },
  { name: 'Drone over the bend', seconds: 33.92 },
  { name: 'Crew portrait Alder', seconds: 24 },
  { name: 'Crew portrait Brackwater', seconds: 25.6 },
  { name: 'Capsize at the buoy', seconds: 12.8 },
  { name: 'Prize giving loop', seconds: 60 },
  { name: 'Sponsor loop', seconds: 15 },
  { name: 'Back soon loop', seconds: 10 },
];

const framesPerSecond = 25;
/** A deck needs a moment to cue a clip. */
const cueFrames = 8;

export class DeckModel {
  private current: DeckState = {
    clips: startClips,
    loaded: 0,
    transport: 'empty',
    position: 0,
    speed: 100,
    loop: false,
  };
  private cueing = 0;
  /** It plays from the next frame on, at this speed. */
  private starting: number | undefined;

  constructor(private readonly onChange: (before: DeckState, now: DeckState) => void) {}

  get state(): DeckState {
    return this.current;
  }

  load(clip: number): string | undefined {
    if (!this.current.clips[clip - 1]) return `no clip ${clip}`;
    this.starting = undefined;
    this.cueing = cueFrames;
    return this.change({ loaded: clip, transport: 'empty', position: 0, speed: 100 });
  }

  play(speed = 100): string | undefined {
    if (this.current.loaded === 0) return 'no clip loaded';
    this.cueing = 0;
    if (this.current.transport === 'playing') return this.change({ speed });
    this.starting = speed;
    return undefined;
  }

  pause(): string | undefined {
    if (this.current.loaded === 0) return 'no clip loaded';
    this.starting = undefined;
    return this.change({ transport: 'paused' });
  }

  stop(): string | undefined {
    if (this.current.loaded === 0) return 'no clip loaded';
    this.starting = undefined;
    return this.change({ transport: 'cued', position: 0 });
  }

  jump(seconds: number): string | undefined {
    const clip = this.clip;
    if (!clip) return 'no clip loaded';
    if (seconds < 0 || seconds > clip.seconds) return `the clip has ${clip.seconds} seconds`;
    const { transport } = this.current;
    this.starting = undefined;
    return this.change({ position: seconds, transport: transport === 'playing' ? 'playing' : 'paused' });
  }

  step(frames: number): string | undefined {
    const clip = this.clip;
    if (!clip) return 'no clip loaded';
    const position = Math.max(0, Math.min(clip.seconds, this.current.position + frames / framesPerSecond));
    this.starting = undefined;
    return this.change({ position, transport: 'paused' });
  }

  setLoop(loop: boolean): string | undefined {
    return this.change({ loop });
  }

  /** One frame passes. */
  frame(): void {
    if (this.cueing > 0) {
      this.cueing -= 1;
      if (this.cueing === 0) this.change({ transport: 'cued' });
    }
    if (this.starting !== undefined) {
      const speed = this.starting;
      const again = this.current.transport === 'ended' && speed > 0;
      this.starting = undefined;
      // The frame in which it begins is the one that it stood at.
      this.change({ transport: 'playing', speed, position: again ? 0 : this.current.position });
      return;
    }
    const { transport, position, speed, loop } = this.current;
    const clip = this.clip;
    if (transport !== 'playing' || !clip) return;
    const next = position + speed / 100 / framesPerSecond;
    if (next >= 0 && next < clip.seconds) this.change({ position: next });
    else if (loop) this.change({ position: speed > 0 ? 0 : clip.seconds });
    else this.change({ position: speed > 0 ? clip.seconds : 0, transport: 'ended' });
  }

  private get clip(): Clip | undefined {
    return this.current.clips[this.current.loaded - 1];
  }

  private change(change: Partial<DeckState>): undefined {
    const before = this.current;
    this.current = { ...before, ...change };
    this.onChange(before, this.current);
    return undefined;
  }
}

/** The position as the deck writes it: hours, minutes, seconds and frames. */
export function timecode(seconds: number): string {
  const frames = Math.round(seconds * framesPerSecond);
  const two = (n: number) => String(n).padStart(2, '0');
  const whole = Math.floor(frames / framesPerSecond);
  return [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60, frames % framesPerSecond]
    .map(two)
    .join(':');
}
