import { ownId } from '../../core/show';
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

/** Notes that controls, macros and watches show on panels, or write into the as-run. */
export class PanelNotes {
  private listed = 0;

  constructor(private readonly sources: Sources) {
    const { own, asRun } = sources;
    own.serve(['notify'], (order, listener) => this.notify(order, listener));
    own.serve(['record'], ({ prepared: { given } }, listener) => {
      asRun.record({ kind: 'note', text: String(given.text) });
      listener({ outcome: 'confirmed', why: 'accepted', ms: 0 });
      return true;
    });
  }

  /** The names of the panels, to be picked from. */
  onShow({ kind }: ShowChange): void {
    if (kind !== 'panel') return;
    const names = this.panels.map(({ data }, n) => ({ key: `panel[${n + 1}].name`, value: data.name }));
    const gone = Array.from(
      { length: Math.max(0, this.listed - names.length) },
      (_, n) => `panel[${names.length + n + 1}].name`,
    );
    this.listed = names.length;
    this.sources.readings.report(ownId, names, Date.now(), gone);
  }

  private get panels() {
    return [...this.sources.show.panels.values()].sort((a, b) => a.data.order - b.data.order);
  }

  private notify({ prepared: { given } }: Order, listener: SendListener): boolean {
    const { screens, newId } = this.sources;
    const name = given.panel === undefined || given.panel === '' ? undefined : String(given.panel);
    const panel = this.panels.find(({ data }) => data.name === name);
    if (name !== undefined && !panel) {
      listener({ outcome: 'lost', why: 'missing', ms: 0, reason: `There is no panel “${name}”.` });
      return false;
    }
    screens.onPanels(panel?.id, { do: 'note', id: newId(), text: String(given.text) });
    listener({ outcome: 'sent', why: 'one-way', ms: 0 });
    return true;
  }
}
