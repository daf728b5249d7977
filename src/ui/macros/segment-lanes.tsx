'use client';

import { memo, useMemo, useState, type KeyboardEvent, type PointerEvent } from 'react';
import {
  momentsOf,
  snapped,
  timecodeOf,
  nearestFrame,
  type ActsAfter,
  type RanStep,
  type Rate,
} from '../../core/macro';
import type { MacroRecord, MacroSegment, MacroStep } from '../../core/show';
import { outcomeShapes } from '../parts';
import { useRigFacts } from '../fields';
import { Playhead } from './playhead';
import { laneNames, laneOf, lanesOf, stepText } from './step-text';

interface Props {
  readonly macro: MacroRecord;
  readonly segment: MacroSegment;
  readonly index: number;
  readonly actsAfter: ActsAfter;
  readonly rate: Rate;
  /** Pixels a millisecond. */
  readonly scale: number;
  readonly chosen: ReadonlySet<string>;
  readonly wrong: ReadonlySet<string>;
  /** What a run made of it. */
  readonly ran: readonly RanStep[];
  readonly nameOf: (id: string) => string | undefined;
  readonly onChoose: (ids: readonly string[]) => void;
  readonly onMove: (ids: ReadonlySet<string>, byMs: number) => void;
  readonly onKey: (event: KeyboardEvent) => void;
}

/** Room before the first and after the last moment, in pixels. */
const margin = 60;
const nearPx = 7;

/** One segment: a lane for each device, time from left to right, the zero point marked, and what a run made of it below the plan. */
export function SegmentLanes(props: Props) {
  const { macro, segment, index, actsAfter, rate, scale, chosen, wrong, ran, nameOf, onChoose, onMove, onKey } = props;
  const { tagOf, documentOf, readings } = useRigFacts();
  const [drag, setDrag] = useState<{ readonly ids: ReadonlySet<string>; readonly byMs: number }>();
  const lanes = lanesOf(macro, segment.id);
  const moments = useMemo(() => segment.steps.flatMap((step) => momentsOf(step, actsAfter)), [segment, actsAfter]);
  const first = Math.min(0, ...moments.map(({ sendAt }) => sendAt));
  const last = Math.max(200, ...moments.map(({ actAt }) => actAt));
  const x = (ms: number) => (ms - first) * scale + margin;
  const width = x(last) + margin * 2;
  const texts = useMemo(() => {
    const sources = { documentOf, nameOf, readingsOf: (id: string) => readings.get(id) };
    return new Map(segment.steps.map((step) => [step.id, stepText(step.does, sources)]));
  }, [segment, documentOf, nameOf, readings]);
  const rows = useMemo(() => rowsOf(segment.steps, texts, scale), [segment, texts, scale]);
  const heightOf = (lane: string) =>
    32 +
    rowPx *
      Math.max(1, ...segment.steps.map((step) => (laneOf(step.does) === lane ? (rows.get(step.id) ?? 0) + 1 : 0)));
  const marks = useMemo(() => [0, ...moments.map(({ actAt }) => actAt)], [moments]);

  const onDown = (event: PointerEvent<HTMLButtonElement>, step: MacroStep) => {
    if (event.button !== 0) return;
    const ids = chosen.has(step.id) ? chosen : new Set(event.shiftKey ? [...chosen, step.id] : [step.id]);
    onChoose([...ids]);
    const target = event.currentTarget;
    const startX = event.clientX;
    const free = marks.filter((mark) => Math.abs(mark - step.at) > 0.01);
    target.setPointerCapture(event.pointerId);
    let byMs = 0;
    const move = (to: globalThis.PointerEvent) => {
      if (Math.abs(to.clientX - startX) < 3 && byMs === 0) return;
      const wanted = step.at + (to.clientX - startX) / scale;
      byMs = (to.altKey ? wanted : snapped(wanted, free, nearPx / scale, rate)) - step.at;
      setDrag({ ids, byMs });
    };
    const end = (done: boolean) => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', up);
      target.removeEventListener('pointercancel', cancel);
      setDrag(undefined);
      if (done && Math.abs(byMs) > 0.05) onMove(ids, byMs);
    };
    const up = () => end(true);
    const cancel = () => end(false);
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', up);
    target.addEventListener('pointercancel', cancel);
  };

  return (
    <div className="lanes" role="group" aria-label={`Timeline of ${segment.name || 'the segment'}`}>
      <div className="lanes-names">
        <span className="lanes-ruler-name muted">time</span>
        {lanes.map((lane) => (
          <span key={lane} className="lane-name" style={{ height: heightOf(lane) }}>
            {laneNames[lane] ?? <b className="tag">{tagOf(lane) ?? '?'}</b>}
          </span>
        ))}
      </div>
      <div className="lanes-time" onKeyDown={onKey}>
        <div style={{ width }} className="lanes-room">
          <Ruler first={first - margin / scale} last={last + (margin * 2) / scale} scale={scale} x={x} rate={rate} />
          {first < 0 && <i className="lanes-before" style={{ left: 0, width: x(0) }} aria-hidden />}
          <i className="lanes-zero" style={{ left: x(0) }} aria-hidden />
          <Playhead macro={macro.id} segment={index} x={x} />
          {lanes.map((lane) => (
            <div key={lane} className="lane" style={{ height: heightOf(lane) }}>
              {segment.steps
                .filter(({ does }) => laneOf(does) === lane)
                .map((step) => {
                  const byMs = drag?.ids.has(step.id) ? drag.byMs : 0;
                  return (
                    <StepMark
                      key={step.id}
                      step={step}
                      text={texts.get(step.id) ?? ''}
                      top={(rows.get(step.id) ?? 0) * rowPx + 5}
                      left={x(step.at + byMs)}
                      lead={leadOf(step, actsAfter) * scale}
                      long={step.does.is === 'pulse' ? step.does.forMs * scale : 0}
                      at={timeText(step.at + byMs, rate)}
                      chosen={chosen.has(step.id)}
                      wrong={wrong.has(step.id)}
                      moving={byMs !== 0}
                      onDown={onDown}
                      onChoose={onChoose}
                    />
                  );
                })}
              {ran
                .filter(({ step }) => segment.steps.some(({ id, does }) => id === step && laneOf(does) === lane))
                .map((each) => (
                  <RanMark key={`${each.step} ${each.half ?? ''}`} ran={each} moments={moments} x={x} />
                ))}
            </div>
          ))}
          {lanes.length === 0 && <p className="lanes-none muted">Nothing here yet. Add a command below.</p>}
        </div>
      </div>
    </div>
  );
}

/** The height of a row of steps, in pixels. */
const rowPx = 34;

/** In which row of its lane each step is drawn, so that none lies on another. */
function rowsOf(
  steps: readonly MacroStep[],
  texts: ReadonlyMap<string, string>,
  scale: number,
): ReadonlyMap<string, number> {
  const ends = new Map<string, number[]>();
  const rows = new Map<string, number>();
  for (const step of [...steps].sort((a, b) => a.at - b.at)) {
    const lane = laneOf(step.does);
    const own = ends.get(lane) ?? [];
    ends.set(lane, own);
    const from = step.at * scale;
    const free = own.findIndex((end) => end <= from);
    const row = free === -1 ? own.length : free;
    // Narrow letters are seven pixels wide, near enough.
    own[row] = from + (texts.get(step.id)?.length ?? 0) * 7 + 24;
    rows.set(step.id, row);
  }
  return rows;
}

/** How much earlier than its time a step is sent, in milliseconds. */
const leadOf = (step: MacroStep, actsAfter: ActsAfter): number =>
  step.at - (momentsOf(step, actsAfter)[0]?.sendAt ?? step.at);

/** `+480 ms · 00:00:00:12` */
const timeText = (ms: number, rate: Rate): string =>
  `${ms < 0 ? '−' : '+'}${Math.abs(Math.round(ms * 10) / 10)} ms · ${timecodeOf(nearestFrame(ms, rate), rate)}`;

interface MarkProps {
  readonly step: MacroStep;
  readonly text: string;
  readonly top: number;
  readonly left: number;
  readonly lead: number;
  readonly long: number;
  readonly at: string;
  readonly chosen: boolean;
  readonly wrong: boolean;
  readonly moving: boolean;
  readonly onDown: (event: PointerEvent<HTMLButtonElement>, step: MacroStep) => void;
  readonly onChoose: (ids: readonly string[]) => void;
}

const StepMark = memo(
  function StepMark({ step, text, top, left, lead, long, at, chosen, wrong, moving, onDown, onChoose }: MarkProps) {
    return (
      <button
        type="button"
        className="mstep"
        data-step={step.id}
        data-moving={moving || undefined}
        data-wrong={wrong || undefined}
        aria-pressed={chosen}
        aria-label={`${text}, at ${at}${wrong ? ', something is wrong with it' : ''}`}
        style={{ left, top }}
        onPointerDown={(event) => onDown(event, step)}
        onFocus={() => !chosen && onChoose([step.id])}
      >
        {lead > 0 && <i className="mstep-lead" style={{ width: lead, left: -lead }} aria-hidden />}
        {long > 0 && <i className="mstep-long" style={{ width: long }} aria-hidden />}
        <span className="mstep-text">
          {wrong && '✕ '}
          {text}
        </span>
        {moving && <span className="mstep-at mono">{at}</span>}
      </button>
    );
  },
  (a, b) =>
    a.step === b.step &&
    a.left === b.left &&
    a.top === b.top &&
    a.text === b.text &&
    a.chosen === b.chosen &&
    a.wrong === b.wrong &&
    a.lead === b.lead &&
    a.moving === b.moving,
);

/** What became of a step: when it was sent, drawn against its plan, how late, and how it ended. */
function RanMark({
  ran,
  moments,
  x,
}: {
  readonly ran: RanStep;
  readonly moments: ReturnType<typeof momentsOf>;
  readonly x: (ms: number) => number;
}) {
  const moment = moments.find(({ step, half }) => step === ran.step && half === ran.half);
  if (!moment) return null;
  const late = (ran.sentMs ?? ran.plannedMs) - ran.plannedMs;
  const sentAt = moment.sendAt + late;
  const took = (ran.endedMs ?? ran.sentMs ?? ran.plannedMs) - (ran.sentMs ?? ran.plannedMs);
  const title = `${ran.outcome ?? 'under way'}; sent ${late.toFixed(1)} ms after its time, known ${took.toFixed(0)} ms later${ran.reason ? `: ${ran.reason}` : ''}`;
  return (
    <span
      className={`ran outcome-${ran.outcome ?? 'waiting'}`}
      style={{ left: x(sentAt), width: Math.max(2, x(sentAt + took) - x(sentAt)) }}
      title={title}
      role="img"
      aria-label={title}
    >
      <b aria-hidden>{outcomeShapes[ran.outcome ?? 'waiting']}</b>
    </span>
  );
}

const steps = [1, 2, 5, 10, 20, 40, 100, 200, 500, 1000, 2000, 5000, 10_000, 30_000, 60_000];

function Ruler({
  first,
  last,
  scale,
  x,
  rate,
}: {
  readonly first: number;
  readonly last: number;
  readonly scale: number;
  readonly x: (ms: number) => number;
  readonly rate: Rate;
}) {
  const every = steps.find((step) => step * scale >= 90) ?? 60_000;
  const from = Math.ceil(first / every);
  const count = Math.min(400, Math.floor(last / every) - from + 1);
  return (
    <div className="lanes-ruler" aria-hidden>
      {Array.from({ length: Math.max(0, count) }, (_, n) => (from + n) * every).map((ms) => (
        <span key={ms} style={{ left: x(ms) }} className={ms === 0 ? 'lanes-at-zero' : ''}>
          {ms === 0 ? 'zero' : every >= 1000 ? `${ms / 1000} s` : `${ms} ms`}
          <small>{timecodeOf(nearestFrame(ms, rate), rate)}</small>
        </span>
      ))}
    </div>
  );
}
