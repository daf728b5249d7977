'use client';

import { nearestFrame, roundedMs, timecodeOf, withSteps, type RanStep, type Rate } from '../../core/macro';
import type { MacroData, MacroRecord } from '../../core/show';
import { CommitInput } from '../kit';
import { useRigFacts } from '../fields';
import { laneNames, laneOf } from './step-text';
import { Cross, OutcomeShape } from '../parts';

interface Props {
  readonly macro: MacroRecord;
  readonly texts: ReadonlyMap<string, string>;
  readonly rate: Rate;
  readonly chosen: ReadonlySet<string>;
  readonly wrong: ReadonlySet<string>;
  readonly ran: readonly (readonly RanStep[])[];
  readonly onChoose: (id: string, more: boolean) => void;
  readonly onChange: (to: (data: MacroData) => MacroData, what: string) => void;
}

/** The steps of a macro as a table, in the order of time. */
export function StepList({ macro, texts, rate, chosen, wrong, ran, onChoose, onChange }: Props) {
  const { tagOf } = useRigFacts();
  return (
    <div className="min-h-0 flex-1 overflow-auto border-y border-rule-strong">
      <table className="w-full text-[14px]" aria-label="Steps">
        <thead className="sticky top-0 bg-ground">
          <tr className="border-b border-rule text-left text-[13px]">
            {['Segment', 'At, ms', 'Timecode', 'Device', 'Step', 'Last run'].map((title) => (
              <th key={title} scope="col" className="px-2 py-1.5 font-normal text-ink-soft">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {macro.data.segments.flatMap(({ id: segment, name, steps }, n) =>
            [...steps]
              .sort((a, b) => a.at - b.at)
              .map((step, k) => {
                const lane = laneOf(step.does);
                const last = ran[n]?.find((each) => each.step === step.id);
                return (
                  <tr
                    key={step.id}
                    className={`border-b border-rule ${chosen.has(step.id) ? 'bg-tape' : 'hover:bg-raised'}`}
                    data-segment={segment}
                  >
                    <td className="px-2 py-1">{k === 0 ? name || `Segment ${n + 1}` : ''}</td>
                    <td className="w-28 px-2 py-1">
                      <CommitInput
                        aria-label={`Time of ${texts.get(step.id) ?? 'the step'}, in ms`}
                        type="number"
                        step="any"
                        className="w-24 border border-rule-strong bg-tape px-1.5 py-0.5 text-right font-mono text-[0.93em]"
                        value={String(step.at)}
                        onCommit={(text) => {
                          const at = roundedMs(Number(text));
                          if (text.trim() !== '' && at >= -600_000 && at <= 3_600_000)
                            onChange(
                              (data) => withSteps(data, new Set([step.id]), (to) => ({ ...to, at })),
                              'Move a step',
                            );
                        }}
                      />
                    </td>
                    <td className="px-2 py-1 font-mono text-[0.93em] text-ink-soft">
                      {timecodeOf(nearestFrame(step.at, rate), rate)}
                    </td>
                    <td className="px-2 py-1">
                      {laneNames[lane] ?? <b className="font-mono text-[0.93em] font-semibold">{tagOf(lane) ?? '?'}</b>}
                    </td>
                    <td className="px-2 py-1">
                      <button
                        type="button"
                        className="text-left hover:underline"
                        aria-pressed={chosen.has(step.id)}
                        onClick={(event) => onChoose(step.id, event.shiftKey)}
                      >
                        {wrong.has(step.id) && <Cross />}
                        {texts.get(step.id)}
                      </button>
                    </td>
                    <td className="px-2 py-1 whitespace-nowrap text-ink-soft">{last && <RanText ran={last} />}</td>
                  </tr>
                );
              }),
          )}
        </tbody>
      </table>
    </div>
  );
}

function RanText({ ran: { outcome, sentMs, plannedMs } }: { readonly ran: RanStep }) {
  const late = sentMs === undefined ? '' : `, sent ${(sentMs - plannedMs).toFixed(1)} ms late`;
  return (
    <>
      <OutcomeShape outcome={outcome ?? 'waiting'} />
      {outcome ?? 'under way'}
      {late}
    </>
  );
}
