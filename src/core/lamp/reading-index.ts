import { readingId, type ReadingRef } from '../show';

/**
 * From a reading to the controls that show it: what a change of one reading costs depends on how many controls use that
 * reading, not on how many there are.
 */
export class ReadingIndex {
  private readonly users = new Map<string, Set<string>>();
  private readonly uses = new Map<string, readonly string[]>();

  /** Enters or replaces the readings that a control uses. */
  put(control: string, refs: readonly ReadingRef[]): void {
    this.remove(control);
    const ids = [...new Set(refs.map(readingId))];
    if (ids.length === 0) return;
    this.uses.set(control, ids);
    for (const id of ids) {
      const set = this.users.get(id);
      if (set) set.add(control);
      else this.users.set(id, new Set([control]));
    }
  }

  remove(control: string): void {
    for (const id of this.uses.get(control) ?? []) {
      const set = this.users.get(id);
      set?.delete(control);
      if (set?.size === 0) this.users.delete(id);
    }
    this.uses.delete(control);
  }

  /** The controls that use a reading, by its `readingId`. */
  usersOf(id: string): ReadonlySet<string> {
    return this.users.get(id) ?? none;
  }
}

const none: ReadonlySet<string> = new Set();
