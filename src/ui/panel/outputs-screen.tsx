'use client';

import { Circle } from 'lucide-react';
import { useEffect } from 'react';
import { inNumberOrder } from '../../core/number-order';
import type { OutputView } from '../../core/outputs';
import { useConnection, useLive, useOutputs } from '../live';
import { screenTitle } from './panel-memory';
import { RunningTime } from './running-time';
import { ScreenActs } from './screen-acts';
import { useWakeLock } from './use-wake-lock';

/** Every stream and recording with its elapsed time, for producers and for the person who stops them in the evening. */
export default function OutputsScreen({ onGo }: { readonly onGo: (path: string) => void }) {
  const live = useLive();
  const outputs = useOutputs();
  const isOpen = useConnection().at === 'open';
  useWakeLock();
  useEffect(() => live.here({ title: screenTitle() }), [live]);
  const rows = Object.values(outputs ?? {}).sort((a, b) => inNumberOrder(a.tag, b.tag));
  return (
    <main className="mx-auto grid min-h-dvh w-[min(1100px,100%)] content-start gap-3 px-[3vw] py-[3dvh]">
      <h1 className="text-[24px] font-semibold">Streams and recordings</h1>
      {!outputs && <p>Connecting to the engine …</p>}
      {outputs && rows.length === 0 && <p>No device of the rig streams or records.</p>}
      <ul className="grid">
        {rows.map((each) => (
          <li
            key={each.tag}
            aria-label={`${each.tag} ${each.device}`}
            className="grid grid-cols-[minmax(0,1fr)_180px_180px_minmax(0,200px)] items-center gap-x-5 gap-y-1.5 border-b border-rule py-3 max-[700px]:grid-cols-2"
          >
            <span className="truncate text-[18px] max-[700px]:col-span-2">
              <b className="font-mono text-[0.93em]">{each.tag}</b> {each.device}
            </span>
            {isOpen && each.freshness === 'fresh' ? (
              <Known output={each} />
            ) : (
              <span className="hatch-fine px-1.5 font-semibold max-[700px]:col-span-2">not known</span>
            )}
          </li>
        ))}
      </ul>
      <p className="flex flex-wrap gap-3 pt-2">
        <button type="button" className="min-h-12 border-2 border-current px-5 font-semibold" onClick={() => onGo('')}>
          Back to the pages
        </button>
        <ScreenActs onRedraw={() => window.location.reload()} />
      </p>
    </main>
  );
}

const streamLooks = {
  off: 'text-ink-soft',
  starting: 'bg-next px-1.5 font-semibold text-next-ink',
  live: 'bg-on-air px-1.5 font-bold text-on-air-ink',
  failed: 'bg-fault px-1.5 font-bold text-fault-ink',
} as const;
const streamWords = { off: 'no stream', starting: 'STARTING', live: 'LIVE', failed: 'FAILED' } as const;

function Known({
  output: { stream, streamTime, recording, recordTime, dropped, left },
}: {
  readonly output: OutputView;
}) {
  return (
    <>
      <span>
        {stream && <span className={streamLooks[stream]}>{streamWords[stream]}</span>}{' '}
        {stream === 'live' && (
          <b className="font-mono">
            <RunningTime time={streamTime} />
          </b>
        )}
      </span>
      <span>
        {recording === true && (
          <>
            <span className="border-recording inline-flex items-center gap-1.5 rounded-[20px] border-2 px-2.5 font-bold">
              <Circle aria-hidden fill="currentColor" className="text-recording size-[0.7em]" />
              REC
            </span>{' '}
            <b className="font-mono">
              <RunningTime time={recordTime} />
            </b>
          </>
        )}
        {recording === false && <span className="text-ink-soft">not recorded</span>}
      </span>
      <span className="text-ink-soft max-[700px]:col-span-2">
        {[
          dropped === undefined || dropped === 0 ? undefined : `${dropped} frames lost`,
          left === undefined ? undefined : `${left.toFixed(0)} GB left`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </>
  );
}
