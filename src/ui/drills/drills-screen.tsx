'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { Drill, ShowRecord } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { Button, buttonClass, EmptyState } from '../kit';
import { useDrills, useStatus } from '../live';
import { newId } from '../parts';
import { answererName } from '../proofs';
import { DrillEditor } from './drill-editor';
import { DrillRun } from './drill-run';
import { PastDrills } from './past-drills';
import { useDrill } from './use-drill';

const unnamed = 'the desk';

/** Fault drills: faults that are made to happen in a rehearsal, and how long the crew and the program took. */
export function DrillsScreen() {
  const { show } = useShow();
  const desk = useDesk();
  const view = useDrills();
  const status = useStatus();
  const drill = useDrill();
  const [open, setOpen] = useState<string>();
  const record = show?.records.find((each): each is Extract<ShowRecord, { kind: 'show' }> => each.kind === 'show');
  const drills = record?.data.drills ?? [];
  const isRehearsing = status?.aim === 'rehearse';
  const save = (to: readonly Drill[], title: string) =>
    record &&
    void desk.edit({
      title,
      changes: [{ op: 'update', from: record, to: { ...record, data: { ...record.data, drills: [...to] } } }],
    });
  const add = () => {
    const id = newId('drill');
    save([...drills, { id, name: `Drill ${drills.length + 1}`, steps: [] }], 'New drill');
    setOpen(id);
  };
  return (
    <section className="flex min-h-full flex-col gap-3 px-4 pt-3.5 pb-3" aria-labelledby="drills-title">
      <div className="flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="drills-title">Fault drills</h1>
        <p className="text-ink-soft">
          {isRehearsing
            ? 'The devices are stand-ins now. Panels show what the crew would see.'
            : 'Drills run in a rehearsal: set the aim to Rehearse first.'}
        </p>
        <span className="ml-auto flex flex-wrap gap-2.5">
          <Button disabled={!record} onClick={add}>
            New drill
          </Button>
          <Link className={buttonClass()} href="/line-check">
            Back to the line check
          </Link>
        </span>
      </div>
      {view?.run && <DrillRun run={view.run} drill={drill} />}
      {record && drills.length === 0 && (
        <EmptyState title="No drills yet.">
          A drill is a list of faults, each at its time: a camera loses its power, the mixer is taken by another
          controller, a panel drops out. It belongs to the show and can be run again.
        </EmptyState>
      )}
      {record && drills.length > 0 && (
        <ul className="border-t border-rule-strong" aria-label="Drills of the show">
          {drills.map((each, n) => (
            <li key={each.id} aria-label={each.name} className="border-b border-rule-strong py-2">
              <div className="flex flex-wrap items-center gap-x-3.5 gap-y-2">
                <strong className="min-w-40">{each.name}</strong>
                <span className="text-ink-soft">
                  {each.steps.length === 1 ? '1 fault' : `${each.steps.length} faults`}
                </span>
                <span className="ml-auto flex gap-2.5">
                  <Button
                    aria-expanded={open === each.id}
                    onClick={() => setOpen(open === each.id ? undefined : each.id)}
                  >
                    Edit
                  </Button>
                  <Button
                    kind="strong"
                    disabled={!isRehearsing || drill.isAsking || view?.run !== null || each.steps.length === 0}
                    aria-label={`Run ${each.name}`}
                    onClick={() => void drill.run(each, (answererName.get() ?? '').trim() || unnamed)}
                  >
                    Run drill
                  </Button>
                </span>
              </div>
              {open === each.id && (
                <DrillEditor
                  drill={each}
                  status={status}
                  onChange={(to, what) => save(drills.with(n, to), `${what} of drill ${to.name}`)}
                  onRemove={() => save(drills.toSpliced(n, 1), `Remove drill ${each.name}`)}
                />
              )}
            </li>
          ))}
        </ul>
      )}
      {view && view.past.length > 0 && <PastDrills past={view.past} />}
    </section>
  );
}
