import type { ScreenFacts } from '../../core/health';
import type { ScreenView } from '../../core/live';

const lately = 600_000;

/** How often the screens had to connect again, by their names in the record. */
export class ScreenWatch {
  private readonly known = new Map<string, { cuts: number; times: number[] }>();

  /** Takes the screens that are connected now, and says how each fares. */
  look(screens: readonly ScreenView[], now: number): readonly ScreenFacts[] {
    return screens.map(({ who, cuts, delayMs }) => {
      const before = this.known.get(who);
      // A screen that was opened anew counts from zero again.
      const more = before && cuts > before.cuts ? cuts - before.cuts : 0;
      const times = [...(before?.times ?? []), ...Array<number>(Math.min(more, 100)).fill(now)];
      const kept = times.filter((at) => at > now - lately).slice(-100);
      this.known.set(who, { cuts, times: kept });
      return { id: who, cuts: kept.length, ...(delayMs === undefined ? {} : { delayMs }) };
    });
  }
}
