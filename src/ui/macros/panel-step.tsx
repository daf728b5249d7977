'use client';

import { panelsReached, type DeskView, type MacroDoes, type PageRecord } from '../../core/show';
import { CommitInput, Select } from '../kit';
import { useRigFacts } from '../fields';

/** The steps that are about what panels show. */
type PanelDoes = Extract<MacroDoes, { is: 'note' | 'page' | 'shift' | 'pick' | 'brightness' }>;

interface Props {
  readonly does: PanelDoes;
  readonly show: DeskView;
  readonly onDoes: (does: PanelDoes) => void;
}

/** A step that has the screens of a panel show something: a page, a level, a pick, a brightness or a note. */
export function PanelStep({ does, show, onDoes }: Props) {
  const panels = show.records.flatMap((each) => (each.kind === 'panel' ? [each] : []));
  const pages = show.records.flatMap((each) => (each.kind === 'page' ? [each] : []));
  return (
    <>
      <Select
        label="On"
        value={does.panel ?? ''}
        options={[
          { value: '', title: 'every panel' },
          ...panels.map(({ id, data }) => ({ value: id, title: data.name })),
        ]}
        onChoose={(panel) => {
          const { panel: _, ...rest } = does;
          onDoes((panel === '' ? rest : { ...rest, panel }) as PanelDoes);
        }}
      />
      <What does={does} pages={pages} onDoes={onDoes} />
      <Reached does={does} show={show} />
    </>
  );
}

/** Which panels the step reaches, said beforehand. */
function Reached({ does, show }: Pick<Props, 'does' | 'show'>) {
  const { reached, without } = panelsReached(show.records, does.panel, 'page' in does ? does.page : undefined);
  const names = (panels: typeof reached) => panels.map(({ data }) => data.name).join(', ');
  const plain = does.panel === undefined ? 'screens without a panel' : '';
  return (
    <p className="col-span-full text-[13px] text-ink-soft">
      Reaches {[names(reached), plain].filter(Boolean).join(', ') || 'no panel'}.
      {without.length > 0 && ` Does not reach ${names(without)}: the page is not on it.`}
    </p>
  );
}

interface WhatProps extends Pick<Props, 'does' | 'onDoes'> {
  readonly pages: readonly PageRecord[];
}

function What({ does, pages, onDoes }: WhatProps) {
  const { tagOf } = useRigFacts();
  const page = 'page' in does ? pages.find(({ id }) => id === does.page) : undefined;
  switch (does.is) {
    case 'note':
      return (
        <label>
          Note
          <CommitInput
            value={does.text}
            maxLength={300}
            onCommit={(text) => text.trim() !== '' && onDoes({ ...does, text })}
          />
        </label>
      );
    case 'page':
      return (
        <Select
          label="Go to the page"
          value={does.page}
          options={pages.map(({ id, data }) => ({ value: id, title: data.name }))}
          onChoose={(to) => onDoes({ ...does, page: to })}
        />
      );
    case 'shift':
      return (
        <Select
          label={`Level of the page ${page?.data.name ?? 'that no longer exists'}`}
          value={does.shift ?? ''}
          options={[
            { value: '', title: 'usual' },
            ...(page?.data.shifts ?? []).map(({ id, name }) => ({ value: id, title: name })),
          ]}
          onChoose={(value) => {
            const { shift: _, ...rest } = does;
            onDoes(value === '' ? rest : { ...rest, shift: value });
          }}
        />
      );
    case 'pick': {
      const zone = page?.data.zones.find(({ id }) => id === does.zone);
      return (
        <Select
          label={`${zone?.title ?? 'A zone that is gone'} of ${page?.data.name ?? 'a page that no longer exists'} drives`}
          value={does.device ?? ''}
          options={[
            { value: '', title: 'its usual device' },
            ...(zone?.pick?.devices ?? []).map((id) => ({ value: id, title: tagOf(id) ?? id })),
          ]}
          onChoose={(value) => {
            const { device: _, ...rest } = does;
            onDoes(value === '' ? rest : { ...rest, device: value });
          }}
        />
      );
    }
    case 'brightness':
      return (
        <label>
          Brightness, %
          <CommitInput
            type="number"
            min={20}
            max={100}
            value={String(does.percent)}
            onCommit={(text) => {
              const percent = Math.round(Number(text));
              if (Number.isFinite(percent)) onDoes({ ...does, percent: Math.min(100, Math.max(20, percent)) });
            }}
          />
        </label>
      );
  }
}
