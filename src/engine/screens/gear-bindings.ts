import type { BindingChange, GearBindings, Publish } from '../../core/live';
import type { Log } from '../../log';
import type { ShowChange } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { WriteLive } from '../show/write-live';
import type { TopicBook } from '../topics/topic-book';
import type { HubClient } from './client-connection';
import type { Panels } from './panels';

interface Sources {
  readonly show: RunningShow;
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly panels: Panels;
  /** Without it nothing is bound. */
  readonly write: WriteLive | undefined;
  readonly log: Log;
}

/** What hand gear is bound to: told to all screens, and changed by those that may press what is bound. */
export class GearBindingBook {
  private isTold = true;

  constructor(private readonly sources: Sources) {
    sources.topics.serve('gear', { whole: () => this.view() });
  }

  onShow({ kind }: ShowChange): void {
    if (kind !== 'binding' || !this.isTold) return;
    // A show that is loaded brings many at once.
    this.isTold = false;
    setImmediate(() => {
      this.isTold = true;
      this.sources.publish('gear', this.view());
    });
  }

  change(client: HubClient, change: BindingChange): void {
    const why = this.whyNot(client, change);
    if (why !== undefined) return client.send({ t: 'error', message: why });
    const { write, log } = this.sources;
    if (!write) return;
    const failed =
      'The binding could not be saved, because the part of the program that writes the show does not answer. Try again in a moment.';
    write({ binding: change }).then(
      (message) => message !== undefined && client.send({ t: 'error', message }),
      (cause: unknown) => {
        log.warn({ cause }, 'A binding of hand gear could not be written.');
        client.send({ t: 'error', message: failed });
      },
    );
  }

  private whyNot(client: HubClient, change: BindingChange): string | undefined {
    const { panels, show } = this.sources;
    const known = change.do === 'remove' ? show.bindings.get(change.id)?.data : change.binding;
    if (!known) return 'This binding no longer exists.';
    const { principal } = client;
    if (principal.kind !== 'desk' && principal.panel !== undefined && principal.panel !== known.panel)
      return 'This screen can only change what gear of its own panel is bound to.';
    if (change.do === 'put' && !panels.mayPress(client, known.page, known.control))
      return 'This panel does not have that control.';
    return undefined;
  }

  private view(): GearBindings {
    return { bindings: [...this.sources.show.bindings.values()].map(({ id, data }) => ({ ...data, id })) };
  }
}
