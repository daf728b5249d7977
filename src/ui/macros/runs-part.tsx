'use client';

import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { summaryOf, type PastRun } from '../../core/macro';
import { clockText, durationText, OutcomeShape } from '../parts';

const StepChart = dynamic(() => import('./step-chart'), { ssr: false });

interface Props {
  readonly runs: readonly PastRun[];
  /** The one that is still under way. */
  readonly running: string | undefined;
  /** The one that is drawn over the plan. */
  readonly shown: string | undefined;
  readonly onShow: (id: string) => void;
  /** Each step as a sentence. */
  readonly texts: ReadonlyMap<string, string>;
}

/** The last runs: one is drawn over the plan, two can be compared, all of them are summed up. */
export function RunsPart({ runs, running, shown, onShow, texts }: Props) {
  const [beside, setBeside] = useState<string>();
  const summary = useMemo(() => summaryOf(runs.filter(({ aim }) => aim !== 'dry')), [runs]);
  const [one, other] = [runs.find(({ id }) => id === shown), runs.find(({ id }) => id === beside)];
  const late = (run: PastRun | undefined, step: string, half: 'on' | 'off' | undefined) => {
    const found = run?.steps.findLast((each) => each.step === step && each.half === half);
    return found?.sentMs === undefined ? (found?.outcome ?? '') : `${(found.sentMs - found.plannedMs).toFixed(1)}`;
  };
  if (runs.length === 0)
    return (
      <p className="mt-4 text-ink-soft">
        It has not run yet. Play it dry first: the timeline plays, and nothing is sent.
      </p>
    );
  return (
    <section className="mt-5.5" aria-labelledby="runs-title">
      <h2 id="runs-title">Runs</h2>
      <ul className="mt-2 mb-3.5 max-h-47.5 overflow-auto [&_[aria-pressed=true]]:bg-tape [&_[aria-pressed=true]]:shadow-[inset_3px_0_0_var(--accent)] [&_button]:min-h-8.5 [&_button]:px-2 [&_button]:py-0.5 [&_button]:text-left [&_button:first-child]:flex-1 [&_li]:flex [&_li]:border-b [&_li]:border-rule">
        {runs.slice(0, 50).map((run) => (
          <li key={run.id}>
            <button type="button" aria-pressed={run.id === shown} onClick={() => onShow(run.id)}>
              <span className="font-mono text-[0.93em]">{clockText(run.at)}</span> {run.aim} ·{' '}
              {run.id === running ? 'runs' : run.how} · {durationText(run.lengthMs)} · by {run.who}
              {run.reason && <span className="text-ink-soft"> · {run.reason}</span>}
            </button>
            {run.id !== shown && (
              <button
                type="button"
                className="runs-beside"
                aria-pressed={run.id === beside}
                onClick={() => setBeside(run.id === beside ? undefined : run.id)}
              >
                compare
              </button>
            )}
          </li>
        ))}
      </ul>
      <table className="w-full border-collapse text-[14px] [&_caption]:pb-1 [&_caption]:text-left [&_caption]:text-ink-soft [&_td]:border-b [&_td]:border-rule [&_td]:py-0.75 [&_td]:pr-3 [&_td]:pl-0 [&_td]:text-left [&_td]:font-normal [&_th]:border-b [&_th]:border-rule [&_th]:py-0.75 [&_th]:pr-3 [&_th]:pl-0 [&_th]:text-left [&_th]:font-normal [&_thead_th]:font-semibold">
        <caption>
          Late in milliseconds: sent against planned. Of {runs.filter(({ aim }) => aim !== 'dry').length} runs that were
          sent.
        </caption>
        <thead>
          <tr>
            <th scope="col">Step</th>
            <th scope="col">this run</th>
            {other && <th scope="col">the other</th>}
            <th scope="col">ended</th>
            <th scope="col">p50</th>
            <th scope="col">p95</th>
            <th scope="col">confirmed after p50</th>
            <th scope="col">p95</th>
          </tr>
        </thead>
        <tbody>
          {(one?.steps ?? []).map(({ step, half, outcome: ended }, n) => {
            const outcome = ended ?? 'waiting';
            const sum = summary.find((each) => each.step === step && each.half === half);
            return (
              <tr key={`${step} ${half ?? ''} ${n}`}>
                <th scope="row">
                  {texts.get(step) ?? 'a step that no longer exists'}
                  {half && ` (${half})`}
                </th>
                <td>{late(one, step, half)}</td>
                {other && <td>{late(other, step, half)}</td>}
                <td>
                  <OutcomeShape outcome={outcome} />
                  {outcome}
                </td>
                <td>{sum ? sum.late.p50.toFixed(1) : ''}</td>
                <td>{sum ? sum.late.p95.toFixed(1) : ''}</td>
                <td>{sum?.confirm ? durationText(sum.confirm.p50) : ''}</td>
                <td>{sum?.confirm ? durationText(sum.confirm.p95) : ''}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {summary.length > 0 && (
        <StepChart
          rows={summary.map((each) => ({
            label: `${texts.get(each.step) ?? '?'}${each.half ? ` (${each.half})` : ''}`,
            ...each.late,
          }))}
        />
      )}
    </section>
  );
}
