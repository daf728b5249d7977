import type { Prober } from '../../src/engine';
import { carryOut } from '../../src/prober';

/** The prober’s work in this process: a rig of a test has no process of its own for it. */
export const inProcessProber: Prober = {
  follow: async (order, onAnswer, signal = new AbortController().signal) => {
    await carryOut(order, (answer) => onAnswer(answer as never), signal);
  },
  ask: async (order, signal = new AbortController().signal) => {
    let answer: unknown;
    await carryOut(order, (each) => (answer ??= each), signal);
    return answer as never;
  },
};
