'use client';

import { Maximize2 } from 'lucide-react';
import { useLayoutEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import {
  axisOf,
  fittingScale,
  momentsOf,
  nearestFrame,
  timecodeOf,
  valuesOf,
  type ActsAfter,
  type Axis,
  type PlannedSegment,
  type PlannedStep,
  type RanStep,
  type Rate,
} from '../../core/macro';
import type { MacroDoes, MacroRecord, MacroStep } from '../../core/show';
import { useRigFacts } from '../fields';

import { Playhead } from './playhead';
import { RanMark } from './ran-mark';
import { StepMark } from './step-mark';
import { laneNames, laneOf } from './step-text';
import { Ruler, SegmentTabs } from './timeline-head';
import { layOut, rowPx, type TimelineLayout } from './timeline-layout';
import { useStepDrag } from './use-step-drag';
import { Button } from '../kit';
import { leastScale, mostScale, useZoom } from './use-zoom';

interface Props {
  readonly macro: MacroRecord;
  readonly plan: readonly PlannedSegment[];
  /** Each step as a sentence. */
  readonly texts: ReadonlyMap<string, string>;
  readonly actsAfter: ActsAfter;
  readonly rate: Rate;
  readonly chosen: ReadonlySet<string>;
  /** The segment that is chosen to be changed. */
  readonly segment: string | undefined;
  /** Steps and segments with something to mend. */
  readonly wrong: ReadonlySet<string>;
  /** What a run made of each segment, by its number. */
  readonly ran: readonly (readonly RanStep[])[];
  readonly onChoose: (id: string, more: boolean) => void;
  readonly onSegment: (id: string) => void;
  readonly onShift: (ids: ReadonlySet<string>, byMs: number) => void;
  readonly onNew: (does: MacroDoes, to: { readonly segment: number; readonly at: number }) => void;
  readonly onPlace: (id: string, to: { readonly segment: number; readonly at: number; readonly lane: string }) => void;
  readonly onKey: (event: KeyboardEvent) => void;
}

const namesPx = 72;
/** Of the names of markers, below the lanes. */
const footPx = 26;

/** A macro on one axis: its segments side by side, a lane for each device, and what a run made of it below the plan. */
export function Timeline(props: Props) {
  const { macro, plan, texts, actsAfter, rate, chosen, segment, wrong, ran } = props;
  const { onChoose, onSegment, onShift, onNew, onPlace, onKey } = props;
  const { tagOf, documentOf } = useRigFacts();
  const room = useRef<HTMLDivElement>(null);
  const { box, scale, setScale, fitNow, onDrawn } = useZoom(namesPx, (px) =>
    fittingScale(
      (at) => {
        const { rooms } = layOut(macro, texts, at);
        return axisOf(plan, at, (n) => rooms[n] ?? 0).width;
      },
      px,
      leastScale,
      mostScale,
    ),
  );
  const layout = useMemo(() => layOut(macro, texts, scale), [macro, texts, scale]);
  const axis = useMemo(() => axisOf(plan, scale, (n) => layout.rooms[n] ?? 0), [plan, scale, layout]);
  useLayoutEffect(() => onDrawn(axis), [onDrawn, axis]);
  const { segments } = macro.data;
  const canTake = (step: MacroStep, lane: string) => {
    const sends =
      step.does.is === 'send' ? [step.does.send] : step.does.is === 'pulse' ? [step.does.on, step.does.off] : [];
    const commands = documentOf(lane)?.commands;
    return sends.length > 0 && sends.every(({ command }) => commands?.[command] !== undefined);
  };
  const marksOf = (n: number, moving: ReadonlySet<string>) => [
    0,
    ...(plan[n]?.steps ?? []).filter(({ step }) => !moving.has(step)).map(({ actAt }) => actAt),
    ...(segments[n]?.markers ?? []).flatMap(({ at, forMs }) => (forMs === undefined ? [at] : [at, at + forMs])),
  ];
  const drag = useStepDrag({
    macro,
    axis,
    layout,
    scale,
    rate,
    chosen,
    frame: box,
    room,
    marksOf,
    laneOf: ({ does }) => laneOf(does),
    canTake,
    onShift,
    onNew,
    onPlace,
  });
  const laneAt = (id: string) => layout.lanes.find((lane) => lane.id === id);
  const places = useMemo(
    () => placesOf(macro, axis, layout, texts, actsAfter, rate, scale),
    [macro, axis, layout, texts, actsAfter, rate, scale],
  );
  // While some are dragged, all others stay the elements that they are.
  const marks = useMemo(
    () =>
      new Map(
        places.map((place) => [
          place.step.id,
          <StepMark
            key={place.step.id}
            {...place}
            chosen={chosen.has(place.step.id)}
            wrong={wrong.has(place.step.id)}
            moving={false}
            onChoose={onChoose}
          />,
        ]),
      ),
    [places, chosen, wrong, onChoose],
  );
  return (
    <div className="flex min-h-0 flex-1 flex-col" onKeyDown={onKey}>
      <div className="flex items-center gap-3 pb-2 text-[14px]">
        <label className="flex items-center gap-2">
          Zoom
          <input
            type="range"
            min={Math.log2(leastScale)}
            max={Math.log2(mostScale)}
            step={0.1}
            value={Math.log2(scale)}
            onChange={(event) => setScale(2 ** Number(event.target.value))}
          />
        </label>
        <Button kind="ghost" onClick={fitNow}>
          <Maximize2 size={16} aria-hidden /> Fit
        </Button>
        <span className="truncate text-ink-soft max-[1180px]:hidden">
          Drag steps along and between lanes, or choose them and press ← or →. <kbd>?</kbd> lists all keys.
        </span>
      </div>
      <div
        ref={box}
        className="min-h-0 flex-1 overflow-auto border-y border-rule-strong"
        role="group"
        aria-label="Timeline"
      >
        <div className="relative min-w-full" style={{ width: axis.width + namesPx }}>
          <div className="sticky top-0 z-10 flex bg-ground">
            <i className="sticky left-0 z-11 shrink-0 bg-ground" style={{ width: namesPx }} aria-hidden />
            <div className="flex-1">
              <SegmentTabs
                segments={segments}
                axis={axis}
                values={valuesOf(macro.data, {})}
                chosen={segment}
                wrong={wrong}
                onChoose={onSegment}
              />
              <Ruler axis={axis} scale={scale} rate={rate} />
            </div>
          </div>
          <div className="flex">
            <ul className="sticky left-0 z-6 shrink-0 border-r border-rule-strong bg-ground" style={{ width: namesPx }}>
              {layout.lanes.map(({ id, height }) => (
                <li key={id} className="border-b border-rule px-2 pt-2" style={{ height }}>
                  {laneNames[id] ?? <b className="font-mono text-[0.93em] font-semibold">{tagOf(id) ?? '?'}</b>}
                </li>
              ))}
            </ul>
            <div
              ref={room}
              className="relative flex-1 has-data-playhead:overflow-hidden"
              style={{ height: Math.max(120, layout.height + footPx) }}
            >
              {layout.lanes.map(({ id, top, height }) => (
                <i
                  key={id}
                  aria-hidden
                  data-target={drag && drag.is !== 'shift' && drag.lane === id ? true : undefined}
                  className="absolute inset-x-0 border-b border-rule data-target:bg-raised"
                  style={{ top, height }}
                />
              ))}
              {axis.segments.map(({ left, waitWidth, zeroX, firstMs }, n) => (
                <div key={segments[n]?.id} aria-hidden>
                  {n > 0 && <i className="absolute inset-y-0 w-px bg-rule-strong" style={{ left }} />}
                  {waitWidth > 0 && <i className="absolute inset-y-0 hatch-soft" style={{ left, width: waitWidth }} />}
                  <i
                    className={`absolute inset-y-0 bg-rule ${firstMs < 0 ? 'w-0.5' : 'w-px'}`}
                    style={{ left: zeroX }}
                  />
                  <Playhead macro={macro.id} segment={n} x={(ms) => axis.x(n, ms)} />
                </div>
              ))}
              {segments.flatMap(({ markers = [] }, n) =>
                markers.map(({ id, name, at, forMs }) => (
                  <span
                    key={id}
                    className={`pointer-events-none absolute inset-y-0 flex items-end border-dashed pb-1 pl-1 text-[12.5px] whitespace-nowrap ${forMs === undefined ? 'border-l border-ink-soft' : 'border-x border-ink-soft bg-raised/70'}`}
                    style={{ left: axis.x(n, at), width: forMs === undefined ? undefined : forMs * scale }}
                  >
                    {name}
                  </span>
                )),
              )}
              {places.map((place) => {
                const { step } = place;
                const moved = drag?.is === 'place' && drag.id === step.id ? drag : undefined;
                const byMs = drag?.is === 'shift' && drag.ids.has(step.id) ? drag.byMs : 0;
                if (!moved && byMs === 0) return marks.get(step.id);
                const ms = moved?.ms ?? step.at + byMs;
                const top = moved ? (laneAt(moved.lane)?.top ?? 0) + place.inLane : place.top;
                return (
                  <StepMark
                    key={step.id}
                    {...place}
                    top={top}
                    left={axis.x(moved?.segment ?? place.segment, ms)}
                    at={timeText(ms, rate)}
                    chosen
                    wrong={wrong.has(step.id)}
                    moving
                    onChoose={onChoose}
                  />
                );
              })}
              {drag?.is === 'new' && (
                <span
                  className="pointer-events-none absolute z-4 h-[30px] border border-l-3 border-accent bg-tape px-2 text-[13.5px] whitespace-nowrap"
                  style={{
                    left: axis.x(drag.segment, drag.ms),
                    top: (laneAt(drag.lane)?.top ?? layout.height) + 5,
                  }}
                >
                  {tagOf(drag.lane)} at {timeText(drag.ms, rate)}
                </span>
              )}
              {ran.flatMap((marks, n) =>
                marks.map((each) => {
                  const moment = momentOf(plan[n], each);
                  const lane = moment && laneAt(laneOf(moment.does));
                  if (!moment || !lane) return null;
                  return (
                    <RanMark
                      key={`${each.step} ${each.half ?? ''}`}
                      ran={each}
                      moment={moment}
                      bottom={lane.top + lane.height}
                      x={(ms) => axis.x(n, ms)}
                    />
                  );
                }),
              )}
              {layout.lanes.length === 0 && <p className="p-4 text-ink-soft">No steps yet. Add a command below.</p>}
            </div>
          </div>
        </div>
      </div>
    </div>
  );
}

/** Where each step is drawn, and what is said of it. */
const placesOf = (
  { data }: MacroRecord,
  axis: Axis,
  { lanes, rows }: TimelineLayout,
  texts: ReadonlyMap<string, string>,
  actsAfter: ActsAfter,
  rate: Rate,
  scale: number,
) => {
  const tops = new Map(lanes.map(({ id, top }) => [id, top]));
  return data.segments.flatMap(({ name, steps }, segment) =>
    steps.map((step) => {
      const inLane = (rows.get(step.id) ?? 0) * rowPx + 5;
      return {
        step,
        segment,
        inLane,
        top: (tops.get(laneOf(step.does)) ?? 0) + inLane,
        left: axis.x(segment, step.at),
        text: texts.get(step.id) ?? '',
        lead: leadOf(step, actsAfter) * scale,
        long: step.does.is === 'pulse' ? step.does.forMs * scale : 0,
        at: timeText(step.at, rate),
        within: name || `segment ${segment + 1}`,
      };
    }),
  );
};

const momentOf = (plan: PlannedSegment | undefined, ran: RanStep): PlannedStep | undefined =>
  plan?.steps.find(({ step, half }) => step === ran.step && half === ran.half);

/** How much earlier than its time a step is sent, in milliseconds. */
const leadOf = (step: MacroStep, actsAfter: ActsAfter): number =>
  step.at - (momentsOf(step, actsAfter)[0]?.sendAt ?? step.at);

/** `+480 ms · 00:00:00:12` */
const timeText = (ms: number, rate: Rate): string =>
  `${ms < 0 ? '−' : '+'}${Math.abs(Math.round(ms * 10) / 10)} ms · ${timecodeOf(nearestFrame(ms, rate), rate)}`;
