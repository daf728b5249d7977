'use client';

import { useEffect } from 'react';
import { inNumberOrder } from '../../core/number-order';
import type { ClockView } from '../../core/timers';
import { useClocks, useConnection, useEngineTime, useLive, useStatus } from '../live';
import { screenTitle } from './panel-memory';
import { RunningTime } from './running-time';
import { ScreenActs } from './screen-acts';
import { useWakeLock } from './use-wake-lock';

interface Props {
  readonly tag: string;
  readonly onGo: (path: string) => void;
}

/** A full-screen clock for people who speak or wait, or the list of clocks to choose from. */
export default function ClockScreen({ tag, onGo }: Props) {
  const live = useLive();
  const clocks = useClocks();
  const clock = Object.values(clocks ?? {}).find((each) => each.tag === tag);
  useWakeLock();
  useEffect(() => live.here({ title: screenTitle(), clock: tag }), [live, tag]);
  if (clock) return <Face clock={clock} onGo={onGo} />;
  if (tag !== '' && !clocks)
    return <main className="grid min-h-dvh place-content-center">Connecting to the engine …</main>;
  return (
    <main className="grid min-h-dvh place-content-center gap-4 px-[5vw] py-[4dvh] text-center">
      <h1 className="text-[24px] font-semibold">Clocks</h1>
      <TimeOfDay />
      {tag !== '' && <p>There is no clock “{tag}” in the rig.</p>}
      {clocks && Object.keys(clocks).length === 0 && (
        <p>No clock is in the rig yet. Add one with the driver “Timers of this program”.</p>
      )}
      <ul className="grid w-[min(900px,94vw)] gap-2.5">
        {Object.values(clocks ?? {})
          .sort((a, b) => inNumberOrder(a.tag, b.tag))
          .map((each) => (
            <li key={each.tag}>
              <Row clock={each} onGo={onGo} />
            </li>
          ))}
      </ul>
      <p className="flex flex-wrap justify-center gap-3">
        <button type="button" className={actClass} onClick={() => onGo('')}>
          Back to the pages
        </button>
        <ScreenActs onRedraw={() => window.location.reload()} />
      </p>
    </main>
  );
}

const actClass = 'min-h-12 border-2 border-current px-5 font-semibold';

/** One clock among all of them: what it shows now, and the way to it alone. */
function Row({ clock, onGo }: { readonly clock: ClockView; readonly onGo: Props['onGo'] }) {
  const isKnown = useConnection().at === 'open' && clock.freshness === 'fresh';
  const look: Look = isKnown ? clock.phase : 'doubt';
  return (
    <button
      type="button"
      className={`grid min-h-14 w-full grid-cols-[minmax(0,1fr)_auto] items-center gap-x-5 border-2 border-current px-4 py-1.5 text-left ${looks[look]} border-t-2!`}
      onClick={() => onGo(`clock/${clock.tag}`)}
    >
      <span className="min-w-0">
        <span className="block truncate">
          <b>{clock.tag}</b> {clock.device}
        </span>
        {clock.name !== '' && <span className="block truncate text-[14px]">{clock.name}</span>}
      </span>
      <span className="text-right">
        {isKnown && clock.phase !== 'empty' && (
          <b className="font-mono text-[22px]">
            <RunningTime time={clock.left} isCountdown />
          </b>
        )}{' '}
        <span className="text-[14px]">{words[look]}</span>
      </span>
    </button>
  );
}

/** The time of day, by the clock of the engine’s computer. */
function TimeOfDay() {
  const now = useEngineTime(250);
  return (
    <p className="font-mono text-[length:clamp(40px,12vmin,110px)] leading-none font-bold tabular-nums">
      {now === 0
        ? '––:––:––'
        : new Date(now).toLocaleTimeString([], {
            hour: '2-digit',
            minute: '2-digit',
            second: '2-digit',
            hour12: false,
          })}
    </p>
  );
}

/** What the whole screen says of a timer. What is over is inverted, so that it is seen from the far end of a hall. */
type Look = ClockView['phase'] | 'doubt';
const words: Readonly<Record<Look, string>> = {
  empty: 'No timer',
  ready: 'Ready',
  running: 'Running',
  warning: 'Time is nearly up',
  over: 'Over time',
  paused: 'Paused',
  doubt: 'Not known',
};
const looks: Readonly<Record<Look, string>> = {
  empty: 'bg-ground text-ink-soft',
  ready: 'bg-ground text-ink border-t-[2dvh] border-next',
  running: 'bg-ground text-ink border-t-[2dvh] border-accent',
  warning: 'bg-warning text-warning-ink',
  over: 'bg-ink text-ground',
  paused: 'bg-ground text-ink border-t-[2dvh] border-rule-strong',
  doubt: 'hatch-wide text-ink [&>*]:bg-ground [&>*]:px-[0.2em]',
};

function Face({ clock, onGo }: { readonly clock: ClockView; readonly onGo: (path: string) => void }) {
  const connection = useConnection();
  const aim = useStatus()?.aim;
  const isKnown = connection.at === 'open' && clock.freshness === 'fresh';
  const look: Look = isKnown ? clock.phase : 'doubt';
  const next = [clock.next, clock.nextSpeaker].filter(Boolean).join(', ');
  return (
    <main
      data-clock={look}
      className={`grid min-h-dvh grid-rows-[auto_1fr_auto] justify-items-center gap-[2dvh] px-[4vw] py-[3dvh] text-center ${looks[look]}`}
    >
      <h1 className="text-[length:clamp(22px,6vmin,64px)] leading-tight font-semibold">
        {clock.name || clock.device}
        {clock.speaker !== '' && <span className="font-normal"> · {clock.speaker}</span>}
      </h1>
      <div className="grid place-content-center gap-[2dvh]">
        <p role="timer" className="font-mono text-[length:clamp(64px,24vw,60dvh)] leading-none font-bold tabular-nums">
          {isKnown && clock.phase !== 'empty' ? <RunningTime time={clock.left} isCountdown /> : '–:––'}
        </p>
        <p role="status" className="text-[length:clamp(18px,5vmin,48px)] font-semibold">
          {words[look]}
        </p>
        {isKnown && clock.message !== '' && (
          <p className="mx-auto bg-accent px-[0.5em] py-[0.15em] text-[length:clamp(20px,6vmin,60px)] font-semibold text-accent-ink">
            {clock.message}
          </p>
        )}
      </div>
      <footer className="grid w-full justify-items-center gap-2">
        <p className="min-h-[1.4em] text-[length:clamp(16px,3.5vmin,32px)]">
          {aim === 'rehearse' && <b>REHEARSE · </b>}
          {!isKnown && 'It is not known what the clock shows. The screen recovers automatically.'}
          {isKnown && next !== '' && clock.phase !== 'ready' && `Next: ${next}`}
        </p>
        <p className="flex flex-wrap justify-center gap-3">
          <button type="button" className={actClass} onClick={() => onGo('clock')}>
            Another clock
          </button>
          <ScreenActs onRedraw={() => window.location.reload()} />
        </p>
      </footer>
    </main>
  );
}
