import { topicKinds, type Publish, type StatusDiff, type StatusView } from '../../core/live';
import type { TopicBook } from './topic-book';

const empty: StatusView = {
  macros: 0,
  glides: [],
  aim: 'live',
  show: { name: '', revision: null, problems: 0 },
  devices: {},
  pages: [],
  called: { now: [], unsure: [] },
  tallies: 0,
  clocks: 0,
  outputs: 0,
  recorder: null,
  recording: false,
  failures: null,
  alerts: [],
  lineCheck: null,
  health: null,
  panels: [],
  news: [],
  standinPages: null,
};

/** Owns the topic `status`: what the frame of every screen shows. Each part enters its own piece of it. */
export class StatusBoard {
  private view = empty;

  constructor(
    private readonly publish: Publish,
    topics: TopicBook,
  ) {
    topics.serve('status', { whole: () => this.view });
  }

  /** Enters pieces and sends them to the screens. */
  readonly set = (diff: StatusDiff): void => {
    this.view = topicKinds.status.apply(this.view, diff);
    this.publish('status', diff);
  };
}
