'use client';

import { DndContext } from '@dnd-kit/core';
import { useCallback, useMemo, useState, type KeyboardEvent } from 'react';
import { actsAfter, problemsOfMacro, type MacroSources } from '../../core/check';
import {
  changeMacroEdit,
  copiedSteps,
  movedSegment,
  msOfFrame,
  nudged,
  placedStep,
  planOf,
  rateOf,
  rateOfShow,
  withoutSteps,
  withSegment,
  type ActsAfter,
} from '../../core/macro';
import type { DeskView, MacroData, MacroDoes, MacroRecord, MacroSegment, MacroStep } from '../../core/show';
import { useDesk } from '../desk';
import { useMacroRuns } from '../live';
import { useRigFacts } from '../fields';
import { shortcutOf } from '../frame';
import { Button, quietDrag, SplitPanes, Tabs, useDragSensors } from '../kit';
import { newId } from '../parts';
import { AddStep } from './add-step';
import { CommandList } from './command-list';
import { MacroHead, type MacroView } from './macro-head';
import { MacroPane } from './macro-pane';
import { RunsPart } from './runs-part';
import { SegmentPane } from './segment-pane';
import { StepList } from './step-list';
import { StepPane } from './step-pane';
import { laneNames, stepText } from './step-text';
import { Timeline } from './timeline';

interface Props {
  readonly macro: MacroRecord;
  readonly macros: readonly MacroRecord[];
  readonly show: DeskView;
  readonly sources: MacroSources;
}

/** One macro: its timeline, list or runs, what is chosen beside it, and a run drawn over the plan. */
export function MacroEditor({ macro, macros, show, sources }: Props) {
  const desk = useDesk();
  const runs = useMacroRuns(macro.id);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [segmentId, setSegmentId] = useState<string>();
  const [view, setView] = useState<MacroView>('timeline');
  const [runId, setRunId] = useState<string>();
  const [tab, setTab] = useState<'chosen' | 'commands'>('chosen');
  const sensors = useDragSensors();
  const problems = useMemo(() => problemsOfMacro(macro, sources), [macro, sources]);
  const acts: ActsAfter = useCallback((send) => actsAfter(send, sources), [sources]);
  const rateName = rateOfShow(show.records);
  const rate = useMemo(() => rateOf(rateName), [rateName]);
  const past = useMemo(() => [...(runs?.now ? [runs.now] : []), ...(runs?.past ?? [])], [runs]);
  const run = past.find(({ id }) => id === runId) ?? past[0];
  const names = useMemo(
    () =>
      new Map(
        show.records.flatMap((each): (readonly [string, string])[] => {
          if (each.kind === 'device') return [[each.id, each.data.tag]];
          if (each.kind === 'macro' || each.kind === 'panel') return [[each.id, each.data.name]];
          if (each.kind !== 'page') return [];
          const { name, shifts = [], zones } = each.data;
          return [
            [each.id, name],
            ...shifts.map((shift) => [shift.id, shift.name] as const),
            ...zones.map((zone) => [zone.id, zone.title] as const),
          ];
        }),
      ),
    [show],
  );
  const nameOf = useCallback((id: string) => names.get(id), [names]);
  const wrong = useMemo(() => new Set(problems.map(({ step, segment }) => step ?? segment ?? '')), [problems]);
  const { documentOf, readings } = useRigFacts();
  const texts = useMemo(() => {
    const from = { documentOf, nameOf, readingsOf: (id: string) => readings.get(id) };
    const steps = macro.data.segments.flatMap((segment) => segment.steps);
    return new Map(steps.map((step) => [step.id, stepText(step.does, from)]));
  }, [macro, documentOf, nameOf, readings]);
  const plan = useMemo(() => planOf(macro.data.segments, acts), [macro, acts]);
  const ran = useMemo(
    () => macro.data.segments.map((_, n) => lastRound(run?.steps ?? [], n)),
    [macro.data.segments, run],
  );
  const change = (to: (data: MacroData) => MacroData, what: string) => {
    const data = to(macro.data);
    if (data !== macro.data) void desk.edit(changeMacroEdit(macro, data, what));
  };
  const choose = useCallback((id: string, more: boolean) => {
    setChosen((old) => new Set(more ? [...old, id] : [id]));
    setSegmentId(undefined);
    setTab('chosen');
  }, []);
  const chooseSegment = (id: string) => {
    setChosen(new Set());
    setSegmentId(id);
    setTab('chosen');
  };
  const move = (ids: ReadonlySet<string>, byMs: number) => change((data) => nudged(data, ids, byMs), 'Move steps');
  const place = (id: string, { segment, at, lane }: { segment: number; at: number; lane: string }) => {
    const to = macro.data.segments[segment];
    const device = lane in laneNames ? {} : { device: lane };
    if (to) change((data) => placedStep(data, id, { segment: to.id, at, ...device }), 'Move a step');
  };
  const remove = () => {
    change((data) => withoutSteps(data, chosen), 'Remove steps');
    setChosen(new Set());
  };
  const copy = () => {
    const made = copiedSteps(macro.data, chosen, 500, newId);
    change(() => made.data, 'Copy steps');
    setChosen(new Set(made.ids));
  };
  const onKey = (event: KeyboardEvent) => {
    if (chosen.size === 0) return;
    const shortcut = shortcutOf('timeline', event.nativeEvent);
    if (shortcut === undefined) return;
    const way = event.key === 'ArrowLeft' ? -1 : 1;
    const frame = msOfFrame(1, rate);
    if (shortcut === 'frame') move(chosen, way * frame);
    else if (shortcut === 'ten') move(chosen, way * frame * 10);
    else if (shortcut === 'millisecond') move(chosen, way);
    else if (shortcut === 'remove') remove();
    else if (shortcut === 'copy') copy();
    else setChosen(new Set());
    event.preventDefault();
  };
  const steps = macro.data.segments.flatMap((segment) => segment.steps).filter(({ id }) => chosen.has(id));
  const [only] = steps;
  const index = macro.data.segments.findIndex(({ id }) => id === segmentId);
  const segment = macro.data.segments[index];
  // A step is added where somebody is at work.
  const target =
    segment ??
    macro.data.segments.find((each) => each.steps.some(({ id }) => chosen.has(id))) ??
    macro.data.segments[0];
  const addAt = (does: MacroDoes, to: MacroSegment, at: number) => {
    const step: MacroStep = { id: newId('step'), at, does };
    change((data) => withSegment(data, to.id, (own) => ({ ...own, steps: [...own.steps, step] })), 'Add a step');
    setChosen(new Set([step.id]));
    setSegmentId(undefined);
  };
  const add = (does: MacroDoes) => {
    if (!target) return;
    const last = Math.max(0, ...target.steps.map(({ at }) => at + 500));
    addAt(does, target, target.steps.length === 0 ? 0 : last);
  };
  const addDragged = (does: MacroDoes, { segment: index, at }: { segment: number; at: number }) => {
    const to = macro.data.segments[index];
    if (to) addAt(does, to, at);
  };
  const addSegment = () => {
    const made = { id: newId('seg'), name: '', steps: [] };
    change((data) => ({ ...data, segments: [...data.segments, made] }), 'Add a segment');
    chooseSegment(made.id);
  };
  const work = (
    <div className="flex h-full min-h-0 flex-col gap-3 px-4 py-3">
      <MacroHead
        macro={macro}
        show={show}
        problems={problems}
        plan={plan}
        rateName={rateName}
        view={view}
        onView={setView}
        onChange={change}
        onWhole={() => {
          setChosen(new Set());
          setSegmentId(undefined);
        }}
      />
      {view === 'timeline' ? (
        <Timeline
          macro={macro}
          plan={plan}
          texts={texts}
          actsAfter={acts}
          rate={rate}
          chosen={chosen}
          segment={segment?.id}
          wrong={wrong}
          ran={ran}
          onChoose={choose}
          onSegment={chooseSegment}
          onShift={move}
          onNew={addDragged}
          onPlace={place}
          onKey={onKey}
        />
      ) : view === 'list' ? (
        <StepList
          macro={macro}
          texts={texts}
          rate={rate}
          chosen={chosen}
          wrong={wrong}
          ran={ran}
          onChoose={choose}
          onChange={change}
        />
      ) : (
        <div className="min-h-0 flex-1 overflow-y-auto">
          <RunsPart runs={past} running={runs?.now?.id} shown={run?.id} onShow={setRunId} texts={texts} />
        </div>
      )}
      {view !== 'runs' && (
        <AddStep
          within={target ? target.name || `segment ${macro.data.segments.indexOf(target) + 1}` : ''}
          macros={macros.filter(({ id }) => id !== macro.id)}
          show={show}
          onAdd={(does) => {
            add(does);
            setTab('chosen');
          }}
          onAddSegment={addSegment}
        />
      )}
    </div>
  );
  const choosing = (
    <div className="form content-start" role="region" aria-label="What is chosen">
      {only && steps.length === 1 && (
        <StepPane
          key={only.id}
          step={only}
          macro={macro}
          rate={rate}
          actsAfter={acts}
          runs={past}
          problems={problems.filter(({ step }) => step === only.id)}
          show={show}
          onChange={change}
        />
      )}
      {steps.length > 1 && <p>{steps.length} steps are chosen.</p>}
      {steps.length > 0 && (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button onClick={copy}>Copy</Button>
          <Button onClick={remove}>{steps.length > 1 ? 'Remove steps' : 'Remove step'}</Button>
        </div>
      )}
      {steps.length === 0 && segment && (
        <SegmentPane
          key={segment.id}
          segment={segment}
          index={index}
          count={macro.data.segments.length}
          macro={macro}
          problems={problems.filter((each) => each.segment === segment.id && each.step === undefined)}
          onChange={(to, what) => change((data) => withSegment(data, segment.id, to), what)}
          onMove={(by) => change((data) => movedSegment(data, segment.id, by), 'Move a segment')}
          onRemove={() =>
            change(
              (data) => ({ ...data, segments: data.segments.filter(({ id }) => id !== segment.id) }),
              'Remove a segment',
            )
          }
          onClose={() => setSegmentId(undefined)}
        />
      )}
      {steps.length === 0 && !segment && <MacroPane macro={macro} show={show} onChange={change} />}
    </div>
  );
  const side = (
    <aside className="flex h-full min-h-0 flex-col pt-1" aria-label="Beside the macro">
      <Tabs
        label="Beside the macro"
        tabs={[
          { id: 'chosen', title: 'Chosen' },
          { id: 'commands', title: 'Commands' },
        ]}
        value={tab}
        onChange={setTab}
      >
        {tab === 'chosen' ? choosing : <CommandList onAdd={add} />}
      </Tabs>
    </aside>
  );
  return (
    <DndContext id="macro" sensors={sensors} accessibility={quietDrag} autoScroll={{ threshold: { x: 0.08, y: 0.1 } }}>
      <SplitPanes name="macro" main={work} side={side} sideSize="300px" />
    </DndContext>
  );
}

/** Of a segment that was played several times, the last time. */
function lastRound<T extends { readonly segment: number; readonly round: number }>(
  steps: readonly T[],
  index: number,
): readonly T[] {
  const own = steps.filter(({ segment }) => segment === index);
  const last = Math.max(0, ...own.map(({ round }) => round));
  return own.filter(({ round }) => round === last);
}
