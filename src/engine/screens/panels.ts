import { clockPanel, tallyPanel, walkPanel, type AccessView, type Publish } from '../../core/live';
import type { Log } from '../../log';
import type { AsRun } from '../record/as-run';
import type { HubClient } from './client-connection';
import type { TopicBook } from '../topics/topic-book';
import type { ShowChange } from '../parts';
import type { Principal } from '../door/gate';
import type { WrongKeyBook } from '../door/wrong-keys';
import type { PageContexts } from '../pages/page-contexts';
import type { Hub } from './hub';
import { PanelAccess, type Joined, type JoinResult } from '../door/panel-access';
import { Rights } from './rights';
import type { RunningShow } from '../show/running-show';
import { Screens } from './screens';

interface Sources {
  readonly dataDir: string;
  readonly show: RunningShow;
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly asRun: AsRun;
  readonly wrongKeys: WrongKeyBook;
  readonly hub: Hub;
  readonly pages: PageContexts;
  readonly log: Log;
  readonly newId: () => string;
}

/** The part of a joined screen's address after `/panel/`. */
type JoinedAt = (Extract<JoinResult, { ok: true }> & { readonly path: string }) | Extract<JoinResult, { ok: false }>;

/** Phones for one purpose, by what their invitation names: what they are called, and where they go. */
const phones: Readonly<Record<string, { readonly name: string; readonly path: string }>> = {
  [tallyPanel]: { name: 'tally phone', path: 'tally' },
  [walkPanel]: { name: 'walk-round phone', path: 'walk' },
  [clockPanel]: { name: 'clock screen', path: 'clock' },
};

/** The panels of the show: which screens show them, who may come in, and what each may see and press. */
export class Panels {
  readonly screens: Screens;
  private readonly joins: PanelAccess;
  private readonly rights: Rights;

  constructor(private readonly sources: Sources) {
    const { dataDir, show, asRun, hub, pages, wrongKeys } = sources;
    const record: AsRun['record'] = (entry) => asRun.record(entry);
    this.joins = new PanelAccess(dataDir, sources.log);
    this.rights = new Rights(show, record);
    this.screens = new Screens({
      ...sources,
      record,
      endAll: (reason, of) => hub.endAll(reason, of),
      canOpen: (key) => pages.canOpen(key),
      joins: this.joins,
      panelOf: (id) => show.panels.get(id),
      onAccess: this.onAccess,
    });
    sources.topics.serve('access', { whole: () => this.access });
    hub.guardBy(this);
    hub.listen({ onGone: (client) => this.screens.onLeft(client) });
    wrongKeys.onWait((sentence) => {
      this.refused(sentence);
      this.onAccess();
    });
  }

  /** Who can come in, and who has tried to. */
  private get access(): AccessView {
    return { joined: this.joins.list, invites: this.joins.open, wrongKeys: this.sources.wrongKeys.list };
  }

  private readonly onAccess = (): void => this.sources.publish('access', this.access);

  onShow(change: ShowChange): void {
    // A screen that waits for a page gets it, and one that looks at a page that no longer exists is told.
    if (change.kind === 'page' && !(change.now && change.before)) this.sources.hub.refreshPage(change.id);
    else if (change.kind === 'panel') this.sources.hub.refreshPanels();
  }

  mayFollow(principal: Principal, topic: string): boolean {
    return this.isIn(principal) && this.rights.mayFollow(principal, topic);
  }

  mayAnswerCheck(client: HubClient): boolean {
    return this.isIn(client.principal) && this.rights.mayAnswerCheck(client);
  }

  mayEnd(client: HubClient, macro: string): boolean {
    return this.isIn(client.principal) && this.rights.mayEnd(client, macro);
  }

  mayPress(client: HubClient, page: string, control: string): boolean {
    return this.isIn(client.principal) && this.rights.mayPress(client, page, control);
  }

  /** A screen that was thrown out has no rights any more, even while its connection lasts. */
  private isIn({ joined }: Principal): boolean {
    return joined === undefined || this.joins.has(joined.id);
  }

  /** What a screen that has joined a panel gets of a topic. */
  ofPanel(panel: string, topic: string, data: unknown): unknown {
    return this.rights.ofPanel(panel, topic, data);
  }

  /** Something was turned away at the door. */
  refused(what: string): void {
    this.rights.refused(what);
  }

  /** What the panel at this address is called. */
  nameAt(path: string): string | undefined {
    return [...this.sources.show.panels.values()].find(({ data }) => data.path === path)?.data.name;
  }

  /** Whose credential this is, of the screens that have joined. */
  readonly whoIs = (credential: string): Joined | undefined => {
    const joined = this.joins.whoIs(credential);
    return joined && (joined.panel in phones || this.sources.show.panels.has(joined.panel)) ? joined : undefined;
  };

  /** Lets a screen in with a token. */
  join(token: string, device: string): JoinedAt {
    const result = this.joins.join(token, device);
    const phone = result.ok ? phones[result.panel] : undefined;
    const panel = result.ok ? this.sources.show.panels.get(result.panel)?.data : undefined;
    const text = result.ok
      ? `A screen (${device}) has joined ${phone ? `as a ${phone.name}` : `the panel ${panel?.name ?? '?'}`}.`
      : `A screen (${device}) showed a token that is ${result.why === 'used' ? 'used up' : 'not known'}: refused.`;
    this.sources.asRun.record({ kind: 'note', text });
    this.onAccess();
    return result.ok ? { ...result, path: phone?.path ?? panel?.path ?? '' } : result;
  }
}
