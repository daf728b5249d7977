'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { problemsOfMacro, type MacroSources } from '../../core/check';
import { DriverShelf } from '../../core/driver';
import { macrosOf, newMacroEdit } from '../../core/macro';
import { ownDocumentOf, panelHasPage, type DeskView, type PageRecord, type SnapshotRecord } from '../../core/show';
import { blackReason } from '../../core/snapshot';
import { useDesk, useShow } from '../desk';
import { useLive, useRuns, useStatus } from '../live';
import { Cross, AutomationRooms, newId } from '../parts';
import { RigFactsContext } from '../fields';
import { useRigNow } from '../rig-now';
import { Button } from '../kit';
import { ImportMacros } from './import-macros';
import { MacroEditor } from './macro-editor';

/** The macros of the show in a list, and the one that is open on its timeline. */
export function MacrosScreen({ macro }: { readonly macro: string | undefined }) {
  const { show } = useShow();
  const desk = useDesk();
  const live = useLive();
  const recorder = useStatus()?.recorder ?? null;
  const router = useRouter();
  const runs = Object.values(useRuns() ?? {});
  const macros = useMemo(() => macrosOf(show?.records ?? []), [show]);
  const sources = useMacroSources(show);
  const facts = useRigNow(show);
  const chosen = macros.find(({ id }) => id === macro) ?? (macro === undefined ? macros[0] : undefined);
  const add = async () => {
    if (!show) return;
    const edit = newMacroEdit(show.records, newId, `Macro ${macros.length + 1}`);
    if (await desk.edit(edit)) router.push(`/macros/${edit.changes[0]?.op === 'add' ? edit.changes[0].record.id : ''}`);
  };
  return (
    <section
      className="grid h-full min-h-0 grid-cols-[216px_minmax(0,1fr)] max-[900px]:grid-cols-1 max-[900px]:grid-rows-[auto_minmax(0,1fr)]"
      aria-labelledby="macros-title"
    >
      <div className="flex min-h-0 flex-col gap-2 border-r border-rule py-3 max-[900px]:border-r-0">
        <div className="px-3">
          <AutomationRooms here="macros" id="macros-title" />
        </div>
        <div className="flex flex-wrap gap-2 px-3 [&_button]:px-2.5">
          <Button disabled={!show} aria-label="New macro" onClick={() => void add()}>
            New
          </Button>
          {show && <ImportMacros show={show} />}
          <Button
            disabled={!show || recorder !== null}
            onClick={() => live.record('begin')}
            title="Operate by hand, from panels or at the devices: it becomes a timeline"
          >
            {recorder ? 'See below' : 'Record by hand'}
          </Button>
        </div>
        <nav aria-label="Macros" className="min-h-0 overflow-y-auto max-[900px]:max-h-40">
          <ul>
            {macros.map((each) => {
              const count = sources ? problemsOfMacro(each, sources).length : 0;
              const isRunning = runs.some((run) => run.macro === each.id);
              return (
                <li key={each.id}>
                  <Link
                    href={`/macros/${each.id}`}
                    aria-current={each.id === chosen?.id ? 'page' : undefined}
                    className="grid border-b border-l-3 border-rule border-l-transparent py-1.5 pr-3 pl-2.5 hover:bg-raised aria-[current]:border-l-accent aria-[current]:bg-tape"
                  >
                    <span>{each.data.name}</span>
                    <span className="text-[13px] text-ink-soft">
                      {!isRunning && count > 0 && <Cross />}
                      {isRunning ? 'runs' : count > 0 ? `${count} to mend` : `${stepsOf(each.data.segments)} steps`}
                    </span>
                  </Link>
                </li>
              );
            })}
          </ul>
        </nav>
      </div>
      {!show && <p className="py-6 text-ink-soft">Fetching the show …</p>}
      {show && !chosen && (
        <div className="py-6">
          <p>{macro === undefined ? 'No macros yet.' : 'This macro no longer exists.'}</p>
          <p className="text-ink-soft">
            A macro sends commands to several devices, each at its time: start a wipe clip, cut underneath it, take the
            clip off.
          </p>
        </div>
      )}
      {show && chosen && sources && (
        <RigFactsContext value={facts}>
          <MacroEditor key={chosen.id} macro={chosen} macros={macros} show={show} sources={sources} />
        </RigFactsContext>
      )}
    </section>
  );
}

const stepsOf = (segments: readonly { readonly steps: readonly unknown[] }[]): number =>
  segments.reduce((sum, { steps }) => sum + steps.length, 0);

function useMacroSources(show: DeskView | undefined): MacroSources | undefined {
  return useMemo(() => {
    if (!show) return undefined;
    const shelf = new DriverShelf();
    const devices = new Map(show.records.flatMap((each) => (each.kind === 'device' ? [[each.id, each]] : [])));
    // Compiling takes a while: only those that the rig uses.
    const used = new Set([...devices.values()].map(({ data }) => data.driver));
    shelf.put(show.drivers.filter(({ id }) => used.has(id)));
    const snapshotOf = (number: number) =>
      show.records.find((each): each is SnapshotRecord => each.kind === 'snapshot' && each.data.number === number);
    const has = (kind: string) => (id: string) => show.records.some((each) => each.kind === kind && each.id === id);
    return {
      devices,
      driverOf: (device) => shelf.for(device.data),
      macros: new Map(macrosOf(show.records).map((each) => [each.id, each])),
      page: (id) => show.records.find((each): each is PageRecord => each.kind === 'page' && each.id === id),
      hasPanel: has('panel'),
      own: ownDocumentOf(show.records),
      hasSnapshot: (number) => snapshotOf(number) !== undefined,
      blackReasonOf: (number) => {
        const documentOf = (id: string) => {
          const device = devices.get(id);
          return device && shelf.for(device.data)?.document;
        };
        return blackReason(snapshotOf(number)?.data.parts ?? [], documentOf);
      },
      lacksPage: (panel, page) =>
        show.records.some((each) => each.kind === 'panel' && each.id === panel && !panelHasPage(each, page)),
    };
  }, [show]);
}
