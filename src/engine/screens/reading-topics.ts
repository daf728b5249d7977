import type { Publish } from '../../core/live';
import { ownId } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';
import type { TopicBook } from '../topics/topic-book';

/** The readings of each device, for the desks that look at them. */
export class ReadingTopics {
  constructor(
    show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly isFollowed: (topic: `readings:${string}`) => boolean,
    private readonly publish: Publish,
    topics: TopicBook,
  ) {
    topics.serve('readings', {
      whole: (id) => (show.devices.has(id) || id === ownId ? readings.view(id) : undefined),
    });
  }

  onReadings(device: string, keys: readonly string[]): void {
    const topic = `readings:${device}` as const;
    if (!this.isFollowed(topic)) return;
    const view = this.readings.view(device);
    const put = Object.fromEntries(keys.flatMap((key) => (view[key] ? [[key, view[key]]] : [])));
    this.publish(topic, { put, drop: keys.filter((key) => !view[key]) });
  }
}
