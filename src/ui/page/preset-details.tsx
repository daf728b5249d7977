'use client';

import { ArrowLeftIcon, ArrowRightIcon, CameraIcon, StarIcon } from 'lucide-react';
import type { PresetAct } from '../../core/live';
import type { PresetTile } from '../../core/preset';
import { CommitInput } from '../kit';
import { PresetFace, presetTileClass } from './preset-face';
import { useHand } from './use-hand';

interface Props {
  readonly tile: PresetTile;
  readonly forgets: boolean;
  readonly onAct: (act: PresetAct, guard: boolean) => void;
  /** Shows the presets again. */
  readonly onDone: () => void;
}

const buttonClass =
  'flex min-h-11 items-center justify-center gap-1.5 border border-rule-strong bg-tape px-2.5 text-[14px] font-semibold aria-pressed:bg-ink aria-pressed:text-ground data-filling:bg-rule-strong';

/** What can be changed of the preset that is chosen: what it is called, its picture, its place, and whether it is a favourite. */
export function PresetDetails({ tile, forgets, onAct, onDone }: Props) {
  const field = (key: 'name' | 'note', label: string, most: number) => (
    <label className="grid min-w-32 flex-1 text-left text-[13px]">
      {label}
      <CommitInput
        className="min-h-11 w-full bg-ground"
        value={tile[key] ?? ''}
        maxLength={most}
        onCommit={(text) => onAct({ do: 'name', [key]: text }, false)}
      />
    </label>
  );
  const button = (title: string, act: PresetAct, icon?: typeof StarIcon, isOn?: boolean) => {
    const Drawn = icon;
    return (
      <button type="button" className={buttonClass} aria-pressed={isOn} onClick={() => onAct(act, false)}>
        {Drawn && <Drawn className="size-4" aria-hidden />} {title}
      </button>
    );
  };
  return (
    <section
      className="flex min-h-0 flex-1 touch-pan-y flex-wrap content-start gap-2 overflow-auto bg-raised p-1.5 text-left"
      aria-label={`Edit ${tile.title}`}
    >
      <div className="w-36 flex-none">
        <div className={presetTileClass} data-mark={tile.mark}>
          <PresetFace tile={tile} />
        </div>
        <button type="button" className={`${buttonClass} mt-1.5 w-full`} onClick={onDone}>
          All presets
        </button>
      </div>
      <div className="grid min-w-52 flex-1 content-start gap-1.5">
        <div className="flex flex-wrap gap-1.5">
          {field('name', `Name of preset ${tile.number}`, 40)}
          {field('note', 'Note', 500)}
        </div>
        <div className="flex flex-wrap gap-1.5 [&>*]:flex-auto">
          {button('Favourite', { do: 'favourite', on: !tile.favourite }, StarIcon, tile.favourite ?? false)}
          {button('New picture', { do: 'picture' }, CameraIcon)}
          {button('Earlier', { do: 'move', by: -1 }, ArrowLeftIcon)}
          {button('Later', { do: 'move', by: 1 }, ArrowRightIcon)}
          {tile.hasPlace &&
            button('Recall by position', { do: 'byPlace', on: !tile.byPlace }, undefined, tile.byPlace ?? false)}
          {tile.hasBefore && button('Undo overwrite', { do: 'getBack' })}
          {(forgets || tile.byPlace) && <Forget onForget={() => onAct({ do: 'forget' }, true)} />}
        </div>
      </div>
    </section>
  );
}

function Forget({ onForget }: { readonly onForget: () => void }) {
  const { filling, handlers, element } = useHand({ guarded: true, onPress: onForget });
  return (
    <button
      ref={element}
      type="button"
      className={buttonClass}
      data-filling={filling || undefined}
      aria-label="Forget, hold"
      {...handlers}
    >
      Hold to forget
    </button>
  );
}
