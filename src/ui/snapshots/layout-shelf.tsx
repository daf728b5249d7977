'use client';

import { useMemo, useState } from 'react';
import type { DeskView } from '../../core/show';
import { addSnapshotsEdit, isLayout, partOfBoxes, shelfLayouts } from '../../core/snapshot';
import { useDesk } from '../desk';
import { Button, Checkbox, Select } from '../kit';
import { newId } from '../parts';
import { FolderField } from './folder-field';
import { SnapshotPicture } from './snapshot-marks';
import { SourceField } from './source-field';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly onDone: () => void;
}

/** The layouts that ship, for one of the devices that draws boxes, over sources that are chosen once. */
export function LayoutShelf({ show, facts, onDone }: Props) {
  const desk = useDesk();
  const targets = useMemo(
    () =>
      facts.devices.flatMap(({ id, data }) => {
        const document = facts.documentOf(id);
        return Object.entries(document?.keeps ?? {}).flatMap(([keep, { title }]) =>
          document && isLayout(document, keep) ? [{ id, keep, document, title: `${data.tag} ${title}` }] : [],
        );
      }),
    [facts],
  );
  const [at, setAt] = useState(0);
  const target = targets[at];
  const [sources, setSources] = useState<readonly number[]>([1, 2, 3, 4]);
  const [folder, setFolder] = useState('Layouts');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(shelfLayouts.map(({ name }) => name)));
  if (!target) return <p>No device of the rig draws boxes.</p>;
  const { id, keep, document } = target;
  const made = shelfLayouts.map(({ name, boxes }) => ({
    name,
    parts: [partOfBoxes(id, keep, document, boxes, sources)],
  }));
  const wanted = made.filter(({ name }) => chosen.has(name));
  const add = async () => {
    const takenAt = new Date().toISOString();
    const edit = addSnapshotsEdit(
      show.records,
      wanted.map(({ name, parts }) => ({ name, folder, parts, note: '', takenAt })),
      newId,
      { title: `Add ${wanted.length} layouts`, replaces: false },
    );
    if (await desk.edit(edit)) onDone();
  };
  return (
    <div className="grid min-h-0 flex-1 content-start gap-3 overflow-y-auto">
      <div className="flex flex-wrap items-end gap-3">
        <Select
          label="For"
          value={String(at)}
          options={targets.map(({ title }, n) => ({ value: String(n), title }))}
          onChoose={(value) => setAt(Number(value))}
        />
        {sources.map((source, n) => (
          <SourceField
            key={n}
            label={`Box ${n + 1} shows`}
            facts={facts}
            device={id}
            keep={keep}
            value={source}
            onChoose={(to) => setSources(sources.with(n, to))}
          />
        ))}
        <FolderField show={show} value={folder} onChoose={setFolder} />
      </div>
      <div className="flex gap-2">
        <Button kind="strong" disabled={wanted.length === 0} onClick={() => void add()}>
          Add {wanted.length === 1 ? '1 layout' : `${wanted.length} layouts`}
        </Button>
        <Button onClick={() => setChosen(new Set(chosen.size > 0 ? [] : shelfLayouts.map(({ name }) => name)))}>
          {chosen.size > 0 ? 'Choose none' : 'Choose all'}
        </Button>
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-2">
        {made.map(({ name, parts }) => (
          <li key={name} className="grid gap-1 border border-rule p-2">
            <SnapshotPicture src={facts.pictureOf({ parts })} className="aspect-video w-full" />
            <Checkbox
              label={name}
              checked={chosen.has(name)}
              onChange={(on) =>
                setChosen(new Set(on ? [...chosen, name] : [...chosen].filter((each) => each !== name)))
              }
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
