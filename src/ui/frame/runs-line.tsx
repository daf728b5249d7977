'use client';

import type { ReactNode } from 'react';
import type { RunView } from '../../core/live';
import { useLive, useNow, useRuns, useStatus } from '../live';

interface Props {
  /** On the desk it lies over the work while something runs. On a panel its room stays free as long as the show has macros: no control moves under a hand. */
  readonly lies?: 'over' | 'below';
  readonly children?: ReactNode;
}

/** Everything that runs, with how far it is, and a way to stop it. */
export function RunsLine({ lies = 'below', children }: Props) {
  const live = useLive();
  const runs = Object.entries(useRuns() ?? {});
  const { macros = 0, recorder = null } = useStatus() ?? {};
  const isRecording = children !== undefined && recorder !== null;
  const now = useNow();
  if ((macros === 0 || lies === 'over') && runs.length === 0 && !isRecording) return null;
  return (
    <section className="runs-line" aria-label="Macros that run">
      {children}
      {runs.length === 0 && !isRecording && <span className="muted">no macro runs</span>}
      {runs.map(([id, run]) => (
        <div key={id} className="run" role="group" aria-label={run.name}>
          <span className="run-name">
            {run.name}
            <small>{whereText(run)}</small>
          </span>
          <span
            className="run-bar"
            role="progressbar"
            aria-label={`Progress of ${run.name}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(shareOf(run, now) * 100)}
          >
            <i style={{ width: `${shareOf(run, now) * 100}%` }} />
          </span>
          {run.hasWayOut && !run.leaving && (
            <button type="button" onClick={() => live.endRun(id, 'way out')}>
              Way out
            </button>
          )}
          <button type="button" onClick={() => live.endRun(id, 'stop')} aria-label={`Stop ${run.name}`}>
            Stop
          </button>
        </div>
      ))}
      {lies === 'over' && runs.length > 1 && (
        <button type="button" onClick={() => live.endRun(undefined, 'stop')}>
          Stop all
        </button>
      )}
    </section>
  );
}

function whereText({ waiting, leaving, at, aim, sent, steps }: RunView): string {
  return [aim !== 'live' && aim, leaving && 'on its way out', waiting ? 'waits' : at, `${sent} of ${steps}`]
    .filter((part) => part !== false && part !== '')
    .join(' · ');
}

/** By time; what waits stands still. */
function shareOf({ startedAt, endsAt, sent, steps, waiting }: RunView, now: number): number {
  if (waiting || now === 0 || endsAt <= startedAt) return steps === 0 ? 1 : Math.min(1, sent / steps);
  return Math.max(0, Math.min(1, (now - startedAt) / (endsAt - startedAt)));
}
