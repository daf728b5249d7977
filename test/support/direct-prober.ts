import type { ProbeOrder } from '../../src/core/diagnosis';
import type { Prober } from '../../src/engine';
import { carryOut } from '../../src/prober';

/** The prober without its process: what it does is the same. */
export const directProber: Prober = {
  follow: (order, onAnswer, signal) =>
    carryOut(order as ProbeOrder, onAnswer as never, signal ?? new AbortController().signal),
  ask: async (order, signal) => {
    let answer: unknown;
    await directProber.follow(order, (each) => (answer ??= each), signal);
    return answer as never;
  },
};
