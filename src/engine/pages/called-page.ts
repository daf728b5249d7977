import type { PageRecord } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { ShowChange } from '../parts';
import type { StatusBoard } from '../topics/status-board';
import type { RunningShow } from '../show/running-show';

/** Which page a reading calls for now: the first whose reading has its value, fresh. Panels that follow go there. */
export class CalledPage {
  private now: string | null = null;

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly status: StatusBoard,
  ) {}

  onShow({ kind }: ShowChange): void {
    if (kind === 'page') this.look();
  }

  onReadings(device: string, keys: readonly string[]): void {
    for (const { data } of this.show.pages.values()) {
      const ref = data.calledBy?.reading;
      if (ref?.device === device && keys.includes(ref.key)) return this.look();
    }
  }

  /** Pages or readings have changed. */
  private look(): void {
    const calls = ({ data }: PageRecord): boolean => {
      const { calledBy } = data;
      return (
        calledBy !== undefined && this.readings.fresh(calledBy.reading.device, calledBy.reading.key) === calledBy.is
      );
    };
    const [first] = [...this.show.pages.values()].filter(calls).sort((a, b) => a.data.order - b.data.order);
    if ((first?.id ?? null) === this.now) return;
    this.now = first?.id ?? null;
    this.status.set({ called: this.now });
  }
}
