import type { AsRunEntry } from '../record/as-run';
import {
  isPurpose,
  pageOfTopic,
  type ClientMessage,
  type LinkedView,
  type Publish,
  type ScreenAct,
  type ScreensView,
  type ScreenView,
  type ServerMessage,
} from '../../core/live';
import { contextKey, readContextKey, withPick, withShift } from '../../core/page';
import { panelHasPage, type PanelRecord } from '../../core/show';
import type { Principal } from '../door/gate';
import type { HubClient } from './client-connection';
import type { TopicBook } from '../topics/topic-book';
import type { PanelAccess } from '../door/panel-access';

type Said<T extends ClientMessage['t']> = Extract<ClientMessage, { t: T }>;

interface Sources {
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly record: (entry: AsRunEntry) => void;
  readonly joins: PanelAccess;
  readonly panelOf: (id: string) => PanelRecord | undefined;
  /** Who can come in has changed. */
  readonly onAccess: () => void;
  readonly endAll: (reason: string, of: (principal: Principal) => boolean) => void;
  readonly canOpen: (context: string) => boolean;
  readonly newId: () => string;
}

interface Screen {
  readonly client: HubClient;
  view: ScreenView;
  note: string | undefined;
}

/** The shortest interval at which presses of one screen reach the desk's list: there it only blinks, it is no record. */
const usedEveryMs = 250;

/** Every desk and panel that is connected: where it is, how it fares, and what a desk has it do. */
export class Screens {
  private readonly screens = new Map<HubClient, Screen>();
  private readonly linked = new Map<string, LinkedView>();

  constructor(private readonly sources: Sources) {
    sources.topics.serve('screens', { whole: () => this.view });
    sources.topics.serve('linked', { whole: (panel) => this.linkedView(panel) });
  }

  /** Every screen that is connected now. */
  get all(): readonly ScreenView[] {
    return [...this.screens.values()].map(({ view }) => view);
  }

  /** The panel that a screen shows. */
  panelOf(client: HubClient): string | undefined {
    return client.principal.panel ?? this.screens.get(client)?.view.panel;
  }

  private get view(): ScreensView {
    return Object.fromEntries([...this.screens.values()].map(({ client, view }) => [client.name, view]));
  }

  private linkedView(panel: string): LinkedView | undefined {
    return this.sources.panelOf(panel) ? (this.linked.get(panel) ?? { page: null, contexts: {} }) : undefined;
  }

  onHere(client: HubClient, { t: _, gear = [], screen, ...said }: Said<'here'>): void {
    const { kind, joined } = client.principal;
    const panelName = said.panel === undefined ? undefined : this.sources.panelOf(said.panel)?.data.name;
    client.who = whoOf(kind, panelName, said.title, joined?.id ?? screen) ?? client.name;
    const before = this.screens.get(client);
    const since = before?.view.since ?? Date.now();
    const { usedAt, note } = before?.view ?? {};
    const view: ScreenView = {
      kind,
      who: client.who,
      ...said,
      gear,
      since,
      ...(usedAt === undefined ? {} : { usedAt }),
      ...(note === undefined ? {} : { note }),
      ...(joined === undefined ? {} : { joined: joined.id }),
    };
    this.put({ client, view, note: before?.note });
  }

  /** Breaks the connections of a panel's screens, as a lost network would. */
  cutOff(panel: string): void {
    for (const { client, view } of [...this.screens.values()]) if (view.panel === panel) client.cut();
  }

  /** Somebody has pressed or turned something there. */
  onUsed(client: HubClient): void {
    const screen = this.screens.get(client);
    const now = Date.now();
    if (!screen || now - (screen.view.usedAt ?? 0) < usedEveryMs) return;
    this.put({ ...screen, view: { ...screen.view, usedAt: now } });
  }

  onLeft(client: HubClient): void {
    if (this.screens.delete(client)) this.sources.publish('screens', { drop: [client.name] });
  }

  tell(desk: HubClient, { to, act }: Said<'tell'>): void {
    const screen = [...this.screens.values()].find(({ client }) => client.name === to);
    if (desk.principal.kind !== 'desk') return desk.send({ t: 'error', message: 'Only the desk can do that.' });
    if (!screen) return desk.send({ t: 'error', message: `“${to}” is not connected any more.` });
    const told = this.actOf(screen, act);
    if (!this.canShow(screen.view, told))
      return desk.send({ t: 'error', message: `The panel of ${screen.client.who} does not have that page.` });
    screen.client.send({ t: 'do', act: told });
    if (told.do !== 'note') return;
    this.sources.record({ kind: 'note', text: `Note from ${desk.who} to ${screen.client.who}: ${told.text}` });
    this.put({ ...screen, note: told.id, view: { ...screen.view, note: { text: told.text, seen: false } } });
  }

  /** Has all screens of a panel, or of every panel, do something. */
  onPanels(panel: string | undefined, act: ScreenAct): void {
    const done = new Set<string>();
    for (const { client, view } of this.screens.values()) {
      if (view.kind !== 'panel' || (panel !== undefined && view.panel !== panel)) continue;
      if (!this.canShow(view, act)) continue;
      // What linked screens show is one thing, not each screen's own.
      if (view.panel === undefined || !this.lookTogether(view.panel, act, done)) client.send({ t: 'do', act });
    }
  }

  /** False for a page that the screen's panel does not have. */
  private canShow({ panel }: ScreenView, act: ScreenAct): boolean {
    const record = panel === undefined ? undefined : this.sources.panelOf(panel);
    return !record || !('page' in act) || panelHasPage(record, act.page);
  }

  /** A level or a pick of what the screens of a panel show together. False when that is each screen's own. */
  private lookTogether(panel: string, act: ScreenAct, done: Set<string>): boolean {
    const now = this.sources.panelOf(panel)?.data.linked && this.linked.get(panel);
    if (!now || now.page === null || (act.do !== 'shift' && act.do !== 'pick')) return false;
    if (done.has(panel)) return true;
    done.add(panel);
    const { context } = readContextKey(now.contexts[act.page] ?? act.page);
    const to = act.do === 'shift' ? withShift(context, act.shift) : withPick(context, act.zone, act.device);
    const next = { ...now, contexts: { ...now.contexts, [act.page]: contextKey(act.page, to) } };
    this.linked.set(panel, next);
    this.sources.publish(`linked:${panel}`, next);
    return true;
  }

  onSeen(client: HubClient, id: string): void {
    const screen = this.screens.get(client);
    if (!screen?.view.note || screen.note !== id) return;
    this.put({ ...screen, view: { ...screen.view, note: { ...screen.view.note, seen: true } } });
  }

  /** All screens of a linked panel show this page in this context. */
  together(client: HubClient, { panel, page, context }: Said<'together'>): void {
    const own = client.principal.panel;
    const before = this.linkedView(panel);
    const record = this.sources.panelOf(panel);
    if (!before || (own !== undefined && own !== panel) || (record && !panelHasPage(record, page))) return;
    if (!this.sources.canOpen(context ?? page) || pageOfTopic(`page:${context ?? page}`) !== page) return;
    const { [page]: _, ...others } = before.contexts;
    const now = { page, contexts: context === undefined ? others : { ...others, [page]: context } };
    this.linked.set(panel, now);
    this.sources.publish(`linked:${panel}`, now);
  }

  invite(desk: HubClient, panel: string): void {
    if (desk.principal.kind !== 'desk' || !(isPurpose(panel) || this.sources.panelOf(panel)))
      return desk.send({ t: 'error', message: 'Only the desk can invite, and only to a panel of the show.' });
    const { token, forMs } = this.sources.joins.invite(panel);
    this.sources.onAccess();
    desk.send({ t: 'invited', panel, token, forMs } satisfies ServerMessage);
  }

  throwOut(desk: HubClient, joined: string): void {
    if (desk.principal.kind !== 'desk') return desk.send({ t: 'error', message: 'Only the desk can do that.' });
    if (!this.sources.joins.throwOut(joined)) return;
    this.sources.onAccess();
    this.sources.record({ kind: 'note', text: `${desk.who} removed a joined screen.` });
    // Also the connections that have not said yet which screen they are.
    this.sources.endAll('Access was revoked at the desk.', (principal) => principal.joined?.id === joined);
  }

  withdraw(desk: HubClient, invite: string): void {
    if (desk.principal.kind !== 'desk') return desk.send({ t: 'error', message: 'Only the desk can do that.' });
    if (!this.sources.joins.withdraw(invite)) return;
    this.sources.record({ kind: 'note', text: `${desk.who} withdrew an invitation.` });
    this.sources.onAccess();
  }

  private actOf({ client }: Screen, act: Said<'tell'>['act']): ScreenAct {
    switch (act.do) {
      case 'call out':
        return { do: 'call out', name: client.who };
      case 'note':
        return { do: 'note', id: this.sources.newId(), text: act.text };
      default:
        return act;
    }
  }

  private put(screen: Screen): void {
    this.screens.set(screen.client, screen);
    this.sources.publish('screens', { put: { [screen.client.name]: screen.view } });
  }
}

/**
 * Who a screen is in the record: the name of its panel, what the screen itself is called, and an id that stays the same after a reload and
 * a reconnection. `undefined` for a screen that tells no id.
 */
function whoOf(kind: string, panel: string | undefined, title: string, id: string | undefined): string | undefined {
  if (id === undefined) return undefined;
  const name = panel === undefined ? (title === kind ? kind : `${kind}, ${title}`) : `${panel}, ${title}`;
  return `${name} ·${id
    .replace(/[^A-Za-z0-9]/g, '')
    .slice(0, 4)
    .toLowerCase()}`;
}
