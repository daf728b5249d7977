import { isNamed } from '../../core/inlet';
import type { ScreenAct } from '../../core/live';
import { ownId, pagesOf } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import type { ShowChange } from '../parts';
import type { Order } from '../presses/dispatcher';
import type { OwnOrders } from '../presses/own-orders';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { Screens } from './screens';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly own: OwnOrders;
  readonly screens: Screens;
  readonly asRun: AsRun;
  readonly newId: () => string;
}

/** Pages and notes that controls, macros, watches and inlets show on panels, and notes that they write into the as-run. */
export class PanelNotes {
  /** How many of each are listed. */
  private readonly listed = { panel: 0, page: 0 };

  private listing: NodeJS.Immediate | undefined;

  constructor(private readonly sources: Sources) {
    const { own, asRun } = sources;
    own.serve(['notify'], (order, listener) => this.notify(order, listener));
    own.serve(['showPage'], (order, listener) => this.showPage(order, listener));
    own.serve(['record'], ({ prepared: { given } }, listener) => {
      asRun.record({ kind: 'note', text: String(given.text) });
      listener({ outcome: 'confirmed', why: 'accepted', ms: 0 });
      return true;
    });
  }

  /** The names of panels and pages, to be picked from. */
  onShow({ kind }: ShowChange): void {
    if (kind === 'panel') this.list('panel', this.panels);
    else if (kind === 'page') this.listing ??= setImmediate(() => this.listPages());
  }

  stop(): void {
    clearImmediate(this.listing);
  }

  /** A whole show comes with many pages in a row. */
  private listPages(): void {
    this.listing = undefined;
    this.list('page', pagesOf([...this.sources.show.pages.values()]));
  }

  private list(kind: 'panel' | 'page', records: readonly { readonly data: { readonly name: string } }[]): void {
    const key = (n: number) => `${kind}[${n}].name`;
    const names = records.map(({ data }, n) => ({ key: key(n + 1), value: data.name }));
    const before = this.listed[kind];
    const gone = Array.from({ length: Math.max(0, before - names.length) }, (_, n) => key(names.length + n + 1));
    this.listed[kind] = names.length;
    this.sources.readings.report(ownId, names, Date.now(), gone);
  }

  private get panels() {
    return [...this.sources.show.panels.values()].sort((a, b) => a.data.order - b.data.order);
  }

  private notify(order: Order, listener: SendListener): boolean {
    const { given } = order.prepared;
    const id = this.sources.newId();
    return this.show(order, listener, { do: 'note', id, text: String(given.text) });
  }

  private showPage(order: Order, listener: SendListener): boolean {
    const { pages } = this.sources.show;
    const named = String(order.prepared.given.page);
    const page = pages.get(named) ?? [...pages.values()].find(({ data }) => isNamed(data.name, named));
    if (page) return this.show(order, listener, { do: 'go', page: page.id });
    return missing(listener, `There is no page “${named}”.`);
  }

  /** On one panel, or on all where none is named. */
  private show({ prepared: { given } }: Order, listener: SendListener, act: ScreenAct): boolean {
    const name = given.panel === undefined || given.panel === '' ? undefined : String(given.panel);
    const panel = this.panels.find(({ data }) => name !== undefined && isNamed(data.name, name));
    if (name !== undefined && !panel) return missing(listener, `There is no panel “${name}”.`);
    this.sources.screens.onPanels(panel?.id, act);
    listener({ outcome: 'sent', why: 'one-way', ms: 0 });
    return true;
  }
}

function missing(listener: SendListener, reason: string): false {
  listener({ outcome: 'lost', why: 'missing', ms: 0, reason });
  return false;
}
