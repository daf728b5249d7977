import type { Publish, PulseView } from '../../core/live';
import type { DeviceSession } from '../devices/device-session';
import type { TopicBook } from '../topics/topic-book';

const everyMs = 1000;

/** Tells once a second how each device answers, while anybody looks. */
export class Pulse {
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly sessions: ReadonlyMap<string, DeviceSession>,
    private readonly isFollowed: (topic: 'pulse') => boolean,
    private readonly publish: Publish,
    topics: TopicBook,
  ) {
    topics.serve('pulse', { whole: () => this.view() });
  }

  start(): void {
    this.timer = setInterval(() => {
      if (this.isFollowed('pulse')) this.publish('pulse', this.view());
    }, everyMs);
  }

  stop(): void {
    clearInterval(this.timer);
  }

  private view(): PulseView {
    const devices = [...this.sessions].flatMap(([id, { pulse }]) => (pulse.heardAt > 0 ? [[id, pulse] as const] : []));
    return { devices: Object.fromEntries(devices) };
  }
}
