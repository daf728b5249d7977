import type { AsRunSend, PressReport } from '../../core/live';
import type { Why, FinalOutcome } from '../../core/press';

/** How a press ended, with each of its sends. */
export interface PressResult extends PressReport {
  readonly outcome: FinalOutcome;
  readonly why: Why;
  readonly sends: readonly AsRunSend[];
}

export type PressListener = (report: PressReport | PressResult) => void;

const rememberedPresses = 2000;

/** The last presses by id, so that each acts once and its end can be asked for; and who waits for the end of one under way. */
export class PressBook {
  private readonly known = new Map<string, PressReport | PressResult>();
  private readonly waiting = new Map<string, PressListener[]>();

  /** Reports the state of a press and, if it is under way, its outcome. False if the press is unknown. */
  follow(id: string, listener: PressListener): boolean {
    const known = this.known.get(id);
    if (!known) return false;
    this.waiting.get(id)?.push(listener);
    listener(known);
    return true;
  }

  /** Opens a press: everybody who follows it from now on hears of it, too. */
  open(id: string, listener: PressListener): void {
    if (!this.waiting.has(id)) this.waiting.set(id, [listener]);
  }

  /** Remembers the state of a press and tells all who follow it. */
  tell(report: PressReport | PressResult): void {
    this.known.set(report.id, report);
    if (this.known.size > rememberedPresses) {
      const oldest = this.known.keys().next().value;
      if (oldest !== undefined) this.known.delete(oldest);
    }
    for (const listener of this.waiting.get(report.id) ?? []) listener(report);
  }

  /** Tells how a press ended. */
  end(result: PressResult): void {
    this.tell(result);
    this.waiting.delete(result.id);
  }

  /** Tells of a report that came after the end. */
  note(id: string, note: string, listener: PressListener): boolean {
    const known = this.known.get(id);
    if (!known) return false;
    const noted = { ...known, note };
    this.known.set(id, noted);
    listener(noted);
    return true;
  }
}
