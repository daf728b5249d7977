import type { CSSProperties } from 'react';
import { StarIcon } from 'lucide-react';
import type { PresetTile } from '../../core/preset';

/** Tiles side by side: as many as fit, or as many as the page says. */
export const presetGridClass =
  'preset-tiles grid min-h-0 flex-1 auto-rows-max grid-cols-[repeat(auto-fill,minmax(110px,1fr))] content-start gap-1.5 overflow-auto p-1.5 text-left touch-pan-y';

export const columnsOf = (columns: number | undefined): CSSProperties | undefined =>
  columns === undefined ? undefined : { gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` };

/** One preset: its picture, and its name on a strip below. A border says that the camera is there, a dashed one that it is on its way. */
export const presetTileClass =
  'relative flex min-h-16 min-w-0 flex-col border-2 border-rule bg-raised text-left data-[mark=called]:border-dashed data-[mark=called]:border-accent data-[mark=reached]:border-accent data-[mark=missed]:border-ink disabled:opacity-55';

const markWords = { reached: 'there', called: 'on the way', missed: 'not reached' } as const;
const markClass = {
  reached: 'bg-accent text-accent-ink',
  called: 'bg-raised text-ink outline-1 outline-dashed outline-accent',
  missed: 'bg-fault text-fault-ink',
} as const;

/** What is shown of a preset. */
export const PresetFace = ({ tile }: { readonly tile: PresetTile }) => (
  <>
    <span className="relative block aspect-[16/9] w-full overflow-hidden bg-ground">
      {tile.picture ? (
        <img
          src={`/pictures/${tile.picture}`}
          alt=""
          draggable={false}
          loading="lazy"
          className="absolute inset-0 h-full w-full object-cover"
        />
      ) : (
        <span className="absolute inset-0 grid place-items-center text-[13px] text-ink-soft">
          {tile.empty ? 'empty' : 'no picture'}
        </span>
      )}
      {tile.mark && (
        <em className={`absolute top-0 right-0 px-1.5 text-[13px] font-bold not-italic ${markClass[tile.mark]}`}>
          {markWords[tile.mark]}
        </em>
      )}
      {tile.onAir && tile.tag && (
        <em className="absolute bottom-0 left-0 bg-on-air px-1.5 text-[12px] font-bold text-on-air-ink not-italic">
          on air
        </em>
      )}
    </span>
    <span
      className={`flex min-h-7 items-center gap-1.5 border-t border-rule px-1.5 text-[14px] ${tile.doubt && !tile.empty ? `tape-${tile.doubt}` : ''}`}
    >
      <span className="font-mono text-[13px] text-ink-soft">
        {tile.tag && `${tile.tag} `}
        {tile.number}
      </span>
      <b className={`min-w-0 flex-1 truncate ${tile.empty ? 'font-normal text-ink-soft' : ''}`}>{tile.name ?? ''}</b>
      {tile.byPlace && <span className="text-[12px] text-ink-soft">by position</span>}
      {tile.favourite && <StarIcon className="size-3.5 fill-current" aria-hidden />}
    </span>
  </>
);

/** A preset in words, for those who do not see it. */
export const presetWords = (tile: PresetTile): string =>
  [
    tile.tag,
    tile.name === undefined ? tile.title : `${tile.title}, preset ${tile.number}`,
    tile.empty && 'empty',
    tile.mark && markWords[tile.mark],
    tile.onAir && !tile.empty && 'camera on air',
    tile.doubt && !tile.empty && 'where the camera is, is not known',
    tile.favourite && 'favourite',
    tile.note,
  ]
    .filter(Boolean)
    .join(', ');
