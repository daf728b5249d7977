'use client';

import { useState } from 'react';
import { collectionOf } from '../../core/exchange';
import { macrosOf } from '../../core/macro';
import type { DeskView } from '../../core/show';
import { foldersOf, snapshotsOf } from '../../core/snapshot';
import { Button, Checkbox, TextField } from '../kit';
import { saveJson } from '../parts';
import { Picture } from './snapshot-marks';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  /** Chosen at first; everything when absent. */
  readonly folder: string | undefined;
  readonly onDone: () => void;
}

/** Which snapshots and macros go into a file. What a macro calls comes along by itself. */
export function SaveFile({ show, facts, folder, onDone }: Props) {
  const snapshots = snapshotsOf(show.records);
  const macros = macrosOf(show.records);
  const [title, setTitle] = useState(folder ?? 'Snapshots');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(snapshots.filter(({ data }) => folder === undefined || data.folder === folder).map(({ id }) => id)),
  );
  const turn = (ids: readonly string[], on: boolean) =>
    setChosen(new Set(on ? [...chosen, ...ids] : [...chosen].filter((id) => !ids.includes(id))));
  const file = collectionOf(
    title,
    show.records,
    snapshots.filter(({ id }) => chosen.has(id)),
    macros.filter(({ id }) => chosen.has(id)),
  );
  const besides = file.snapshots.length + file.macros.length - chosen.size;
  const save = () => {
    saveJson(`${title.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.json`, JSON.stringify(file, null, 2));
    onDone();
  };
  return (
    <div className="grid min-h-0 flex-1 content-start gap-4 overflow-y-auto">
      <div className="flex flex-wrap items-end gap-3">
        <TextField label="Title" value={title} maxLength={80} className="w-72" onCommit={setTitle} />
        <Button kind="strong" disabled={chosen.size === 0 || title.trim() === ''} onClick={save}>
          Save {contentsOf(file.snapshots.length, file.macros.length)}
        </Button>
        {besides > 0 && (
          <p className="pb-2 text-ink-soft">
            {besides === 1 ? '1 of them comes along' : `${besides} of them come along`}, for a chosen macro needs it.
          </p>
        )}
      </div>
      {foldersOf(snapshots).map((each) => {
        const own = snapshots.filter(({ data }) => data.folder === each);
        const ids = own.map(({ id }) => id);
        return (
          <section key={each} className="grid gap-2">
            <Checkbox
              label={<b className="text-ink">{each || 'In no folder'}</b>}
              checked={ids.every((id) => chosen.has(id))}
              onChange={(on) => turn(ids, on)}
            />
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-2">
              {own.map(({ id, data }) => (
                <li key={id} className="grid gap-1">
                  <Picture src={facts.pictureOf(data.parts)} className="aspect-video w-full" />
                  <Checkbox label={data.name} checked={chosen.has(id)} onChange={(on) => turn([id], on)} />
                </li>
              ))}
            </ul>
          </section>
        );
      })}
      {macros.length > 0 && (
        <section className="grid gap-2">
          <h3 className="font-semibold">Macros</h3>
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-3 gap-y-1.5">
            {macros.map(({ id, data }) => (
              <li key={id}>
                <Checkbox label={data.name} checked={chosen.has(id)} onChange={(on) => turn([id], on)} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** How much there is of each: "3 snapshots and 1 macro". */
export const contentsOf = (snapshots: number, macros: number): string =>
  [
    snapshots > 0 && (snapshots === 1 ? '1 snapshot' : `${snapshots} snapshots`),
    macros > 0 && (macros === 1 ? '1 macro' : `${macros} macros`),
  ]
    .filter(Boolean)
    .join(' and ');
