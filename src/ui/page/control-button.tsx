'use client';

import { useNow } from '../live';
import { Face, faceWords } from './face';
import type { LiveControlProps } from './live-control';
import { OutcomeMark } from './outcome-mark';
import { guardMs, useHand } from './use-hand';

/** A control: a strip of label tape under a lamp bar. It fires on pointer-down, unless it is guarded. */
export function ControlButton({ id, face, view, mark, disabled, onPress, onHold }: LiveControlProps) {
  const { guarded, twice, pressable } = view;
  const { element, filling, armed, held, handlers } = useHand({
    disabled,
    guarded,
    twice,
    onPress: (guard) => onPress(id, guard),
    onHold: onHold && ((guard) => onHold(id, guard)),
  });
  const asks = view.asks ? 'asks' : '';
  const how = twice ? (armed ? 'press again' : 'press twice') : guarded ? 'hold to send' : onHold ? 'while held' : asks;
  return (
    <button
      ref={element}
      type="button"
      className={`control control-${face.lamp.show}`}
      // A button that is disabled under a hand would not hear of its letting go.
      disabled={disabled && !held}
      data-control={id}
      data-lamp={face.lamp.show}
      data-single={(view.cols === 1 && view.rows === 1) || undefined}
      data-readout={!pressable || undefined}
      aria-label={faceWords(face, how)}
      {...handlers}
      onContextMenu={(event) => event.preventDefault()}
    >
      <Face face={face} view={view}>
        {face.offAt !== undefined && <OffIn at={face.offAt} />}
        {face.runs && (
          <span className="absolute right-1.5 bottom-1 bg-ink px-1.25 text-[12px] font-[650] text-ground">runs</span>
        )}
        {mark && <OutcomeMark key={mark.control} mark={mark} />}
      </Face>
      {how && (
        <span
          className={`grip ${guarded ? 'grip-guard' : ''}`}
          data-filling={filling || armed || undefined}
          aria-hidden
        >
          <i style={{ transitionDuration: `${filling ? guardMs : 150}ms` }} />
          <b>{how}</b>
        </span>
      )}
    </button>
  );
}

/** In how many seconds what it has brought about undoes itself. */
function OffIn({ at }: { readonly at: number }) {
  const now = useNow();
  const seconds = Math.ceil((at - now) / 1000);
  return now === 0 || seconds <= 0 ? null : (
    <span className="absolute right-1.5 bottom-1 bg-ink px-1.25 text-[12px] font-[650] text-ground">
      off in {seconds} s
    </span>
  );
}
