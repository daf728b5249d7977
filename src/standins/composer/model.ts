import type { ComposerPlace } from './place';

/** A composer of pictures on another computer, without a socket: boards, feeds, overlays, filters, sound, and what goes out. */

export type FeedState = 'off' | 'loading' | 'running' | 'frozen';
export type ProgramState = 'off' | 'starting' | 'running';
export type StreamState = 'off' | 'starting' | 'on';
export const transitions = ['cut', 'mix', 'push', 'iris'] as const;
export type Transition = (typeof transitions)[number];

export const quietestDb = -60;
export const loudestDb = 6;
export const longestTransitionMs = 5000;

export interface ComposerState {
  /** Numbers of boards, from 1. */
  readonly current: number;
  readonly next: number;
  readonly mixing: boolean;
  readonly transition: Transition;
  readonly ms: number;
  readonly feeds: readonly FeedState[];
  readonly overlays: readonly boolean[];
  readonly filters: readonly boolean[];
  readonly channels: readonly { readonly db: number; readonly mute: boolean }[];
  readonly programs: readonly ProgramState[];
  /** The effect that is heard now, by name; empty: none. */
  readonly effect: string;
  readonly stream: StreamState;
  readonly streamSeconds: number;
  readonly record: boolean;
  readonly recordSeconds: number;
  readonly camera: boolean;
  readonly dropped: number;
  readonly freeGb: number;
}

const frameMs = 40;
const framesPerSecond = 25;
const loadFrames = 30;
const startFrames = 40;
const effectFrames = 50;

/** What happens later, and after how many frames. */
interface Due {
  readonly at: number;
  readonly what: string;
  readonly change: (state: ComposerState) => Partial<ComposerState>;
}

export class ComposerModel {
  private current: ComposerState;
  private frames = 0;
  private due: Due[] = [];

  constructor(
    readonly place: ComposerPlace,
    private readonly onChange: (before: ComposerState, now: ComposerState) => void,
  ) {
    this.current = {
      current: 1,
      next: 2,
      mixing: false,
      transition: 'mix',
      ms: 600,
      feeds: place.feeds.map(({ kind }) => (kind === 'film' ? 'off' : 'running')),
      overlays: place.overlays.map(() => false),
      filters: place.filters.map(() => false),
      channels: place.channels.map(() => ({ db: -12, mute: false })),
      programs: place.programs.map(() => 'off'),
      effect: '',
      stream: 'off',
      streamSeconds: 0,
      record: false,
      recordSeconds: 0,
      camera: false,
      dropped: 0,
      freeGb: 164.2,
    };
  }

  get state(): ComposerState {
    return this.current;
  }

  ready(board: number): string | undefined {
    return this.hasBoard(board) ? this.change({ next: board }) : `no board ${board}`;
  }

  /** Puts a board on at once. */
  show(board: number): string | undefined {
    if (!this.hasBoard(board)) return `no board ${board}`;
    this.forget('mix');
    const { current, next } = this.current;
    return this.change({ current: board, next: next === board ? current : next, mixing: false });
  }

  /** Goes to the next board, by the transition that is set. */
  go(): string | undefined {
    const { next, transition, ms, mixing } = this.current;
    if (mixing) return 'a transition is running';
    if (transition === 'cut' || ms === 0) return this.change({ current: next, next: this.current.current });
    this.later('mix', Math.ceil(ms / frameMs), (state) => ({
      current: state.next,
      next: state.current,
      mixing: false,
    }));
    return this.change({ mixing: true });
  }

  setTransition(transition: Transition, ms: number): string | undefined {
    return this.change({ transition, ms });
  }

  setFeed(feed: number, on: boolean): string | undefined {
    if (!this.current.feeds[feed - 1]) return `no feed ${feed}`;
    if (!on) return this.feedIs(feed, 'off');
    return this.current.feeds[feed - 1] === 'off' ? this.feedIs(feed, 'running') : undefined;
  }

  /** Fetches the page of a web feed again. */
  reload(feed: number): string | undefined {
    if (this.place.feeds[feed - 1]?.kind !== 'web') return `feed ${feed} is no web page`;
    return this.load(feed);
  }

  /** Closes a camera and opens it again. */
  restart(feed: number): string | undefined {
    if (this.place.feeds[feed - 1]?.kind !== 'camera') return `feed ${feed} is no camera`;
    return this.load(feed);
  }

  /** By hand: a camera stops to deliver. */
  freeze(feed: number): string | undefined {
    if (this.place.feeds[feed - 1]?.kind !== 'camera') return `feed ${feed} is no camera`;
    return this.feedIs(feed, 'frozen');
  }

  setOverlay(overlay: number, on: boolean): string | undefined {
    if (this.current.overlays[overlay - 1] === undefined) return `no overlay ${overlay}`;
    return this.change({ overlays: put(this.current.overlays, overlay, on) });
  }

  setFilter(filter: number, on: boolean): string | undefined {
    if (this.current.filters[filter - 1] === undefined) return `no filter ${filter}`;
    return this.change({ filters: put(this.current.filters, filter, on) });
  }

  setLevel(channel: number, db: number): string | undefined {
    const now = this.current.channels[channel - 1];
    if (!now) return `no channel ${channel}`;
    const kept = Math.max(quietestDb, Math.min(loudestDb, Math.round(db * 10) / 10));
    return this.change({ channels: put(this.current.channels, channel, { ...now, db: kept }) });
  }

  /** By steps of one decibel. */
  tick(channel: number, by: number): string | undefined {
    const now = this.current.channels[channel - 1];
    return now ? this.setLevel(channel, now.db + by) : `no channel ${channel}`;
  }

  setMute(channel: number, mute: boolean): string | undefined {
    const now = this.current.channels[channel - 1];
    return now
      ? this.change({ channels: put(this.current.channels, channel, { ...now, mute }) })
      : `no channel ${channel}`;
  }

  playEffect(name: string): string | undefined {
    if (name !== '' && !this.place.effects.includes(name)) return `no effect “${name}”`;
    this.forget('effect');
    if (name !== '') this.later('effect', effectFrames, () => ({ effect: '' }));
    return this.change({ effect: name });
  }

  start(program: number): string | undefined {
    const state = this.current.programs[program - 1];
    if (!state) return `no program ${program}`;
    if (state !== 'off') return undefined;
    this.later(`program ${program}`, startFrames, ({ programs }) => ({ programs: put(programs, program, 'running') }));
    return this.change({ programs: put(this.current.programs, program, 'starting') });
  }

  /** By hand: a program was closed at its computer. */
  close(program: number): string | undefined {
    this.forget(`program ${program}`);
    return this.change({ programs: put(this.current.programs, program, 'off') });
  }

  stream(on: boolean): string | undefined {
    const { stream } = this.current;
    if (on === (stream !== 'off')) return undefined;
    this.forget('stream');
    if (!on) return this.change({ stream: 'off' });
    this.later('stream', startFrames, () => ({ stream: 'on' }));
    return this.change({ stream: 'starting', streamSeconds: 0, dropped: 0 });
  }

  record(on: boolean): string | undefined {
    if (on === this.current.record) return undefined;
    if (on && this.current.freeGb < 1) return 'the disk is full';
    return this.change(on ? { record: true, recordSeconds: 0 } : { record: false });
  }

  setCamera(camera: boolean): string | undefined {
    return this.change({ camera });
  }

  /** By hand: the disk has so much left. */
  leave(freeGb: number): string | undefined {
    return this.change({ freeGb });
  }

  /** By hand: frames are lost now. */
  lose(frames: number): string | undefined {
    return this.change({ dropped: this.current.dropped + frames });
  }

  frame(): void {
    this.frames += 1;
    const now = this.due.filter(({ at }) => at <= this.frames);
    if (now.length > 0) {
      this.due = this.due.filter(({ at }) => at > this.frames);
      for (const { change } of now) this.change(change(this.current));
    }
    if (this.frames % framesPerSecond !== 0) return;
    const { stream, record, streamSeconds, recordSeconds, freeGb } = this.current;
    if (stream !== 'on' && !record) return;
    this.change({
      ...(stream === 'on' ? { streamSeconds: streamSeconds + 1 } : {}),
      ...(record ? { recordSeconds: recordSeconds + 1, freeGb: Math.round((freeGb - 0.002) * 1000) / 1000 } : {}),
    });
  }

  private load(feed: number): string | undefined {
    const what = `feed ${feed}`;
    this.forget(what);
    this.later(what, loadFrames, ({ feeds }) => ({ feeds: put(feeds, feed, 'running') }));
    return this.feedIs(feed, 'loading');
  }

  private feedIs(feed: number, state: FeedState): undefined {
    if (state !== 'loading') this.forget(`feed ${feed}`);
    return this.change({ feeds: put(this.current.feeds, feed, state) });
  }

  private hasBoard(board: number): boolean {
    return this.place.boards[board - 1] !== undefined;
  }

  private later(what: string, frames: number, change: Due['change']): void {
    this.due.push({ at: this.frames + frames, what, change });
  }

  private forget(what: string): void {
    this.due = this.due.filter((each) => each.what !== what);
  }

  private change(change: Partial<ComposerState>): undefined {
    const before = this.current;
    this.current = { ...before, ...change };
    this.onChange(before, this.current);
    return undefined;
  }
}

const put = <T>(list: readonly T[], place: number, value: T): readonly T[] =>
  list.map((each, n) => (n === place - 1 ? value : each));
