'use client';

import type { ControlRecord } from '../../core/show';
import { CommitInput, optionsFrom, Select } from '../kit';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

type Range = NonNullable<ControlRecord['data']['range']>;
type Drive = NonNullable<ControlRecord['data']['drive']>;

/** How a fader or a dial is turned: how much a notch counts, whether fast ones count more, and what a touch does. */
export function TurnFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { range, type } = control.data;
  if (!range) return null;
  const set = (to: Partial<Range>) =>
    verbs.change(
      control,
      (data) => (data.range ? { ...data, range: given({ ...data.range, ...to }) } : data),
      `Turning ${name}`,
    );
  return (
    <>
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <label>
          One notch
          <CommitInput
            type="number"
            min={0}
            step="any"
            placeholder="a hundredth"
            value={range.tick === undefined ? '' : String(range.tick)}
            onCommit={(text) => set({ tick: Number(text) > 0 ? Math.min(1_000_000, Number(text)) : undefined })}
          />
        </label>
        <label>
          fast ones count, times
          <CommitInput
            type="number"
            min={1}
            max={50}
            step="any"
            value={String(range.quicken ?? 1)}
            onCommit={(text) => set({ quicken: Number(text) > 1 ? Math.min(50, Number(text)) : undefined })}
          />
        </label>
      </div>
      {type === 'fader' && (
        <Select
          label="When touched"
          value={range.jumps ? 'jumps' : 'moves'}
          options={optionsFrom({ moves: 'it moves from its present value', jumps: 'it jumps to where it is touched' })}
          onChoose={(way) => set({ jumps: way === 'jumps' ? true : undefined })}
        />
      )}
    </>
  );
}

/** How a stick steers: which ways, how far from the middle it begins, how finely, how fast at the most, and which way round. */
export function StickFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { drive } = control.data;
  if (!drive) return null;
  const set = (to: Partial<Drive>) =>
    verbs.change(
      control,
      (data) => (data.drive ? { ...data, drive: given({ ...data.drive, ...to }) } : data),
      `Steering of ${name}`,
    );
  const part = (text: string, least: number, most: number) => Math.min(most, Math.max(least, Number(text) / 100));
  const flips = [
    ['flipX', 'Swap left and right'],
    ['flipY', 'Swap up and down'],
  ] as const;
  return (
    <>
      <Select
        label="Moves"
        value={drive.axes ?? 'all'}
        options={optionsFrom({ all: 'in all directions', across: 'left and right only', along: 'up and down only' })}
        onChoose={(axes) => set({ axes: axes === 'all' ? undefined : axes })}
      />
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <label>
          Dead zone, %
          <CommitInput
            type="number"
            min={0}
            max={60}
            value={String(Math.round((drive.dead ?? 0.1) * 100))}
            onCommit={(text) => Number.isFinite(Number(text)) && set({ dead: part(text, 0, 0.6) })}
          />
        </label>
        <label>
          Fastest, %
          <CommitInput
            type="number"
            min={5}
            max={100}
            value={String(Math.round((drive.top ?? 1) * 100))}
            onCommit={(text) => Number.isFinite(Number(text)) && set({ top: part(text, 0.05, 1) })}
          />
        </label>
      </div>
      <Select
        label="Speed near the centre"
        value={String(drive.curve ?? 2)}
        options={['as fast as elsewhere', 'finer', 'much finer', 'finest'].map((title, n) => ({
          value: String(n + 1),
          title,
        }))}
        onChoose={(curve) => set({ curve: Number(curve) })}
      />
      {flips.map(([side, title]) => (
        <label key={side} className="col-span-full flex flex-row items-center gap-2">
          <input
            type="checkbox"
            checked={drive[side] ?? false}
            onChange={(event) => set({ [side]: event.target.checked ? true : undefined })}
          />
          {title}
        </label>
      ))}
    </>
  );
}

/** Without what was taken out. */
const given = <T extends object>(data: T): T =>
  Object.fromEntries(Object.entries(data).filter(([, value]) => value !== undefined)) as T;
