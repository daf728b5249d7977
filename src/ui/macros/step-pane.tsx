'use client';

import { useMemo, useState } from 'react';
import type { MacroProblem } from '../../core/check';
import {
  frameOfTimecode,
  momentsOf,
  msOfFrame,
  nearestFrame,
  roundedMs,
  summaryOf,
  timecodeOf,
  withSteps,
  type ActsAfter,
  type PastRun,
  type Rate,
} from '../../core/macro';
import type { DeskView, MacroData, MacroDoes, MacroRecord, MacroStep } from '../../core/show';
import { durationText } from '../parts';
import { buttonClass, CommitInput, formPartClass, optionsFrom, Select } from '../kit';
import { PanelStep } from './panel-step';
import { SendFields } from './send-fields';

interface Props {
  readonly step: MacroStep;
  readonly macro: MacroRecord;
  readonly rate: Rate;
  readonly actsAfter: ActsAfter;
  /** What earlier runs have shown. */
  readonly runs: readonly PastRun[];
  readonly problems: readonly MacroProblem[];
  readonly show: DeskView;
  readonly onChange: (to: (data: MacroData) => MacroData, what: string) => void;
}

/** One step: when, in milliseconds and in frames, whether that is when it is sent or when it acts, and what it does. */
export function StepPane({ step, macro, rate, actsAfter, runs, problems, show, onChange }: Props) {
  const [wrong, setWrong] = useState<string>();
  const change = (to: (step: MacroStep) => MacroStep, what = 'Change a step') =>
    onChange((data) => withSteps(data, new Set([step.id]), to), what);
  const does = (to: MacroDoes) => change((each) => ({ ...each, does: to }));
  const move = (at: number) => {
    const isAbsurd = !(at >= -600_000 && at <= 3_600_000);
    setWrong(isAbsurd ? 'From ten minutes before the zero point to an hour after it.' : undefined);
    if (!isAbsurd) change((each) => ({ ...each, at: roundedMs(at) }), 'Move a step');
  };
  const delay =
    step.does.is === 'send' ? actsAfter(step.does.send) : step.does.is === 'pulse' ? actsAfter(step.does.on) : 0;
  const measured = useMemo(
    () =>
      summaryOf(runs.filter(({ aim }) => aim === 'live')).find((each) => each.step === step.id && each.half !== 'off'),
    [runs, step.id],
  );
  const sendAt = momentsOf(step, actsAfter)[0]?.sendAt ?? step.at;
  return (
    <section className={formPartClass} aria-label="Step">
      <h2 className="font-semibold">Step</h2>
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <label>
          At, ms
          <CommitInput type="number" step="any" value={String(step.at)} onCommit={(text) => move(Number(text))} />
        </label>
        <label>
          as timecode
          <CommitInput
            value={timecodeOf(nearestFrame(step.at, rate), rate)}
            onCommit={(text) => {
              const frame = frameOfTimecode(text, rate);
              if (frame.ok) move(msOfFrame(frame.value, rate));
              else setWrong(frame.error);
            }}
          />
        </label>
      </div>
      {wrong && (
        <p role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {wrong}
        </p>
      )}
      {(step.does.is === 'send' || step.does.is === 'pulse') && (
        <>
          <Select
            label="At this time the command"
            value={step.acts ? 'acts' : 'sent'}
            options={optionsFrom({ sent: 'is sent', acts: 'takes effect' })}
            onChoose={(when) =>
              change(({ acts: _, ...each }) => (when === 'acts' ? { ...each, acts: true } : each), 'Landing of a step')
            }
          />
          <p className="col-span-full text-[13px] text-ink-soft">
            {delay > 0
              ? `The driver says it takes effect ${delay} ms after it is sent: sent at ${roundedMs(sendAt)} ms, effective at ${roundedMs(sendAt + delay)} ms.`
              : 'The driver does not say how long the command takes, so it counts as immediate.'}
          </p>
          {measured?.confirm && (
            <p className="col-span-full text-[13px] text-ink-soft">
              Measured in {measured.confirmed === 1 ? 'one run' : `${measured.confirmed} runs`}: the device reported it{' '}
              {durationText(measured.confirm.p50)} after it was sent at the median, {durationText(measured.confirm.p95)}{' '}
              at the 95th per cent.
            </p>
          )}
        </>
      )}
      <StepDoes step={step} macro={macro} show={show} onDoes={does} />
      {problems.map(({ message }) => (
        <p key={message} className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {message}
        </p>
      ))}
    </section>
  );
}

interface DoesProps extends Pick<Props, 'step' | 'macro' | 'show'> {
  readonly onDoes: (does: MacroDoes) => void;
}

function StepDoes({ step: { does }, macro, show, onDoes }: DoesProps) {
  switch (does.is) {
    case 'send':
      return (
        <>
          <SendFields label="It sends" send={does.send} macro={macro} onSend={(send) => onDoes({ is: 'send', send })} />
          <button
            type="button"
            className={buttonClass()}
            onClick={() => onDoes({ is: 'pulse', on: does.send, off: does.send, forMs: 500 })}
          >
            Make it a pulse: on, then off
          </button>
        </>
      );
    case 'pulse':
      return (
        <>
          <SendFields label="On" send={does.on} macro={macro} onSend={(on) => onDoes({ ...does, on })} />
          <label>
            Turn off after, ms
            <CommitInput
              type="number"
              min={1}
              max={3_600_000}
              value={String(does.forMs)}
              onCommit={(text) => Number(text) >= 1 && onDoes({ ...does, forMs: Math.round(Number(text)) })}
            />
          </label>
          <SendFields label="Off" send={does.off} macro={macro} onSend={(off) => onDoes({ ...does, off })} />
        </>
      );
    case 'macro':
      return (
        <p>
          Begins “
          {show.records.flatMap((each) =>
            each.kind === 'macro' && each.id === does.macro ? [each.data.name] : [],
          )[0] ?? 'a macro that no longer exists'}
          ” and does not wait for it.
        </p>
      );
    default:
      return <PanelStep does={does} show={show} onDoes={onDoes} />;
  }
}
