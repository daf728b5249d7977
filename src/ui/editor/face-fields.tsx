'use client';

import { icons } from '../../core/face';
import { tintSchema, type ControlRecord, type Tint } from '../../core/show';
import { Icon } from '../page';
import { Fold, Select } from '../kit';
import { FacePreview } from './face-preview';
import { PictureField } from './picture-field';
import { useVerbs } from './verbs';

type Change = Partial<Pick<ControlRecord['data'], 'tint' | 'icon' | 'picture'>>;

/** Tint and icon of one control or of several at once. */
export function FaceFields({ controls }: { readonly controls: readonly ControlRecord[] }) {
  const verbs = useVerbs();
  const same = <T,>(of: (data: ControlRecord['data']) => T): T | undefined => {
    const [first, ...others] = controls.map(({ data }) => of(data));
    return others.every((each) => each === first) ? first : undefined;
  };
  const set = (to: Change, what: string) => {
    const names = Object.keys(to) as (keyof Change)[];
    verbs.changeMany(
      controls,
      (data) => {
        if (names.every((name) => data[name] === to[name])) return data;
        const next = { ...data, ...to };
        for (const name of names) if (to[name] === undefined) delete next[name];
        return next;
      },
      what,
    );
  };
  const tint = same((data) => data.tint);
  const icon = same((data) => data.icon);
  return (
    <Fold name="Face">
      <div
        role="group"
        aria-label="Tint"
        className="flex flex-wrap gap-1 [&_button]:flex [&_button]:min-h-8.5 [&_button]:items-center [&_button]:gap-1.5 [&_button]:border [&_button]:border-rule [&_button]:px-2 [&_button]:text-[14px] [&_button[aria-pressed=true]]:border-ink [&_button[aria-pressed=true]]:shadow-[inset_0_-3px_0_var(--accent)]"
      >
        <button type="button" aria-pressed={tint === undefined} onClick={() => set({ tint: undefined }, 'No tint')}>
          no tint
        </button>
        {tintSchema.options.map((each: Tint) => (
          <button
            key={each}
            type="button"
            aria-pressed={tint === each}
            onClick={() => set({ tint: each }, `Tint ${each}`)}
          >
            <i data-tint={each} aria-hidden />
            {each}
          </button>
        ))}
      </div>
      <div className="flex items-end gap-2">
        <Select
          className="flex-1"
          label="Icon"
          value={icon ?? ''}
          options={[
            { value: '', title: 'none' },
            ...Object.entries(icons).map(([value, { title }]) => ({ value, title })),
          ]}
          onChoose={(name) => set({ icon: name || undefined }, `Icon ${name || 'none'}`)}
        />
        {icon && <Icon name={icon} />}
      </div>
      <PictureField
        picture={same((data) => data.picture)}
        onPicture={(picture) => set({ picture }, picture ? 'Picture' : 'No picture')}
      />
      {controls.length === 1 && controls[0] && <FacePreview data={controls[0].data} />}
    </Fold>
  );
}
