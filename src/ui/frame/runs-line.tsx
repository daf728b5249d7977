'use client';

import type { ReactNode } from 'react';
import type { GlideView, RunView } from '../../core/live';
import { useEngineTime, useLive, useNow, useRuns, useStatus } from '../live';

/** Glides that are shorter are not in the strip. */
const shortestMs = 1000;

interface Props {
  /** On the desk: what else goes on, before the runs. */
  readonly children?: ReactNode;
}

/**
 * Everything that runs, with how far it is, and a way to stop it. It lies over the foot of the screen while something runs, so that no control
 * moves under a hand; on a panel that is the line of the last press, whose outcome is also in its control.
 */
export function RunsLine({ children }: Props) {
  const live = useLive();
  const runs = Object.entries(useRuns() ?? {});
  const { recorder = null, glides: all = [] } = useStatus() ?? {};
  // What is over before anybody could read it only flickers.
  const glides = all.filter(({ at, endsAt }) => endsAt === undefined || endsAt - at > shortestMs);
  const isRecording = children !== undefined && recorder !== null;
  const now = useNow();
  if (runs.length + glides.length === 0 && !isRecording) return null;
  return (
    <section
      className="runs-line flex min-h-13 items-center gap-x-4.5 gap-y-1.5 overflow-x-auto border-t border-rule-strong bg-raised px-3 py-0.75 in-[:is(.panel,.desk)]:fixed in-[:is(.panel,.desk)]:inset-x-0 in-[:is(.panel,.desk)]:bottom-0 in-[:is(.panel,.desk)]:z-5 [&_button]:min-h-11 [&_button]:min-w-16 [&_button]:border [&_button]:border-rule-strong [&_button]:px-3 [&_button]:py-0"
      aria-label="What runs"
    >
      {children}
      {runs.map(([id, run]) => (
        <div key={id} className="flex items-center gap-2.5" role="group" aria-label={run.name}>
          <span className="font-semibold whitespace-nowrap [&_small]:block [&_small]:text-[12.5px] [&_small]:font-normal [&_small]:text-ink-soft">
            {run.name}
            <small>{whereText(run)}</small>
          </span>
          <span
            className="h-2 w-32.5 border border-rule-strong [&_i]:block [&_i]:h-full [&_i]:bg-accent [&_i]:[transition:width_1s_linear]"
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
      {glides.map((glide) => (
        <GlideRun key={glide.id} glide={glide} />
      ))}
      {children !== undefined && runs.length + glides.length > 1 && (
        <button type="button" onClick={() => live.endRun(undefined, 'stop')}>
          Stop all
        </button>
      )}
    </section>
  );
}

/** A snapshot on its way, with a way to stop it. */
function GlideRun({ glide }: { readonly glide: GlideView }) {
  const { id, name, aim, share, at, endsAt, isBack } = glide;
  const live = useLive();
  const now = useEngineTime(100, endsAt !== undefined);
  const gone =
    endsAt === undefined || endsAt <= at || now === 0 ? 0 : Math.max(0, Math.min(1, (now - at) / (endsAt - at)));
  const part = isBack ? share * (1 - gone) : share + (1 - share) * gone;
  return (
    <div className="flex items-center gap-2.5" role="group" aria-label={name}>
      <span className="font-semibold whitespace-nowrap [&_small]:block [&_small]:text-[12.5px] [&_small]:font-normal [&_small]:text-ink-soft">
        {name}
        <small>
          {[aim !== 'live' && aim, endsAt === undefined ? 'held' : isBack ? 'runs back' : 'glides']
            .filter(Boolean)
            .join(' · ')}
        </small>
      </span>
      <span
        className="h-2 w-32.5 border border-rule-strong [&_i]:block [&_i]:h-full [&_i]:bg-accent"
        role="progressbar"
        aria-label={`Progress of ${name}`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(part * 100)}
      >
        <i style={{ width: `${part * 100}%` }} />
      </span>
      <button type="button" onClick={() => live.endRun(id, 'stop')} aria-label={`Stop ${name}`}>
        Stop
      </button>
    </div>
  );
}

function whereText({ waiting, leaving, at, aim, sent, steps }: RunView): string {
  return [aim !== 'live' && aim, leaving && 'on its way out', waiting ? 'waits' : at, `${sent} of ${steps}`]
    .filter((part) => part !== false && part !== '')
    .join(' · ');
}

/** By time; a run that waits does not advance. */
function shareOf({ startedAt, endsAt, sent, steps, waiting }: RunView, now: number): number {
  if (waiting || now === 0 || endsAt <= startedAt) return steps === 0 ? 1 : Math.min(1, sent / steps);
  return Math.max(0, Math.min(1, (now - startedAt) / (endsAt - startedAt)));
}
