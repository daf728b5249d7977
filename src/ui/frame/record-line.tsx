'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { recordedEdit } from '../../core/macro';
import { useDesk, useShow } from '../desk';
import { useLive, useNow, useStatus } from '../live';
import { newId } from '../parts';

/** A recording of what is done by hand, in sight on every screen of the desk: how much of it there is, and a way to make a macro of it. */
export function RecordLine() {
  const live = useLive();
  const desk = useDesk();
  const router = useRouter();
  const { show } = useShow();
  const recorder = useStatus()?.recorder ?? null;
  const now = useNow();
  /** Only the desk that asked for it makes the macro. */
  const asked = useRef(false);
  useEffect(
    () =>
      live.onRecorded((heard) => {
        if (!asked.current || !show) return;
        asked.current = false;
        if (heard.length === 0) {
          desk.say(
            'Nothing was recorded: no command was sent, and no device reported that one was carried out there.',
            true,
          );
          return void live.record('forget');
        }
        const at = new Date().toTimeString().slice(0, 5);
        const edit = recordedEdit(show.records, heard, newId, `Recorded ${at}`);
        void desk.edit(edit).then((done) => {
          // Until it is stored it stays with the engine, and can be taken again.
          if (!done) return;
          live.record('forget');
          router.push(`/macros/${edit.changes[0]?.op === 'add' ? edit.changes[0].record.id : ''}`);
        });
      }),
    [live, desk, router, show],
  );
  if (!recorder) return null;
  const seconds = now === 0 ? 0 : Math.max(0, Math.floor((now - recorder.since) / 1000));
  const { steps, full, stopped } = recorder;
  return (
    <div
      className="flex items-center gap-2.5 border-r border-rule-strong pr-4.5 [&_button]:whitespace-nowrap"
      role="group"
      aria-label="Recording by hand"
    >
      <span className="font-semibold whitespace-nowrap [&_small]:block [&_small]:text-[12.5px] [&_small]:font-normal [&_small]:text-ink-soft">
        {stopped ? 'Recorded by hand' : 'Recording what is done by hand'}
        <small>
          {full ? 'full: ' : ''}
          {steps === 1 ? '1 step' : `${steps} steps`}
          {!stopped && ` · ${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`}
        </small>
      </span>
      <button
        type="button"
        onClick={() => {
          asked.current = true;
          live.record('take');
        }}
      >
        {stopped ? 'Make a macro of it' : 'Stop, make a macro'}
      </button>
      <button type="button" onClick={() => live.record('forget')}>
        Throw it away
      </button>
    </div>
  );
}
