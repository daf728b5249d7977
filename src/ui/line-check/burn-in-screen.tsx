'use client';

import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState } from 'react';
import type { BurnInDevice, BurnInView, StatusView } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { Button, buttonClass, EmptyState, Progress, tableClass } from '../kit';
import { useBurnIn, useNow, useStatus } from '../live';
import { ageText, durationText } from '../parts';
import { askLineCheck } from '../proofs';
import { BurnInDialog } from './burn-in-dialog';

const SpreadChart = dynamic(() => import('./spread-chart'), { ssr: false });

interface Row extends BurnInDevice {
  readonly id: string;
  readonly tag: string;
  readonly name: string;
}

/** The rig while it is exercised: how the round trips are spread, what was lost, what dropped. */
export function BurnInScreen() {
  const view = useBurnIn();
  const devices = useStatus()?.devices ?? {};
  const [isAsking, setAsking] = useState(false);
  const rows = rowsOf(view, devices);
  const measured = rows.flatMap(({ tag, low, half, high }) =>
    low === undefined || half === undefined || high === undefined ? [] : [{ tag, low, half, high }],
  );
  const stop = async () => {
    setAsking(true);
    await askLineCheck('burn-in/stop', {});
    setAsking(false);
  };
  return (
    <section className="flex min-h-full flex-col gap-3 px-4 pt-3.5 pb-3" aria-labelledby="burn-in-title">
      <div className="flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="burn-in-title">Burn-in</h1>
        <p className="text-ink-soft">Exercises the rig for a while, to find what only shows after many questions.</p>
        <span className="ml-auto flex flex-wrap gap-2.5">
          {view?.run ? (
            <Button disabled={isAsking} onClick={() => void stop()}>
              Stop burn-in
            </Button>
          ) : (
            <BurnInDialog devices={devices} />
          )}
          <Link className={buttonClass()} href="/line-check">
            Back to the line check
          </Link>
        </span>
      </div>
      {view && <RunLine view={view} />}
      {view && rows.length === 0 && (
        <EmptyState title="The rig has not been exercised yet.">
          Each device is asked a harmless question again and again. Where you allow it, commands are tried and put back.
        </EmptyState>
      )}
      {measured.length > 0 && (
        <div className="grid gap-x-8 gap-y-4 min-[1100px]:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
          <figure>
            <SpreadChart rows={measured} />
            <figcaption className="text-ink-soft">
              Round trips. Nine of ten lie within the bar, half of them left of the mark.
            </figcaption>
          </figure>
          <Figures rows={rows} />
        </div>
      )}
      {measured.length === 0 && rows.length > 0 && <Figures rows={rows} />}
    </section>
  );
}

const rowsOf = (view: BurnInView | undefined, devices: StatusView['devices']): readonly Row[] =>
  Object.entries(view?.devices ?? {})
    .map(([id, each]) => ({ id, tag: devices[id]?.tag ?? '?', name: devices[id]?.name ?? '', ...each }))
    .sort((a, b) => inNumberOrder(a.tag, b.tag));

function RunLine({ view: { run, last } }: { readonly view: BurnInView }) {
  const now = useNow();
  if (run && now > 0)
    return (
      <p role="status" className="flex flex-wrap items-center gap-x-3.5 gap-y-2 border-y border-rule py-2">
        <Progress
          label="Burn-in"
          part={Math.min(1, (now - run.startedAt) / (run.endsAt - run.startedAt))}
          className="max-w-70 flex-1"
        />
        {ageText(Math.max(0, run.endsAt - now))} left. Begun by {run.who}.
      </p>
    );
  if (!last) return null;
  return (
    <p role="status" className="text-ink-soft">
      The last one took {ageText(last.endedAt - last.startedAt)}
      {now > 0 && ` and ended ${ageText(now - last.endedAt)} ago`}.
    </p>
  );
}

const Figures = ({ rows }: { readonly rows: readonly Row[] }) => (
  <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Figures of the burn-in">
    <table className={`${tableClass} tabular-nums`}>
      <thead>
        <tr>
          <th scope="col">Device</th>
          <th scope="col">Asked</th>
          <th scope="col">Unanswered</th>
          <th scope="col">Half within</th>
          <th scope="col">95 % within</th>
          <th scope="col">Longest</th>
          <th scope="col">Drops</th>
          <th scope="col">Tried and put back</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, tag, name, asked, lost, half, high, longest, drops, trials, failed, why }) => (
          <tr key={id} className={lost + drops + failed > 0 ? 'font-semibold' : ''}>
            <th scope="row" title={name}>
              <span className="font-mono text-[0.93em] font-semibold">{tag}</span>
            </th>
            {asked === 0 && why !== undefined ? (
              <td colSpan={7} className="text-ink-soft">
                {why}
              </td>
            ) : (
              <>
                <td>{asked.toLocaleString()}</td>
                <td>{lost || '–'}</td>
                <td>{half === undefined ? '–' : durationText(half)}</td>
                <td>{high === undefined ? '–' : durationText(high)}</td>
                <td>{longest === undefined ? '–' : durationText(longest)}</td>
                <td>{drops || '–'}</td>
                <td>{trials === 0 ? '–' : failed === 0 ? trials : `${trials}, ${failed} failed`}</td>
              </>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);
