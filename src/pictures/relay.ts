import type { PictureSource } from '../core/picture';
import { Feed, type FeedPicture, type FeedProblem } from './feed';
import { atWidth, stepFor } from './resize';
import type { Viewer } from './viewer';

/** A panel that turns its page looks at most of the same pictures again. */
const lingerMs = 2000;

interface Followed {
  readonly feed: Feed;
  readonly viewers: Set<Viewer>;
  picture?: FeedPicture;
  /** The newest picture at the widths that were asked for. */
  sizes: Map<number, Promise<FeedPicture>>;
  problem?: FeedProblem;
  lingers?: NodeJS.Timeout;
}

/** Fetches each picture once for all screens that show it, and only while one does. */
export class Relay {
  private sources: ReadonlyMap<string, PictureSource> = new Map();
  private readonly followed = new Map<string, Followed>();
  private readonly viewers = new Set<Viewer>();

  /** Takes over where pictures are. What has not changed goes on. */
  setSources(sources: readonly PictureSource[]): void {
    const before = this.sources;
    this.sources = new Map(sources.map((source) => [source.key, source]));
    for (const [key, followed] of this.followed) {
      if (JSON.stringify(before.get(key)) === JSON.stringify(this.sources.get(key))) continue;
      this.end(key, followed);
    }
    for (const viewer of this.viewers) for (const key of viewer.keys) this.follow(viewer, key);
  }

  enter(viewer: Viewer): void {
    this.viewers.add(viewer);
  }

  leave(viewer: Viewer): void {
    this.viewers.delete(viewer);
    for (const key of this.followed.keys()) this.unfollow(viewer, key);
  }

  /** A screen shows a picture, or shows it at another width. */
  follow(viewer: Viewer, key: string): void {
    const source = this.sources.get(key);
    if (!source) return viewer.say({ t: 'unknown', key });
    const known = this.followed.get(key);
    const followed = known ?? this.begin(key, source);
    clearTimeout(followed.lingers);
    const isNew = !followed.viewers.has(viewer);
    followed.viewers.add(viewer);
    const width = this.widthOf(key, followed);
    if (known) followed.feed.setWidth(width);
    else followed.feed.start(width);
    if (!isNew || !known) return;
    if (followed.picture) viewer.offer(key);
    if (followed.problem) viewer.say({ t: 'problem', key, ...followed.problem });
  }

  unfollow(viewer: Viewer, key: string): void {
    const followed = this.followed.get(key);
    if (!followed?.viewers.delete(viewer)) return;
    if (followed.viewers.size > 0) return followed.feed.setWidth(this.widthOf(key, followed));
    followed.lingers = setTimeout(() => this.end(key, followed), lingerMs);
  }

  /** The newest picture of a source at about a width; `undefined` while there is none. */
  newest(key: string, width: number): Promise<FeedPicture> | undefined {
    const followed = this.followed.get(key);
    if (!followed?.picture) return undefined;
    const step = stepFor(width);
    let sized = followed.sizes.get(step);
    if (!sized) followed.sizes.set(step, (sized = atWidth(followed.picture, step)));
    return sized;
  }

  stop(): void {
    for (const [key, followed] of this.followed) this.end(key, followed);
    for (const viewer of this.viewers) viewer.close();
  }

  /** How many sources are fetched now. */
  get size(): number {
    return this.followed.size;
  }

  private widthOf(key: string, { viewers }: Followed): number {
    return Math.max(1, ...[...viewers].map((viewer) => viewer.widthOf(key)));
  }

  private begin(key: string, source: PictureSource): Followed {
    const feed = new Feed(source, {
      onPicture: (picture) => this.onPicture(key, feed, picture),
      onProblem: (problem) => this.onProblem(key, feed, problem),
    });
    const followed: Followed = { feed, viewers: new Set(), sizes: new Map() };
    this.followed.set(key, followed);
    return followed;
  }

  private end(key: string, followed: Followed): void {
    clearTimeout(followed.lingers);
    followed.feed.stop();
    if (this.followed.get(key) === followed) this.followed.delete(key);
  }

  private onPicture(key: string, feed: Feed, picture: FeedPicture): void {
    const followed = this.followed.get(key);
    if (followed?.feed !== feed) return;
    const { picture: before } = followed;
    followed.picture = picture;
    delete followed.problem;
    if (before && Buffer.compare(before.bytes, picture.bytes) === 0) {
      for (const viewer of followed.viewers) viewer.same(key, picture.at);
      return;
    }
    followed.sizes = new Map();
    for (const viewer of followed.viewers) viewer.offer(key);
  }

  private onProblem(key: string, feed: Feed, problem: FeedProblem): void {
    const followed = this.followed.get(key);
    if (followed?.feed !== feed) return;
    followed.problem = problem;
    for (const viewer of followed.viewers) viewer.say({ t: 'problem', key, ...problem });
  }
}
