import type { DriverShelf } from '../../core/driver';
import type { Part } from '../parts';

/** When the first devices are connected and the panels are open again. */
const afterMs = 30_000;
const everyMs = 500;

/**
 * Compiles the drivers that no device uses, one at a time, once the engine is up: at the start they would delay the show, and when somebody
 * adds a device of such a kind they would delay presses.
 */
export class CompileAhead implements Part {
  private timer: NodeJS.Timeout | undefined;

  constructor(private readonly shelf: DriverShelf) {}

  start(): void {
    this.timer = setTimeout(() => this.next(), afterMs);
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  private next(): void {
    if (this.shelf.compileNext()) this.timer = setTimeout(() => this.next(), everyMs);
  }
}
