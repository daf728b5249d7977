'use client';

import { useEffect, useState } from 'react';
import type { ScreenAct } from '../../core/live';
import { withPick, withShift, type PageContext } from '../../core/page';
import { useLive } from '../live';

interface Props {
  readonly onGo: (page: string) => void;
  readonly onRedraw: () => void;
  /** A page is looked at in another way. */
  readonly onLook: (page: string, change: (before: PageContext) => PageContext) => void;
  readonly onDim: (brightness: number) => void;
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
        else if (act.do === 'go') onGo(act.page);
        else if (act.do === 'note') setNote(act);
        else if (act.do === 'redraw') onRedraw();
        else if (act.do === 'shift') onLook(act.page, (before) => withShift(before, act.shift));
        else if (act.do === 'pick') onLook(act.page, (before) => withPick(before, act.zone, act.device));
        else if (act.do === 'dim') onDim(act.brightness);
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
      <div className="screen-over" role="alert">
        <p>This panel was closed at the desk.</p>
        <button type="button" onClick={() => window.location.reload()}>
          Open it again
        </button>
      </div>
    );
  return (
    <>
      {called !== undefined && (
        <div className="screen-over screen-called" role="alert" onPointerDown={() => setCalled(undefined)}>
          <p>
            This is <b>{called}</b>
          </p>
        </div>
      )}
      {note && (
        <div className="screen-note" role="alert">
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
