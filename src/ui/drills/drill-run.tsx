'use client';

import type { DrillRunView } from '../../core/live';
import { Button, TextField } from '../kit';
import { useNow } from '../live';
import { ageText } from '../parts';
import { answererName } from '../proofs';
import { FaultTable } from './fault-table';
import type { useDrill } from './use-drill';

interface Props {
  readonly run: DrillRunView;
  readonly drill: ReturnType<typeof useDrill>;
}

/** The running drill. Its leader enters when the crew has seen a fault, and ends faults. */
export function DrillRun({ run, drill: { act, isAsking } }: Props) {
  const now = useNow();
  const name = answererName.use() ?? '';
  return (
    <section className="grid gap-2.5 border-y border-rule-strong py-3" aria-label={`Drill ${run.name}`}>
      <div className="flex flex-wrap items-end gap-x-3.5 gap-y-2">
        <h2 className="text-[17px] font-semibold">{run.name}</h2>
        <span role="status" className="text-ink-soft">
          {now > 0 && `running for ${ageText(now - run.startedAt)}, begun by ${run.who}`}
        </span>
        <span className="ml-auto flex flex-wrap items-end gap-2.5">
          <TextField label="Your name" labelAt="before" value={name} onCommit={answererName.set} />
          <Button disabled={isAsking} onClick={() => void act({ do: 'stop' })}>
            Stop drill
          </Button>
        </span>
      </div>
      <FaultTable
        label="Faults of the drill that runs"
        faults={run.faults}
        acts={(fault, n) =>
          fault.causedAt !== undefined &&
          fault.mendedMs === undefined &&
          fault.fault !== 'engine' && (
            <span className="flex flex-wrap gap-2.5">
              <Button
                disabled={isAsking || fault.seenMs !== undefined}
                aria-label={`Crew has seen fault ${n + 1}`}
                onClick={() => void act({ do: 'seen', fault: n, who: name.trim() || 'the desk' })}
              >
                Crew has seen it
              </Button>
              <Button
                disabled={isAsking || fault.liftedMs !== undefined}
                aria-label={`End fault ${n + 1}`}
                onClick={() => void act({ do: 'lift', fault: n })}
              >
                End fault
              </Button>
            </span>
          )
        }
      />
    </section>
  );
}
