'use client';

import { useEffect, useState } from 'react';
import type { ScreenAct } from '../../core/live';
import { withPick, withShift, type PageContext } from '../../core/page';
import { useLive } from '../live';

interface Props {
  /** A screen without pages leaves these out. */
  readonly onGo?: (page: string) => void;
  readonly onRedraw: () => void;
  /** A page is looked at in another way. */
  readonly onLook?: (page: string, change: (before: PageContext) => PageContext) => void;
  readonly onDim?: (brightness: number) => void;
}

const calledMs = 6000;

/** What the desk has this screen do: say which one it is, go to a page, show a note, draw itself anew, or close. */
export function ScreenActs({ onGo, onRedraw, onLook, onDim }: Props) {
  const live = useLive();
  const [called, setCalled] = useState<string>();
  const [note, setNote] = useState<Extract<ScreenAct, { do: 'note' }>>();
  const [closed, setClosed] = useState(false);
  useEffect(
    () =>
      live.onAct((act) => {
        if (act.do === 'call out') setCalled(act.name);
        else if (act.do === 'go') onGo?.(act.page);
        else if (act.do === 'note') setNote(act);
        else if (act.do === 'redraw') onRedraw();
        else if (act.do === 'shift') onLook?.(act.page, (before) => withShift(before, act.shift));
        else if (act.do === 'pick') onLook?.(act.page, (before) => withPick(before, act.zone, act.device));
        else if (act.do === 'dim') onDim?.(act.brightness);
        else {
          setClosed(true);
          live.stop();
        }
      }),
    [live, onGo, onRedraw, onLook, onDim],
  );
  useEffect(() => {
    if (called === undefined) return;
    const timer = setTimeout(() => setCalled(undefined), calledMs);
    return () => clearTimeout(timer);
  }, [called]);
  if (closed)
    return (
      <div
        className="fixed inset-0 z-20 grid place-content-center justify-items-center gap-5 bg-ground p-5 text-center text-[length:clamp(22px,5vw,44px)] [&_button]:min-h-14 [&_button]:bg-ink [&_button]:px-6.5 [&_button]:text-[18px] [&_button]:font-bold [&_button]:text-ground"
        role="alert"
      >
        <p>This panel was closed at the desk.</p>
        <button type="button" onClick={() => window.location.reload()}>
          Open it again
        </button>
      </div>
    );
  return (
    <>
      {called !== undefined && (
        <div
          className="fixed inset-0 z-20 grid animate-[call_0.9s_steps(1)_infinite] place-content-center justify-items-center gap-5 bg-ink p-5 text-center text-[length:clamp(22px,5vw,44px)] text-ground motion-reduce:animate-none [&_button]:min-h-14 [&_button]:bg-ink [&_button]:px-6.5 [&_button]:text-[18px] [&_button]:font-bold [&_button]:text-ground"
          role="alert"
          onPointerDown={() => setCalled(undefined)}
        >
          <p>
            This is <b>{called}</b>
          </p>
        </div>
      )}
      {note && (
        <div
          className="screen-note fixed inset-x-0 bottom-0 z-19 flex flex-wrap items-center justify-between gap-x-7.5 gap-y-3 border-t-4 border-ink bg-raised px-5 pt-4 pb-[calc(16px_+_env(safe-area-inset-bottom))] text-[22px] font-semibold over-runs:bottom-[53px] [&_button]:min-h-14 [&_button]:bg-ink [&_button]:px-6.5 [&_button]:text-[18px] [&_button]:font-bold [&_button]:text-ground"
          role="alert"
        >
          <p>{note.text}</p>
          <button
            type="button"
            onClick={() => {
              live.seen(note.id);
              setNote(undefined);
            }}
          >
            Seen
          </button>
        </div>
      )}
    </>
  );
}
