import type { SendListener } from '../devices/send-book';
import type { Order } from './dispatcher';

/** Returns false when nothing comes of it; the listener hears why. */
type CarryOut = (order: Order, listener: SendListener) => boolean;

/** Carries what the program itself is told to do to the part that does it. */
export class OwnOrders {
  private readonly served = new Map<string, CarryOut>();

  /** @param commands their names in the program's own document */
  serve(commands: readonly string[], carryOut: CarryOut): void {
    for (const command of commands) this.served.set(command, carryOut);
  }

  carryOut(order: Order, listener: SendListener): boolean {
    const carryOut = this.served.get(order.prepared.id);
    if (carryOut) return carryOut(order, listener);
    listener({ outcome: 'lost', why: 'missing', ms: 0, reason: 'This program cannot do that.' });
    return false;
  }
}
