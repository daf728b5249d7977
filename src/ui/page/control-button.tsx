'use client';

import type { CSSProperties } from 'react';
import type { FaceView } from '../../core/live';
import type { PressMark } from '../live';
import { LampBar, lampWords } from './lamp-bar';
import { OutcomeMark } from './outcome-mark';
import { SegmentText } from './segment-text';
import { guardMs, useHand } from './use-hand';

interface Props {
  readonly id: string;
  readonly face: FaceView;
  readonly mark?: PressMark;
  readonly style?: CSSProperties;
  readonly disabled?: boolean;
  /** While editing: chosen for the form; a press chooses and does nothing else. */
  readonly chosen?: boolean;
  readonly editing?: boolean;
  /** Covers one cell only: it then keeps its shape. */
  readonly single?: boolean;
  /** It has no response and only shows. */
  readonly readout?: boolean;
  /** It has to be held until its bar is full. */
  readonly guarded?: boolean;
  readonly onPress: (id: string, guard: boolean) => void;
  /** Where given, what it starts goes on while it is held. */
  readonly onHold?: (id: string, guard: boolean) => () => void;
}

/** A control: a strip of label tape under a lamp bar. It fires on pointer-down, unless it is guarded. */
export function ControlButton(props: Props) {
  const { id, face, mark, style, disabled, chosen, editing, single, readout, guarded, onPress, onHold } = props;
  const label = face.segments.map((segment) => segment.text).join('');
  const doubt = face.segments.find((segment) => segment.doubt)?.doubt;
  const state = lampWords(face.lamp);
  const { filling, handlers } = useHand({
    disabled,
    guarded: guarded && !editing,
    onPress: (guard) => onPress(id, guard),
    onHold: onHold && ((guard) => onHold(id, guard)),
  });
  const how = guarded ? 'hold to send' : onHold ? 'while held' : '';
  return (
    <button
      type="button"
      className={`control control-${face.lamp.show}`}
      style={style}
      disabled={disabled}
      data-control={id}
      data-lamp={face.lamp.show}
      data-single={single || undefined}
      data-readout={readout || undefined}
      aria-pressed={editing ? chosen : undefined}
      aria-label={[label, state, doubt ? `label ${doubt}` : '', how].filter(Boolean).join(', ')}
      {...handlers}
      onContextMenu={(event) => event.preventDefault()}
    >
      <LampBar lamp={face.lamp} />
      <span className={`tape ${doubt ? `tape-${doubt}` : ''}`}>
        <span
          className="tape-label"
          style={{ '--chars': charsOf(label), '--lines': /\s/.test(label) ? 2 : 1.25 } as CSSProperties}
        >
          {face.segments.map((segment, n) => (
            <SegmentText key={n} segment={segment} />
          ))}
        </span>
        {mark && <OutcomeMark key={mark.control} mark={mark} />}
      </span>
      {how && (
        <span className={`grip ${guarded ? 'grip-guard' : ''}`} data-filling={filling || undefined} aria-hidden>
          <i style={{ transitionDuration: `${filling ? guardMs : 150}ms` }} />
          <b>{how}</b>
        </span>
      )}
    </button>
  );
}

/** About how many characters the widest of two lines has: the label's size is made to fit that. */
function charsOf(label: string): number {
  const longestWord = Math.max(0, ...label.split(/\s+/).map((word) => word.length));
  return Math.max(4, longestWord, Math.ceil(label.length / 2));
}
