'use client';

import { useState } from 'react';
import type { PresetAct } from '../../core/live';
import type { PresetTile } from '../../core/preset';
import { useLive } from '../live';
import { Face, textOf } from './face';
import type { LiveControlProps } from './live-control';
import { listActsClass } from './list-look';
import { OutcomeMark } from './outcome-mark';
import { PresetDetails } from './preset-details';
import { columnsOf, PresetFace, presetGridClass, presetTileClass, presetWords } from './preset-face';
import { ScrollsContext, useHand } from './use-hand';

type Mode = 'recall' | 'store' | 'edit';

const modeWords: Readonly<Record<Mode, string>> = { recall: 'Recall', store: 'Store', edit: 'Edit' };

/** The presets of a camera, or the favourites of all, each with its picture: a tap recalls one. */
export default function PresetControl({ id, page, context, face, view, mark, disabled }: LiveControlProps) {
  const live = useLive();
  const [mode, setMode] = useState<Mode>('recall');
  const [chosen, setChosen] = useState<string>();
  const { columns, stores = false, changes = false, forgets = false } = view.presets ?? {};
  const tiles = face.tiles ?? [];
  const camera = tiles[0]?.tag === undefined ? tiles[0]?.device : undefined;
  const [meant, setMeant] = useState(camera);
  // What was meant for one camera is not meant for the one that is picked next.
  if (camera !== undefined && camera !== meant) {
    setMeant(camera);
    setMode('recall');
    setChosen(undefined);
  }
  // Of one camera this is said once, of several on each of its presets.
  const guarded = mode === 'recall' && tiles.some((each) => each.guarded && !each.tag);
  const tile = tiles.find((each) => keyOf(each) === chosen && !each.empty);
  const act = ({ device, number }: PresetTile, act: PresetAct, guard: boolean) =>
    live.preset(page, id, {
      device,
      number,
      act,
      ...(guard ? { guard } : {}),
      ...(context === undefined ? {} : { context }),
    });
  const press = (each: PresetTile, guard: boolean) => {
    if (mode === 'edit') return setChosen(keyOf(each));
    act(each, { do: mode }, guard || mode === 'store');
    // What was meant once is not meant for the next tap, too.
    if (mode === 'store') setMode('recall');
  };
  const modes = ['recall', ...(stores ? ['store'] : []), ...(changes ? ['edit'] : [])] as const as readonly Mode[];
  return (
    <div className="control" data-kind="presets" data-control={id} role="group" aria-label={textOf(face)}>
      <Face face={face} view={view}>
        {mark && <OutcomeMark key={mark.control} mark={mark} />}
        {guarded && (
          <em className="absolute top-0.5 right-1 bottom-0.5 grid place-items-center bg-on-air px-2 text-[13px] font-bold text-on-air-ink not-italic">
            on air: hold
          </em>
        )}
      </Face>
      {mode === 'store' && (
        <p className="flex-none border-t border-rule-strong bg-raised px-2 py-1 text-left text-[14px]" role="status">
          Tap an empty place to store where the camera is now; hold a preset to overwrite it.
        </p>
      )}
      {mode === 'edit' && tile ? (
        <PresetDetails
          key={keyOf(tile)}
          tile={tile}
          forgets={forgets}
          onAct={(what, guard) => act(tile, what, guard)}
          onDone={() => setChosen(undefined)}
        />
      ) : (
        <div
          className={presetGridClass}
          style={columnsOf(columns)}
          role="group"
          aria-label={`${textOf(face)}, presets`}
        >
          {/* A finger that moves along the tiles scrolls them. */}
          <ScrollsContext value>
            {tiles.map((each) => (
              <Tile
                key={keyOf(each)}
                tile={each}
                mode={mode}
                disabled={disabled ?? false}
                onPress={(guard) => press(each, guard)}
              />
            ))}
          </ScrollsContext>
          {tiles.length === 0 && (
            <p className="col-span-full p-2 text-[13px] text-ink-soft">
              No favourites yet. Open the presets of a camera, choose Edit, then a preset, and mark it as a favourite.
            </p>
          )}
        </div>
      )}
      {modes.length > 1 && (
        <div className={listActsClass} role="radiogroup" aria-label="A tap">
          {modes.map((each) => (
            <button
              key={each}
              type="button"
              role="radio"
              aria-checked={mode === each}
              disabled={disabled}
              className="aria-checked:bg-ink aria-checked:text-ground"
              onClick={() => {
                setMode(each);
                setChosen(undefined);
              }}
            >
              {modeWords[each]}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

const keyOf = ({ device, number }: PresetTile): string => `${device} ${number}`;

interface TileProps {
  readonly tile: PresetTile;
  readonly mode: Mode;
  readonly disabled: boolean;
  readonly onPress: (guard: boolean) => void;
}

function Tile({ tile, mode, disabled, onPress }: TileProps) {
  const { empty = false } = tile;
  const off = disabled || (empty && mode !== 'store');
  const guarded = mode === 'store' ? !empty : mode === 'recall' && tile.guarded === true;
  const { filling, handlers, element } = useHand({ disabled: off, guarded, onPress });
  return (
    <button
      ref={element}
      type="button"
      className={`${presetTileClass} data-filling:bg-rule-strong`}
      disabled={off}
      aria-label={`${presetWords(tile)}${guarded ? ', hold' : ''}`}
      data-mark={tile.mark}
      data-preset={tile.number}
      data-filling={filling || undefined}
      {...handlers}
    >
      <PresetFace tile={tile} />
      {filling && <span className="filling-bar absolute inset-x-0 bottom-0 h-1.5 bg-ink" />}
    </button>
  );
}
