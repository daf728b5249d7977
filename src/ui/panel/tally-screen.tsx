'use client';

import { Circle } from 'lucide-react';
import { inNumberOrder } from '../../core/number-order';
import { wordOf, type TallyWord } from '../../core/tally';
import { useEffect } from 'react';
import { useConnection, useLive, useStatus, useTally } from '../live';
import { screenTitle } from './panel-memory';
import { ScreenActs } from './screen-acts';
import { useWakeLock } from './use-wake-lock';

/** What the whole screen says; nothing that is not known is shown as if it were. */
type Word = TallyWord | 'cutOff';

const words: Readonly<Record<Word, string>> = {
  onAir: 'ON AIR',
  next: 'NEXT',
  clear: 'off air',
  unknown: 'NOT KNOWN',
  cutOff: 'CUT OFF',
};

const screenClass =
  'min-h-dvh flex flex-col items-center justify-center gap-[4dvh] py-[4dvh] px-[5vw] text-center [&_h1]:text-[length:clamp(20px,6vmin,44px)] [&_h1]:font-semibold [&_button]:min-h-12 [&_button]:px-5.5 [&_button]:border-2 [&_button]:border-current [&_button]:font-semibold';

const hatched = 'hatch-wide text-ink [&>*]:bg-ground [&>*]:px-[0.2em]';
const wordClass: Record<keyof typeof words, string> = {
  onAir: 'bg-on-air text-on-air-ink',
  next: 'bg-next text-next-ink',
  clear: 'bg-ground text-ink-soft',
  unknown: hatched,
  cutOff: hatched,
};

/** The tally of one device over the whole screen, for the person behind the camera; or the devices to choose from. */
export function TallyScreen({ tag, onGo }: { readonly tag: string; readonly onGo: (path: string) => void }) {
  const live = useLive();
  const tally = useTally();
  const connection = useConnection();
  const aim = useStatus()?.aim;
  const devices = Object.values(tally?.devices ?? {}).sort((a, b) => inNumberOrder(a.tag, b.tag));
  const device = devices.find((each) => each.tag === tag);
  useWakeLock();
  useEffect(() => live.here({ title: screenTitle(), tally: tag }), [live, tag]);
  if (tag !== '' && (device || !tally)) {
    const word = connection.at !== 'open' || !tally ? 'cutOff' : device ? wordOf(device) : 'unknown';
    return (
      <main data-tally={word} className={`${screenClass} ${wordClass[word]}`}>
        <h1>
          <b>{tag}</b> {device?.name}
        </h1>
        <p
          className="text-[length:clamp(56px,26vmin,300px)] leading-[1] font-extrabold font-stretch-[75%]"
          role="status"
        >
          {words[word]}
        </p>
        <p className="min-h-[2em] text-[length:clamp(16px,4vmin,28px)]">
          {aim === 'rehearse' && (
            <b className="bg-warning px-2 py-0.5 font-bold text-warning-ink">REHEARSE · not the real switcher </b>
          )}
          {word === 'cutOff' && 'It is not known whether this camera is on air. The screen recovers automatically.'}
          {word === 'unknown' && 'The switcher does not say. Treat it as on air.'}
          {word !== 'cutOff' && device?.recorded === true && (
            <span className="rounded-[30px] border-3 border-current px-4 py-1 font-bold">
              <Circle aria-hidden fill="currentColor" className="mr-[0.25em] inline size-[0.7em]" />
              REC
            </span>
          )}
        </p>
        <button type="button" onClick={() => onGo('tally')}>
          Another camera
        </button>
        <ScreenActs onRedraw={() => window.location.reload()} />
      </main>
    );
  }
  return (
    <main
      className={`${screenClass} [&_ul]:grid [&_ul]:w-[min(420px,100%)] [&_ul]:gap-2.5 [&_ul_button]:w-full [&_ul_button]:text-left`}
    >
      <h1>Tally</h1>
      {tag !== '' && <p>There is no device “{tag}” that feeds a switcher.</p>}
      {devices.length === 0 && tally && (
        <p>No device feeds a switcher yet. Set it in the rig, in the switcher’s tab “Sources”.</p>
      )}
      {!tally && <p>Connecting to the engine …</p>}
      <ul>
        {devices.map((each) => (
          <li key={each.tag}>
            <button type="button" onClick={() => onGo(`tally/${each.tag}`)}>
              <b>{each.tag}</b> {each.name}
            </button>
          </li>
        ))}
      </ul>
      <button type="button" onClick={() => onGo('')}>
        Back to the pages
      </button>
      <ScreenActs onRedraw={() => window.location.reload()} />
    </main>
  );
}
