'use client';

import { useCallback, useMemo, useState } from 'react';
import { collectionOf, contentsOf } from '../../core/exchange';
import { macrosOf } from '../../core/macro';
import type { DeskView, Picture } from '../../core/show';
import { foldersOf, snapshotsOf } from '../../core/snapshot';
import { Button, Checkbox, TextField } from '../kit';
import { fetchPictures, saveJson } from '../parts';
import { SnapshotPicture } from './snapshot-marks';
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
  const { records } = show;
  const snapshots = useMemo(() => snapshotsOf(records), [records]);
  const macros = useMemo(() => macrosOf(records), [records]);
  const [title, setTitle] = useState(folder ?? 'Snapshots');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(snapshots.filter(({ data }) => folder === undefined || data.folder === folder).map(({ id }) => id)),
  );
  const turn = (ids: readonly string[], on: boolean) =>
    setChosen(new Set(on ? [...chosen, ...ids] : [...chosen].filter((id) => !ids.includes(id))));
  const fileWith = useCallback(
    (name: string, pictures?: readonly Picture[]) => {
      const wanted = ({ id }: { readonly id: string }) => chosen.has(id);
      return collectionOf(name, records, snapshots.filter(wanted), macros.filter(wanted), pictures);
    },
    [records, snapshots, macros, chosen],
  );
  const file = useMemo(() => fileWith(''), [fileWith]);
  const besides = file.snapshots.length + file.macros.length - chosen.size;
  const save = async () => {
    const whole = fileWith(title, await fetchPictures(records));
    saveJson(`${title.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.json`, JSON.stringify(whole, null, 2));
    onDone();
  };
  return (
    <div className="grid min-h-0 flex-1 content-start gap-4 overflow-y-auto">
      <div className="flex flex-wrap items-end gap-3">
        <TextField label="Title" value={title} maxLength={80} className="w-72" onCommit={setTitle} />
        <Button kind="strong" disabled={chosen.size === 0 || title.trim() === ''} onClick={() => void save()}>
          Save {contentsOf(file.snapshots.length, file.macros.length)}
        </Button>
        {besides > 0 && (
          <p className="pb-2 text-ink-soft">
            {besides === 1 ? '1 of them is' : `${besides} of them are`} included because a chosen macro needs{' '}
            {besides === 1 ? 'it' : 'them'}.
          </p>
        )}
      </div>
      {foldersOf(snapshots).map((each) => {
        const own = snapshots.filter(({ data }) => data.folder === each);
        const ids = own.map(({ id }) => id);
        return (
          <section key={each} className="grid gap-2">
            <Checkbox
              label={<b className="text-ink">{each || 'No folder'}</b>}
              checked={ids.every((id) => chosen.has(id))}
              onChange={(on) => turn(ids, on)}
            />
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-2">
              {own.map(({ id, data }) => (
                <li key={id} className="grid gap-1">
                  <SnapshotPicture src={facts.pictureOf(data)} className="aspect-video w-full" />
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
