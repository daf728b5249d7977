import type { PageRecord } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

/** Which page a reading calls for now: the first whose reading has its value, fresh. Panels that follow go there. */
export class CalledPage {
  private now: string | null = null;

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly onCalled: (page: string | null) => void,
  ) {}

  get page(): string | null {
    return this.now;
  }

  onReadings(device: string, keys: readonly string[]): void {
    for (const { data } of this.show.pages.values()) {
      const ref = data.calledBy?.reading;
      if (ref?.device === device && keys.includes(ref.key)) return this.look();
    }
  }

  /** Pages or readings have changed. */
  look(): void {
    const calls = ({ data }: PageRecord): boolean => {
      const { calledBy } = data;
      return (
        calledBy !== undefined && this.readings.fresh(calledBy.reading.device, calledBy.reading.key) === calledBy.is
      );
    };
    const [first] = [...this.show.pages.values()].filter(calls).sort((a, b) => a.data.order - b.data.order);
    if ((first?.id ?? null) === this.now) return;
    this.now = first?.id ?? null;
    this.onCalled(this.now);
  }
}
