'use client';

import { Circle } from 'lucide-react';
import { wordOf, type TallyWord } from '../../core/tally';
import { useConnection, useStatus, useTally } from '../live';

/** What the whole screen says; nothing that is not known is shown as if it were. */
type Word = TallyWord | 'cutOff';

const words: Readonly<Record<Word, string>> = {
  onAir: 'ON AIR',
  next: 'NEXT',
  clear: 'off air',
  unknown: 'NOT KNOWN',
  cutOff: 'CUT OFF',
};

/** The tally of one device over the whole screen, for the person behind the camera; or the devices to choose from. */
export function TallyScreen({ tag, onGo }: { readonly tag: string; readonly onGo: (path: string) => void }) {
  const tally = useTally();
  const connection = useConnection();
  const aim = useStatus()?.aim;
  const devices = Object.values(tally?.devices ?? {}).sort((a, b) =>
    a.tag.localeCompare(b.tag, 'en', { numeric: true }),
  );
  const device = devices.find((each) => each.tag === tag);
  if (tag !== '' && (device || !tally)) {
    const word = connection.at !== 'open' || !tally ? 'cutOff' : device ? wordOf(device) : 'unknown';
    return (
      <main className={`tally tally-${word}`}>
        <h1>
          <b>{tag}</b> {device?.name}
        </h1>
        <p className="tally-word" role="status">
          {words[word]}
        </p>
        <p className="tally-more">
          {aim === 'rehearse' && <b className="aim-word">REHEARSE · not the real switcher </b>}
          {word === 'cutOff' && 'It is not known whether this camera is on air. The screen recovers automatically.'}
          {word === 'unknown' && 'The switcher does not say. Treat it as on air.'}
          {word !== 'cutOff' && device?.recorded === true && (
            <span className="tally-rec">
              <Circle aria-hidden fill="currentColor" className="mr-[0.25em] inline size-[0.7em]" />
              REC
            </span>
          )}
        </p>
        <button type="button" onClick={() => onGo('tally')}>
          Another camera
        </button>
      </main>
    );
  }
  return (
    <main className="tally tally-choose">
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
    </main>
  );
}
