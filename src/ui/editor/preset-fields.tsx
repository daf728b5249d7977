'use client';

import type { ControlRecord, PresetBoard } from '../../core/show';
import { Checkbox, CommitInput, Select } from '../kit';
import { useFacts } from './facts';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

/** The presets that a control shows, and what panels may do with them. */
export function PresetFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { devices, documentOf } = useFacts();
  const { presets } = control.data;
  if (!presets) return null;
  const cameras = devices.filter(({ id }) => documentOf(id)?.presets);
  const set = (change: (board: PresetBoard) => PresetBoard) =>
    verbs.change(
      control,
      (data) => (data.presets ? { ...data, presets: change(data.presets) } : data),
      `Presets of ${name}`,
    );
  const flag = (key: 'guardsOnAir' | 'recallsOnly', on: boolean) =>
    set(({ [key]: _, ...board }) => (on ? { ...board, [key]: true as const } : board));
  return (
    <>
      <Select
        label="Shows"
        value={presets.device ?? favourites}
        options={[
          { value: favourites, title: 'Favourites of all cameras' },
          ...cameras.map(({ id, data }) => ({ value: id, title: `Presets of ${data.tag} ${data.name}` })),
        ]}
        onChoose={(of) => set(({ device: _, ...board }) => (of === favourites ? board : { ...board, device: of }))}
      />
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        {presets.device !== undefined && (
          <label>
            Places
            <CommitInput
              type="number"
              min={1}
              max={64}
              value={String(presets.places)}
              onCommit={(text) => set((board) => ({ ...board, places: whole(text, 64) ?? board.places }))}
            />
          </label>
        )}
        <label>
          Side by side
          <CommitInput
            type="number"
            min={1}
            max={12}
            placeholder="as many as fit"
            value={presets.columns === undefined ? '' : String(presets.columns)}
            onCommit={(text) =>
              set(({ columns: _, ...board }) => {
                const columns = whole(text, 12);
                return columns === undefined ? board : { ...board, columns };
              })
            }
          />
        </label>
      </div>
      <Checkbox
        label="Confirm a recall while the camera is on air"
        checked={presets.guardsOnAir ?? false}
        onChange={(on) => flag('guardsOnAir', on)}
      />
      <Checkbox
        label="Panels only recall presets"
        checked={presets.recallsOnly ?? false}
        onChange={(on) => flag('recallsOnly', on)}
      />
    </>
  );
}

const favourites = 'favourites';

function whole(text: string, most: number): number | undefined {
  const number = Math.round(Number(text));
  return number >= 1 ? Math.min(most, number) : undefined;
}
