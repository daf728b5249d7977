import { readTopic, type TopicKindName, type WholeOf } from '../../core/live';

/** Where the topics of one kind come from. Their differences are published by the part that serves them. */
interface TopicSource<K extends TopicKindName> {
  /** The whole of a topic now; `undefined` when there is none with this id. */
  readonly whole: (id: string) => WholeOf<K> | undefined;
  /** False for an id that no topic of this kind can have. Any may be waited for when absent. */
  readonly canBe?: (id: string) => boolean;
  /** The last client has left it. */
  readonly onUnused?: (id: string) => void;
}

/** Which part of the engine serves which topics. */
export class TopicBook {
  private readonly sources = new Map<TopicKindName, TopicSource<TopicKindName>>();

  serve<K extends TopicKindName>(kind: K, source: TopicSource<K>): void {
    // What comes out under this name again is what went in.
    this.sources.set(kind, source as TopicSource<TopicKindName>);
  }

  whole(name: string): unknown {
    const topic = readTopic(name);
    return topic && this.sources.get(topic.kind)?.whole(topic.id);
  }

  canBe(name: string): boolean {
    const topic = readTopic(name);
    const source = topic && this.sources.get(topic.kind);
    return source !== undefined && (source.canBe?.(topic?.id ?? '') ?? true);
  }

  onUnused(name: string): void {
    const topic = readTopic(name);
    if (topic) this.sources.get(topic.kind)?.onUnused?.(topic.id);
  }
}
