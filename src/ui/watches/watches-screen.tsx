'use client';

import { useMemo, useState } from 'react';
import { problemsOfWatch } from '../../core/check';
import { firstTest } from '../../core/page';
import { plainButton, ownDocumentOf, type WatchRecord, type WatchWhen } from '../../core/show';
import { graphicsWithKey, newWatchEdit, watchesOf } from '../../core/watch';
import { useDesk, useShow } from '../desk';
import { RigFactsContext, type RigFacts } from '../fields';
import { Button, EmptyState, SplitPanes } from '../kit';
import { AutomationRooms, newId } from '../parts';
import { useRigNow } from '../rig-now';
import { WatchDetails } from './watch-details';
import { WatchList } from './watch-list';
import { ZoneField } from './zone-field';

/** The watches of the show in a list, and one of them with what it waits for and does. */
export function WatchesScreen({ first }: { readonly first: string | undefined }) {
  const { show } = useShow();
  const desk = useDesk();
  const facts = useRigNow(show);
  const [watch, setWatch] = useState(first);
  const watches = useMemo(() => watchesOf(show?.records ?? []), [show]);
  const chosen = watches.find(({ id }) => id === watch);
  const problemsOf = useProblems(show?.records, facts);
  const open = (id: string | undefined) => {
    setWatch(id);
    history.replaceState(null, '', id === undefined ? '/watches' : `/watches?open=${id}`);
  };
  const ready = show && graphicsWithKey(show.records, facts.documentOf);
  const add = async (made: Parameters<typeof newWatchEdit>[2]) => {
    if (!show) return;
    const edit = newWatchEdit(show.records, newId, made);
    const [change] = edit.changes;
    if ((await desk.edit(edit)) && change?.op === 'add') open(change.record.id);
  };
  return (
    <section className="flex h-full min-h-0 flex-col" aria-labelledby="watches-title">
      <header className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-rule px-4 py-2">
        <AutomationRooms here="watches" id="watches-title" />
        <span className="ml-auto flex flex-wrap items-center gap-3">
          {show && <ZoneField show={show} />}
          {ready && <Button onClick={() => void add(ready)}>Add titles with a key</Button>}
          <Button
            kind="strong"
            disabled={!show}
            onClick={() => void add({ name: `Watch ${watches.length + 1}`, when: firstWhen(facts) })}
          >
            Add watch
          </Button>
        </span>
      </header>
      {!show && <p className="px-4 py-6 text-ink-soft">Fetching the show …</p>}
      {show && watches.length === 0 && (
        <div className="px-4">
          <EmptyState title="No watches yet.">
            <p>
              A watch waits for something and then acts by itself: recording starts when the stream is up, the horn
              sounds at the time of the race, a note appears on the panels when a device is lost.
            </p>
          </EmptyState>
        </div>
      )}
      {show && watches.length > 0 && (
        <RigFactsContext value={facts}>
          <SplitPanes
            name="watches"
            sideSize="46%"
            main={<WatchList show={show} facts={facts} problemsOf={problemsOf} chosen={chosen?.id} onOpen={open} />}
            side={
              chosen && (
                <WatchDetails key={chosen.id} show={show} watch={chosen} problems={problemsOf(chosen)} onOpen={open} />
              )
            }
          />
        </RigFactsContext>
      )}
    </section>
  );
}

function useProblems(
  records: NonNullable<ReturnType<typeof useShow>['show']>['records'] | undefined,
  { deviceOf, pageOf, macroOf, snapshotOf, documentOf }: RigFacts,
) {
  return useMemo(() => {
    const all = records ?? [];
    const sources = {
      records: all,
      device: deviceOf,
      page: pageOf,
      hasMacro: (id: string) => macroOf(id) !== undefined,
      hasSnapshot: (number: number) => snapshotOf(number) !== undefined,
      document: ({ id }: { readonly id: string }) => documentOf(id),
      own: ownDocumentOf(all),
    };
    return (watch: WatchRecord) => problemsOfWatch(watch, sources);
  }, [records, deviceOf, pageOf, macroOf, snapshotOf, documentOf]);
}

/** A new watch waits for the first reading that there is. */
function firstWhen({ readable, devices, documentOf, readings }: RigFacts): WatchWhen {
  const device = devices[0]?.id ?? readable[0]?.id ?? 'own';
  const test = firstTest({ devices: readable, documentOf, readings }, device, plainButton);
  return {
    is: 'true',
    condition: test ?? { op: 'above', reading: { device: 'own', key: 'devicesDown' }, to: 0 },
    forMs: 0,
  };
}
