'use client';

import { useCallback, useMemo, useState, type KeyboardEvent } from 'react';
import { actsAfter, problemsOfMacro, type MacroSources } from '../../core/check';
import {
  changeMacroEdit,
  copiedSteps,
  movedSegment,
  msOfFrame,
  nudged,
  rateOf,
  rateOfShow,
  withoutSteps,
  withSegment,
  type ActsAfter,
} from '../../core/macro';
import type { DeskView, MacroData, MacroRecord, MacroStep } from '../../core/show';
import { useDesk } from '../desk';
import { useMacroRuns } from '../live';
import { shortcutOf } from '../frame';
import { Button, newId } from '../parts';
import { AddStep } from './add-step';
import { MacroHead } from './macro-head';
import { MacroPane } from './macro-pane';
import { RunsPart } from './runs-part';
import { SegmentHead } from './segment-head';
import { SegmentLanes } from './segment-lanes';
import { StepPane } from './step-pane';

interface Props {
  readonly macro: MacroRecord;
  readonly macros: readonly MacroRecord[];
  readonly show: DeskView;
  readonly sources: MacroSources;
}

/** One macro: its segments on their timelines, what is chosen beside them, and its runs drawn over the plan. */
export function MacroEditor({ macro, macros, show, sources }: Props) {
  const desk = useDesk();
  const runs = useMacroRuns(macro.id);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [scale, setScale] = useState(0.2);
  const [runId, setRunId] = useState<string>();
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
  const wrong = useMemo(() => new Set(problems.flatMap(({ step }) => step ?? [])), [problems]);
  const change = (to: (data: MacroData) => MacroData, what: string) => {
    const data = to(macro.data);
    if (data !== macro.data) void desk.edit(changeMacroEdit(macro, data, what));
  };
  const choose = useCallback((ids: readonly string[]) => setChosen(new Set(ids)), []);
  const move = (ids: ReadonlySet<string>, byMs: number) => change((data) => nudged(data, ids, byMs), 'Move steps');
  const remove = () => {
    change((data) => withoutSteps(data, chosen), 'Take steps out');
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
  return (
    <div className="macro">
      <div className="macro-work">
        <MacroHead macro={macro} show={show} problems={problems} onChange={change} />
        <div className="macro-tools">
          <label>
            Zoom
            <input
              type="range"
              min={-5}
              max={1}
              step={0.1}
              value={Math.log2(scale)}
              onChange={(event) => setScale(2 ** Number(event.target.value))}
            />
          </label>
          <span className="muted">
            Drag steps, or choose them and press ← or →. {rateName} frames per second. <kbd>?</kbd> lists all keys.
          </span>
        </div>
        <ol className="segments">
          {macro.data.segments.map((segment, index) => (
            <li key={segment.id} className="segment" data-part={segment.part}>
              <SegmentHead
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
              />
              <SegmentLanes
                macro={macro}
                segment={segment}
                index={index}
                actsAfter={acts}
                rate={rate}
                scale={scale}
                chosen={chosen}
                wrong={wrong}
                ran={lastRound(run?.steps ?? [], index)}
                nameOf={nameOf}
                onChoose={choose}
                onMove={move}
                onKey={onKey}
              />
              <AddStep
                macros={macros.filter(({ id }) => id !== macro.id)}
                show={show}
                onAdd={(does) => {
                  const last = Math.max(0, ...segment.steps.map(({ at }) => at + 500));
                  const step: MacroStep = { id: newId('step'), at: segment.steps.length === 0 ? 0 : last, does };
                  change(
                    (data) => withSegment(data, segment.id, (to) => ({ ...to, steps: [...to.steps, step] })),
                    'Add a step',
                  );
                  setChosen(new Set([step.id]));
                }}
              />
            </li>
          ))}
        </ol>
        <div className="form-acts">
          <Button
            onClick={() =>
              change(
                (data) => ({ ...data, segments: [...data.segments, { id: newId('seg'), name: '', steps: [] }] }),
                'Add a segment',
              )
            }
          >
            Add a segment
          </Button>
        </div>
        <RunsPart macro={macro} runs={past} running={runs?.now?.id} shown={run?.id} onShow={setRunId} nameOf={nameOf} />
      </div>
      <aside className="macro-pane form" aria-label="What is chosen">
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
          <div className="form-acts">
            <Button onClick={copy}>Copy</Button>
            <Button onClick={remove}>{steps.length > 1 ? 'Remove steps' : 'Remove step'}</Button>
          </div>
        )}
        {steps.length === 0 && <MacroPane macro={macro} show={show} onChange={change} />}
      </aside>
    </div>
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
