import type { Checker } from '../../src/engine/line-check/checker';
import { replay } from '../../src/server/replay/service';
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
  replay: (order, onLine, signal) => replay(dataDir, order, onLine, signal),
  rehearse: (items, onResult, signal) => rehearsePlan(dataDir, new Set(items), onResult, signal),
});
