/** The position of a stick, from -1 to 1, right and up positive. */
export interface StickPlace {
  readonly x: number;
  readonly y: number;
}

export const stickMiddle: StickPlace = { x: 0, y: 0 };

/** What a stick moves on. */
export const StickPad = ({ at }: { readonly at: StickPlace }) => (
  <span
    className="stick-pad relative m-2 min-h-24 flex-1 border-2 border-rule-strong [&_i]:absolute [&_i]:h-11 [&_i]:w-11 [&_i]:transform-[translate(-50%,-50%)_rotate(45deg)] [&_i]:border-4 [&_i]:border-ink-soft [&_i]:bg-tape [&_i[data-off]]:border-accent"
    aria-hidden
  >
    <i style={{ left: `${50 + at.x * 38}%`, top: `${50 - at.y * 38}%` }} data-off={at !== stickMiddle || undefined} />
  </span>
);
