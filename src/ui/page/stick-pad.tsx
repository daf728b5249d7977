import type { ControlView } from '../../core/live';

/** The position of a stick, from -1 to 1, right and up positive. */
export interface StickPlace {
  readonly x: number;
  readonly y: number;
}

export const stickMiddle: StickPlace = { x: 0, y: 0 };

interface Props {
  readonly at: StickPlace;
  /** One way only: it is a rocker. */
  readonly axes?: ControlView['axes'];
}

/** What a stick moves on; a rocker has a line across its middle, where it springs back to. */
export const StickPad = ({ at, axes }: Props) => (
  <span
    className="stick-pad relative m-2 min-h-16 flex-1 border-2 border-rule-strong data-[axes=across]:min-h-16 [&_i]:absolute [&_i]:h-11 [&_i]:w-11 [&_i]:transform-[translate(-50%,-50%)_rotate(45deg)] [&_i]:border-4 [&_i]:border-ink-soft [&_i]:bg-tape [&_i[data-off]]:border-accent"
    data-axes={axes}
    aria-hidden
  >
    {axes === 'along' && <span className="absolute inset-x-0 top-1/2 border-t border-rule" />}
    {axes === 'across' && <span className="absolute inset-y-0 left-1/2 border-l border-rule" />}
    <i style={{ left: `${50 + at.x * 38}%`, top: `${50 - at.y * 38}%` }} data-off={at !== stickMiddle || undefined} />
  </span>
);
