import {
  pageOfTopic,
  readTopic,
  topicKinds,
  isPurpose,
  walkPanel,
  type PageDiff,
  type PageView,
} from '../../core/live';
import type { AsRunEntry } from '../record/as-run';
import type { Principal } from '../door/gate';
import type { HubClient } from './client-connection';
import type { RunningShow } from '../show/running-show';

/** The most refusals a minute that are recorded; the others are counted, so that nobody can fill the record. */
const recordedAMinute = 20;

/** Who may see and press what: a screen that has joined has the pages and controls of its panel, and nothing else. */
export class Rights {
  private recorded = 0;
  private unrecorded = 0;
  private minute = 0;

  constructor(
    private readonly show: RunningShow,
    private readonly record: (entry: AsRunEntry) => void,
  ) {}

  /** A panel sees its pages, the tally and the state of the links; the wire, the record and the editing are the desk's. */
  mayFollow({ kind, panel }: Principal, topic: string): boolean {
    if (kind === 'desk') return true;
    const read = readTopic(topic);
    switch (read && topicKinds[read.kind].readers) {
      case 'shared':
        return true;
      case 'walk':
        return panel === undefined || panel === walkPanel;
      case 'panel':
        return panel === undefined || read?.id === panel;
      case 'page':
        return panel === undefined || this.hasPage(panel, pageOfTopic(topic) ?? '');
      default:
        return false;
    }
  }

  /** A page, or what has changed on it, without the controls that the panel does not have. */
  ofPanel(panel: string, topic: string, data: unknown): unknown {
    const hidden = this.show.panels.get(panel)?.data.hidden ?? [];
    if (hidden.length === 0 || pageOfTopic(topic) === undefined) return data;
    const left = new Set(hidden);
    const without = <T>(all: Readonly<Record<string, T>>): Record<string, T> =>
      Object.fromEntries(Object.entries(all).filter(([id]) => !left.has(id)));
    // Whole, each is a record by id; of a difference, what is put is.
    const parts = Object.entries(data as PageView | PageDiff).map(([part, value]: [string, unknown]) => {
      if (part !== 'controls' && part !== 'faces') return [part, value];
      const { put } = value as { put?: Record<string, unknown> };
      const isDiff = 'put' in (value as object) || 'drop' in (value as object);
      return [
        part,
        isDiff
          ? { ...(value as object), ...(put ? { put: without(put) } : {}) }
          : without(value as object as Record<string, unknown>),
      ];
    });
    return Object.fromEntries(parts);
  }

  mayPress({ principal, name }: HubClient, page: string, control: string): boolean {
    const { panel } = principal;
    if (panel === undefined) return true;
    const may = this.hasPage(panel, page) && !this.show.panels.get(panel)?.data.hidden.includes(control);
    if (!may) this.refused(`${name} pressed a control that its panel does not have`);
    return may;
  }

  /** A screen that has joined may end what its own controls can begin. */
  mayEnd({ principal, name }: HubClient, macro: string): boolean {
    const { panel } = principal;
    if (panel === undefined) return true;
    const hidden = this.show.panels.get(panel)?.data.hidden ?? [];
    const may = [...this.show.controls.values()].some(
      ({ id, data }) => data.responses.runs?.macro === macro && this.hasPage(panel, data.page) && !hidden.includes(id),
    );
    if (!may) this.refused(`${name} stopped a macro that its panel does not have`);
    return may;
  }

  /** Only who is asked may answer the line check. */
  mayAnswerCheck({ principal, name }: HubClient): boolean {
    const may = principal.panel === undefined || principal.panel === walkPanel;
    if (!may) this.refused(`${name} answered a question of the line check`);
    return may;
  }

  refused(what: string): void {
    const minute = Math.floor(Date.now() / 60_000);
    if (minute !== this.minute) {
      if (this.unrecorded > 0) this.record({ kind: 'note', text: `${this.unrecorded} more were refused.` });
      this.minute = minute;
      this.recorded = this.unrecorded = 0;
    }
    if (this.recorded >= recordedAMinute) return void (this.unrecorded += 1);
    this.recorded += 1;
    this.record({ kind: 'note', text: `Refused: ${what}.` });
  }

  private hasPage(panel: string, page: string): boolean {
    const data = isPurpose(panel) ? undefined : this.show.panels.get(panel)?.data;
    return data !== undefined && (data.pages.length === 0 || data.pages.includes(page));
  }
}
