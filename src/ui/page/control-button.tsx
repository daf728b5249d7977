'use client';

import type { CSSProperties, PointerEvent } from 'react';
import type { FaceView } from '../../core/live';
import type { PressMark } from '../live';
import { LampBar, lampWords } from './lamp-bar';
import { OutcomeMark } from './outcome-mark';

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
  readonly onPress: (id: string) => void;
}

/** A control: a strip of label tape under a lamp bar. It fires on pointer-down, not on release. */
export function ControlButton({ id, face, mark, style, disabled, chosen, editing, single, onPress }: Props) {
  const label = face.segments.map((segment) => segment.text).join('');
  const doubt = face.segments.find((segment) => segment.doubt)?.doubt;
  const state = lampWords(face.lamp);
  const onPointerDown = (event: PointerEvent<HTMLButtonElement>) => {
    if (event.button !== 0 || disabled) return;
    onPress(id);
  };
  return (
    <button
      type="button"
      className={`control control-${face.lamp.show}`}
      style={style}
      disabled={disabled}
      data-control={id}
      data-lamp={face.lamp.show}
      data-single={single || undefined}
      aria-pressed={editing ? chosen : undefined}
      aria-label={[label, state, doubt ? `label ${doubt}` : ''].filter(Boolean).join(', ')}
      onPointerDown={onPointerDown}
      // The keyboard and assistive tools click without a pointer before.
      onClick={(event) => event.detail === 0 && onPress(id)}
      onContextMenu={(event) => event.preventDefault()}
    >
      <LampBar lamp={face.lamp} />
      <span className={`tape ${doubt ? `tape-${doubt}` : ''}`}>
        <span className="tape-label" style={{ '--chars': charsOf(label) } as CSSProperties}>
          {label}
        </span>
        {mark && <OutcomeMark key={mark.control} mark={mark} />}
      </span>
    </button>
  );
}

/** About how many characters the widest of two lines has: the label's size is made to fit that. */
function charsOf(label: string): number {
  const longestWord = Math.max(0, ...label.split(/\s+/).map((word) => word.length));
  return Math.max(4, longestWord, Math.ceil(label.length / 2));
}
