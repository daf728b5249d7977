import type { MacroRunsView, Publish, RunsView, RunView, TopicName } from '../../core/live';
import type { RunningShow } from '../show/running-show';
import type { TopicBook } from '../topics/topic-book';
import type { MacroRun } from './macro-run';
import type { PastRunBook } from './past-run-book';

interface Sources {
  readonly show: RunningShow;
  readonly publish: Publish;
  readonly isFollowed: (topic: TopicName) => boolean;
  readonly topics: TopicBook;
}

const publishEveryMs = 100;

/** The topics `runs` and `macro`: the steps of many runs are told in one go. */
export class RunTopics {
  private publishing: NodeJS.Timeout | undefined;
  private readonly touched = new Set<string>();

  constructor(
    private readonly runs: ReadonlyMap<string, MacroRun>,
    private readonly past: PastRunBook,
    private readonly sources: Sources,
  ) {
    sources.topics.serve('runs', { whole: () => this.view() });
    sources.topics.serve('macro', { whole: (id) => this.runsOf(id) });
  }

  /** Something of a run has changed; the screens are told soon. */
  touch(run: MacroRun): void {
    this.touched.add(run.request.id);
    this.publishing ??= setTimeout(() => this.flush(), publishEveryMs);
  }

  /** A run is over, and kept with the past ones. */
  onOver({ request: { id }, macro }: MacroRun): void {
    this.sources.publish('runs', { drop: [id] });
    this.sources.publish(`macro:${macro.id}`, { now: null, past: this.past.of(macro.id) });
  }

  stop(): void {
    clearTimeout(this.publishing);
  }

  private view(): RunsView {
    return Object.fromEntries([...this.runs].map(([id, run]) => [id, run.view]));
  }

  private runsOf(macro: string): MacroRunsView | undefined {
    if (!this.sources.show.macros.has(macro)) return undefined;
    const now = [...this.runs.values()].findLast((run) => run.macro.id === macro);
    return { now: now?.past ?? null, past: this.past.of(macro) };
  }

  private flush(): void {
    const { publish, isFollowed } = this.sources;
    this.publishing = undefined;
    const runs = [...this.touched].flatMap((id) => this.runs.get(id) ?? []);
    this.touched.clear();
    if (runs.length === 0) return;
    const put: Record<string, RunView> = {};
    for (const run of runs) put[run.request.id] = run.view;
    publish('runs', { put });
    for (const { macro, past } of runs)
      if (isFollowed(`macro:${macro.id}`)) publish(`macro:${macro.id}`, { now: past });
  }
}
