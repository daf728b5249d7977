import type { CSSProperties } from 'react';

interface Props {
  readonly dial: boolean;
  /** A fader that lies on its side. */
  readonly isLying?: boolean;
  /** The position along its range, 0 to 1; `undefined` when it is not known. */
  readonly part: number | undefined;
}

/** True for a fader that is wider than high: it goes from left to right. */
export const lies = ({ cols, rows }: { readonly cols: number; readonly rows: number }): boolean => cols > rows;

/** The class names of a fader's track, of what lies behind its handle, and of the handle. */
const upright = {
  track:
    'mx-[22%] my-1.5 min-h-15 flex-1 before:absolute before:inset-x-[calc(50%_-_2px)] before:inset-y-0 before:bg-rule-strong',
  behind: 'inset-x-[calc(50%_-_2px)] bottom-0 h-[calc(var(--part)_*_100%)]',
  handle: 'inset-x-0 bottom-[calc(var(--part)_*_100%_-_11px)] h-5.5 border-y-[6px]',
};
const lying = {
  track:
    'mx-3.5 my-1 h-full max-h-11 min-h-7 self-center bg-none! before:absolute before:inset-x-0 before:inset-y-[calc(50%_-_2px)] before:bg-rule-strong',
  behind: 'inset-y-[calc(50%_-_2px)] left-0 w-[calc(var(--part)_*_100%)]',
  handle: 'inset-y-0 left-[calc(var(--part)_*_100%_-_11px)] w-5.5 border-x-[6px]',
};

/** The track of a fader or a dial, with its position. */
export function RangeTrack({ dial, isLying = false, part }: Props) {
  if (!dial) {
    const { track, behind, handle } = isLying ? lying : upright;
    return (
      <span className={`range-track relative ${track}`} style={{ '--part': part } as CSSProperties} aria-hidden>
        {part !== undefined && (
          <>
            <i className={`absolute bg-accent ${behind}`} />
            <b className={`absolute border-2 border-ink bg-ground ${handle}`} />
          </>
        )}
      </span>
    );
  }
  return (
    <svg
      className="range-track relative m-1 min-h-0 w-[calc(100%_-_8px)] flex-1 [background:none] before:absolute before:inset-x-[calc(50%_-_2px)] before:inset-y-0 before:bg-rule-strong [&_path]:fill-[none] [&_path]:stroke-rule-strong [&_path]:stroke-[7px]"
      viewBox="-50 -50 100 100"
      aria-hidden
    >
      <path className="dial-rim" d={arc(1)} />
      {part !== undefined && <path className="stroke-accent" d={arc(Math.max(0.001, part))} />}
      {part !== undefined && <path className="stroke-ink stroke-[6px]" d={handPath(part)} />}
    </svg>
  );
}

/** From the left end, of three quarters of a circle that is open below. */
function arc(to: number): string {
  const [x1, y1] = onRim(0, 38);
  const [x2, y2] = onRim(to, 38);
  return `M${x1} ${y1}A38 38 0 ${to * 270 > 180 ? 1 : 0} 1 ${x2} ${y2}`;
}

const handPath = (part: number): string => {
  const [x1, y1] = onRim(part, 16);
  const [x2, y2] = onRim(part, 38);
  return `M${x1} ${y1}L${x2} ${y2}`;
};

function onRim(part: number, radius: number): readonly [string, string] {
  const angle = ((135 + part * 270) * Math.PI) / 180;
  return [(Math.cos(angle) * radius).toFixed(2), (Math.sin(angle) * radius).toFixed(2)];
}
