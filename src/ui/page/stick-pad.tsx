/** The position of a stick, from -1 to 1, right and up positive. */
export interface StickPlace {
  readonly x: number;
  readonly y: number;
}

export const stickMiddle: StickPlace = { x: 0, y: 0 };

/** What a stick moves on. */
export const StickPad = ({ at }: { readonly at: StickPlace }) => (
  <span className="stick-pad" aria-hidden>
    <i style={{ left: `${50 + at.x * 38}%`, top: `${50 - at.y * 38}%` }} data-off={at !== stickMiddle || undefined} />
  </span>
);
