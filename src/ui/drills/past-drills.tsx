'use client';

import type { DrillResult } from '../../core/drill';
import { Fold } from '../kit';
import { clockText } from '../parts';
import { FaultTable } from './fault-table';

/** The drills that were run, the newest first. */
export const PastDrills = ({ past }: { readonly past: readonly DrillResult[] }) => (
  <section aria-label="Results of drills" className="grid gap-2.5">
    <h2 className="text-[17px] font-semibold">Results</h2>
    {past.map(({ id, name, who, startedAt, isCut, faults }) => (
      <Fold
        key={`${id} ${startedAt}`}
        name={`drill ${id} ${startedAt}`}
        title={`${name}, ${new Date(startedAt).toLocaleDateString()} ${clockText(startedAt, false)}`}
        aside={
          <span className="text-ink-soft">
            by {who}
            {isCut && ', stopped early'}
          </span>
        }
      >
        <FaultTable label={`Faults of ${name}`} faults={faults} />
      </Fold>
    ))}
  </section>
);
