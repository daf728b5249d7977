import type { StatusView } from '../../core/live';
import type { ShowChange } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';

/** Keeps the names of pages and panels and the number of macros in the status up to date. */
export class ShowInStatus {
  constructor(
    private readonly show: RunningShow,
    private readonly status: StatusBoard,
  ) {}

  onShow({ kind }: ShowChange): void {
    if (kind === 'page') this.status.set({ pages: this.pages() });
    else if (kind === 'panel') this.status.set({ panels: this.panels() });
    else if (kind === 'macro') this.status.set({ macros: this.show.macros.size });
  }

  private pages(): StatusView['pages'] {
    return [...this.show.pages.values()]
      .sort((a, b) => a.data.order - b.data.order)
      .map(({ id, data }) => ({
        id,
        name: data.name,
        ...(data.calledBy ? { call: 'when' in data.calledBy ? ('condition' as const) : ('otherwise' as const) } : {}),
      }));
  }

  /** As everybody may see them, in their order. */
  private panels(): StatusView['panels'] {
    return [...this.show.panels.values()]
      .sort((a, b) => a.data.order - b.data.order)
      .map(({ id, data: { name, path, pages, hidden, brightness, linked, follows, tellsHealth } }) => ({
        id,
        path,
        name,
        pages,
        hidden,
        brightness,
        ...(linked ? { linked } : {}),
        ...(follows ? { follows } : {}),
        ...(tellsHealth ? { tellsHealth } : {}),
      }));
  }
}
