import type { Checker } from '../../src/engine/line-check/checker';
import { rehearsePlan, tellPlan } from '../../src/server/line-check/service';

/** Plans and rehearses the line check in this process. */
export const checkerHere = (dataDir: string): Checker => ({
  plan: (onItems) => {
    let made = { revision: null as number | null, seq: 0 };
    tellPlan(dataDir, (line) => {
      if (line.t === 'items') onItems(line.items);
      else made = line;
    });
    return Promise.resolve(made);
  },
  rehearse: (items, onResult, signal) => rehearsePlan(dataDir, new Set(items), onResult, signal),
});
