import { DriverShelf } from '../../core/driver';
import { planLineCheck, type CheckItem } from '../../core/line-check';
import type { DeviceRecord } from '../../core/show';
import { shippedDrivers } from '../../drivers';
import { canStandIn } from '../../standins';
import { openShowForReading, runningShow } from '../../store';
import { PrivateRig } from './private-rig';
import { rehearseItems, type Rehearsed } from './rehearse';

/** How many items go into one line: few enough that reading them is not felt where they arrive. */
const itemsInPiece = 50;

type PlanLine =
  | { readonly t: 'items'; readonly items: readonly CheckItem[] }
  | { readonly t: 'planned'; readonly revision: number | null; readonly seq: number };

/** The running show, read from its database, with its plan. */
function readPlan(dataDir: string) {
  const { db, close } = openShowForReading(dataDir);
  try {
    const show = runningShow(db);
    const shelf = new DriverShelf();
    shelf.stock(shippedDrivers);
    shelf.put(show.documents);
    const documentOf = ({ data }: DeviceRecord) => shelf.for(data)?.document;
    return { show, items: planLineCheck({ records: show.records, documentOf, canRehearse: canStandIn }) };
  } finally {
    close();
  }
}

/** Tells the items of the running show, piece by piece. */
export function tellPlan(dataDir: string, tell: (line: PlanLine) => void): void {
  const { items, show } = readPlan(dataDir);
  for (let n = 0; n < items.length; n += itemsInPiece) tell({ t: 'items', items: items.slice(n, n + itemsInPiece) });
  tell({ t: 'planned', revision: show.revision, seq: show.seq });
}

/** Rehearses items of the running show at stand-ins that are started for it, and tells each result. */
export async function rehearsePlan(
  dataDir: string,
  wanted: ReadonlySet<string>,
  tell: (result: Rehearsed) => void,
  signal: AbortSignal,
): Promise<void> {
  const { items, show } = readPlan(dataDir);
  const rig = await PrivateRig.open(show.records, show.documents);
  try {
    const chosen = items.filter(({ id }) => wanted.has(id));
    if (!signal.aborted) await rehearseItems(rig, show.records, chosen, tell, signal);
  } finally {
    await rig.close();
  }
}
