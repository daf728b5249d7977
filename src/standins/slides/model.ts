import { arrangements, decks, pictureTitles, screenSets, titleTemplates, tracks } from './library';

/** A slide and clip machine without a socket. */

export const layers = ['slides', 'titles', 'pictures', 'message', 'sound'] as const;
type Layer = (typeof layers)[number];
export type SoundState = 'stopped' | 'playing' | 'paused';

export interface SlidesState {
  /** Number of the deck from 1, and of the slide in it; 0: none is shown. */
  readonly deck: number;
  readonly slide: number;
  /** What is left of a clip that plays, in seconds; 0 for a slide. */
  readonly clipLeft: number;
  /** The title template that is shown; 0: none. */
  readonly title: number;
  /** The texts of each template. */
  readonly texts: readonly (readonly string[])[];
  /** In how many seconds the title goes out by itself; 0: it stays. */
  readonly titleOffIn: number;
  readonly pictures: readonly boolean[];
  readonly message: string;
  /** A field of the talent's screen is linked to the message. */
  readonly messageLinked: boolean;
  readonly set: number;
  readonly arrangement: number;
  readonly track: number;
  readonly sound: SoundState;
  readonly position: number;
}

const frameS = 0.04;

export class SlidesModel {
  private current: SlidesState = {
    deck: 1,
    slide: 0,
    clipLeft: 0,
    title: 0,
    texts: titleTemplates.map(({ fields }) => fields.map(() => '')),
    titleOffIn: 0,
    pictures: pictureTitles.map(() => false),
    message: '',
    messageLinked: true,
    set: 1,
    arrangement: 1,
    track: 0,
    sound: 'stopped',
    position: 0,
  };
  private frames = 0;

  /** @param onChange told of each change; `passing`: nothing but the time that runs */
  constructor(private readonly onChange: (before: SlidesState, now: SlidesState, passing: boolean) => void) {}

  get state(): SlidesState {
    return this.current;
  }

  choose(deck: number): string | undefined {
    return decks[deck - 1] ? this.change({ deck, slide: 0, clipLeft: 0 }) : `there is no deck ${deck}`;
  }

  goTo(slide: number): string | undefined {
    const item = decks[this.current.deck - 1]?.items[slide - 1];
    return item ? this.change({ slide, clipLeft: item.seconds }) : `the deck has no slide ${slide}`;
  }

  step(by: 1 | -1): string | undefined {
    const to = this.current.slide + by;
    if (to < 0) return 'no slide is shown';
    // Before the first slide nothing is shown.
    if (to === 0) return this.change({ slide: 0, clipLeft: 0 });
    const last = decks[this.current.deck - 1]?.items.length ?? 0;
    return to > last ? 'this is the last slide' : this.goTo(to);
  }

  clear(layer: Layer | 'all'): string | undefined {
    const isOf = (each: Layer) => layer === 'all' || layer === each;
    return this.change({
      ...(isOf('slides') ? { slide: 0, clipLeft: 0 } : {}),
      ...(isOf('titles') ? { title: 0, titleOffIn: 0 } : {}),
      ...(isOf('pictures') ? { pictures: pictureTitles.map(() => false) } : {}),
      ...(isOf('message') ? { message: '' } : {}),
      ...(isOf('sound') ? { sound: 'stopped', position: 0 } : {}),
    });
  }

  /** @param seconds after which it goes out by itself; 0: it stays */
  showTitle(title: number, on: boolean, seconds: number): string | undefined {
    if (!titleTemplates[title - 1]) return `there is no title ${title}`;
    if (on) return this.change({ title, titleOffIn: seconds });
    return this.current.title === title ? this.change({ title: 0, titleOffIn: 0 }) : undefined;
  }

  fill(title: number, field: number, text: string): string | undefined {
    const before = this.current.texts[title - 1];
    if (!before) return `there is no title ${title}`;
    if (before[field - 1] === undefined) return `title ${title} has no field ${field}`;
    const filled = before.map((each, n) => (n === field - 1 ? text : each));
    return this.change({ texts: this.current.texts.map((each, n) => (n === title - 1 ? filled : each)) });
  }

  showPicture(picture: number, on: boolean): string | undefined {
    if (this.current.pictures[picture - 1] === undefined) return `there is no picture title ${picture}`;
    return this.change({ pictures: this.current.pictures.map((each, n) => (n === picture - 1 ? on : each)) });
  }

  say(message: string): string | undefined {
    return this.change({ message });
  }

  /** By hand: the talent's screen is edited. */
  link(messageLinked: boolean): string | undefined {
    return this.change({ messageLinked });
  }

  useSet(set: number): string | undefined {
    return screenSets[set - 1] === undefined ? `there is no set ${set}` : this.change({ set });
  }

  arrange(arrangement: number): string | undefined {
    if (arrangements[arrangement - 1] === undefined) return `there is no arrangement ${arrangement}`;
    return this.change({ arrangement });
  }

  play(track: number): string | undefined {
    return tracks[track - 1] ? this.change({ track, sound: 'playing', position: 0 }) : `there is no track ${track}`;
  }

  pause(on: boolean): string | undefined {
    const { sound } = this.current;
    if (sound === 'stopped') return 'no track plays';
    return this.change({ sound: on ? 'paused' : 'playing' });
  }

  stop(): string | undefined {
    return this.change({ sound: 'stopped', position: 0 });
  }

  jump(position: number): string | undefined {
    const track = tracks[this.current.track - 1];
    if (!track || this.current.sound === 'stopped') return 'no track plays';
    return position <= track.seconds ? this.change({ position }) : `the track has ${track.seconds} seconds`;
  }

  frame(): void {
    this.frames += 1;
    const { sound, track, position, titleOffIn, clipLeft } = this.current;
    const length = tracks[track - 1]?.seconds ?? 0;
    const moved: Partial<SlidesState> = {
      ...(sound === 'playing' ? { position: Math.min(length, position + frameS) } : {}),
      ...(titleOffIn > 0 ? { titleOffIn: Math.max(0, titleOffIn - frameS) } : {}),
      ...(clipLeft > 0 ? { clipLeft: Math.max(0, clipLeft - frameS) } : {}),
    };
    if (Object.keys(moved).length === 0) return;
    const isOver: Partial<SlidesState> = {
      ...(moved.position !== undefined && moved.position >= length ? { sound: 'stopped', position: 0 } : {}),
      ...(moved.titleOffIn === 0 ? { title: 0 } : {}),
    };
    // Once a second is enough for a time that runs.
    this.change({ ...moved, ...isOver }, Object.keys(isOver).length === 0 && this.frames % 25 !== 0);
  }

  private change(change: Partial<SlidesState>, passing = false): undefined {
    const before = this.current;
    this.current = { ...before, ...change };
    this.onChange(before, this.current, passing);
    return undefined;
  }
}
