'use client';

import type { ControlRecord } from '../../core/show';
import { CommitInput } from '../kit';
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
      <div className="form-pair">
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
        <label>
          Touched
          <select
            value={range.jumps ? 'jumps' : ''}
            onChange={(event) => set({ jumps: event.target.value === 'jumps' ? true : undefined })}
          >
            <option value="">it is moved from where it stands</option>
            <option value="jumps">it goes to where it is touched</option>
          </select>
        </label>
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
    ['flipX', 'Left and right the other way round'],
    ['flipY', 'Up and down the other way round'],
  ] as const;
  return (
    <>
      <label>
        It goes
        <select
          value={drive.axes ?? ''}
          onChange={({ target: { value } }) =>
            set({ axes: value === 'across' || value === 'along' ? value : undefined })
          }
        >
          <option value="">all ways</option>
          <option value="across">only left and right</option>
          <option value="along">only up and down</option>
        </select>
      </label>
      <div className="form-pair">
        <label>
          Still round the middle, %
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
      <label>
        Near the middle
        <select value={String(drive.curve ?? 2)} onChange={(event) => set({ curve: Number(event.target.value) })}>
          {[1, 2, 3, 4].map((curve) => (
            <option key={curve} value={curve}>
              {['as fast as anywhere', 'finer', 'much finer', 'finest'][curve - 1]}
            </option>
          ))}
        </select>
      </label>
      {flips.map(([side, title]) => (
        <label key={side} className="form-check">
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
