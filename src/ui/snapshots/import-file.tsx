'use client';

import { useMemo, useState } from 'react';
import type { DeskView, SnapshotData } from '../../core/show';
import {
  contentsOf,
  guessMacroPatch,
  importCollectionEdit,
  laidOver,
  readCollection,
  sourcesUsed,
  type Collection,
} from '../../core/exchange';
import { blackReason, isLayout } from '../../core/snapshot';
import { useDesk } from '../desk';
import { Button, Checkbox, FileDrop, Select } from '../kit';
import { newId, storePictures } from '../parts';
import { SnapshotPicture } from './snapshot-marks';
import { SourceField } from './source-field';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly onDone: () => void;
}

/** A file of snapshots is chosen, and laid over this rig. */
export function ImportFile({ show, facts, onDone }: Props) {
  const [file, setFile] = useState<Collection>();
  const [error, setError] = useState<string>();
  const open = async (chosen: File) => {
    const read = readCollection(await chosen.text());
    setError(read.ok ? undefined : read.error);
    setFile(read.ok ? read.value : undefined);
  };
  if (file) return <LaidOver show={show} facts={facts} file={file} onDone={onDone} />;
  return (
    <div className="grid content-start gap-3">
      <FileDrop
        label="Drop a file with snapshots here."
        accept=".json,application/json"
        onFile={(chosen) => void open(chosen)}
      />
      {error !== undefined && <p role="alert">{error}</p>}
    </div>
  );
}

/** Which device is which, which source is which, and what would show only black. */
function LaidOver({ show: { records }, facts, file, onDone }: Props & { readonly file: Collection }) {
  const desk = useDesk();
  const [devices, setDevices] = useState<ReadonlyMap<string, string>>(() => guessMacroPatch(file.devices, records));
  const [sources, setSources] = useState<ReadonlyMap<number, number>>(new Map());
  const [background, setBackground] = useState<number>();
  const [replaces, setReplaces] = useState(false);
  const { documentOf } = facts;
  const { made, layout, used, black, result } = useMemo(() => {
    const patch = { devices, sources, background, replaces };
    const laid = laidOver(file, patch, { documentOf });
    return {
      made: laid,
      /** The group whose sources are chosen: those of one device are named alike. */
      layout: layoutOf(laid, documentOf),
      used: sourcesUsed(file, patch, { documentOf }),
      black: laid.filter(({ parts }) => blackReason(parts, documentOf) !== undefined),
      result: importCollectionEdit(records, file, patch, { documentOf }, newId),
    };
  }, [records, documentOf, file, devices, sources, background, replaces]);
  const urlOf = (hash: string) => {
    const picture = file.pictures.find((each) => each.hash === hash);
    return picture && `data:${picture.type};base64,${picture.base64}`;
  };
  const known = result.ok ? file.macros.length - result.value.macros : 0;
  const add = async () => {
    if (!result.ok) return;
    if (!(await storePictures(file.pictures)))
      return desk.say('Not imported: a picture of the file could not be stored.', true);
    if (await desk.edit(result.value.edit)) onDone();
  };
  const shift = (by: number) => setSources(new Map(used.map((source) => [source, source + by])));
  return (
    <div className="grid min-h-0 flex-1 content-start gap-4 overflow-y-auto">
      <section className="grid gap-2">
        <h3 className="font-semibold">Devices</h3>
        <div className="grid max-w-160 gap-2">
          {file.devices.map((device) => (
            <Select
              key={device.id}
              label={`${device.tag} ${device.name}`}
              value={devices.get(device.id) ?? 'none'}
              options={[
                { value: 'none', title: 'Leave out' },
                ...facts.devices.map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` })),
              ]}
              onChoose={(to) =>
                setDevices(
                  to === 'none'
                    ? new Map([...devices].filter(([from]) => from !== device.id))
                    : new Map([...devices, [device.id, to]]),
                )
              }
            />
          ))}
        </div>
      </section>
      {used.length > 0 && (
        <section className="grid gap-2">
          <h3 className="font-semibold">Sources</h3>
          <div className="flex flex-wrap items-end gap-3">
            {used.map((source) => (
              <SourceField
                key={source}
                label={`In place of ${source}`}
                facts={facts}
                {...layout}
                value={sources.get(source) ?? source}
                onChoose={(to) => setSources(new Map([...sources, [source, to]]))}
              />
            ))}
            <Button onClick={() => shift(used.length)}>Shift by {used.length}</Button>
            <Button onClick={() => setSources(new Map())}>As in the file</Button>
          </div>
        </section>
      )}
      {(black.length > 0 || background !== undefined) && (
        <section className="grid gap-2">
          <h3 className="font-semibold">Background</h3>
          <p className="text-[14px]">
            {black.length === 0
              ? 'No snapshot would be black now.'
              : `${black.length === 1 ? '1 snapshot shows' : `${black.length} snapshots show`} only black here. Boxes whose source does not exist can show another one.`}
          </p>
          <div className="flex flex-wrap items-end gap-3">
            <SourceField
              label="Replace missing sources with"
              facts={facts}
              {...layout}
              value={background}
              onChoose={setBackground}
            />
            {background !== undefined && <Button onClick={() => setBackground(undefined)}>None</Button>}
          </div>
        </section>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Checkbox
          label="Overwrite snapshots that have the same name and folder"
          checked={replaces}
          onChange={setReplaces}
        />
        <Button kind="strong" disabled={!result.ok} onClick={() => void add()}>
          Import {result.ok && contentsOf(made.length, result.value.macros)}
        </Button>
        {!result.ok && <p role="alert">{result.error}</p>}
      </div>
      {file.macros.length > 0 && (
        <section className="grid gap-2">
          <h3 className="font-semibold">Macros</h3>
          <ul className="grid gap-1.5">
            {file.macros.map(({ id, data }) => (
              <li key={id} className="flex flex-wrap gap-x-3">
                {data.name}
                {result.ok && result.value.lacking.includes(data.name) && (
                  <span className="border-l-4 border-warning pl-2 text-[14px]">Calls a snapshot that is left out</span>
                )}
              </li>
            ))}
          </ul>
          {known > 0 && (
            <p className="text-ink-soft">
              {contentsOf(0, known)} {known === 1 ? 'is' : 'are'} already in the show.
            </p>
          )}
        </section>
      )}
      <section className="grid gap-2">
        <h3 className="font-semibold">
          {made.length} of {file.snapshots.length} snapshots
        </h3>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-2">
          {made.map((data) => (
            <li key={`${data.folder} ${data.number}`} className="grid gap-1">
              <SnapshotPicture src={facts.pictureOf(data, urlOf)} className="aspect-video w-full" />
              <span className="truncate text-[14px]">
                {result.ok && `${result.value.numbers.get(data.number) ?? ''} `}
                {data.name}
              </span>
              {black.includes(data) && (
                <span className="border-l-4 border-warning pl-2 text-[13px]">Shows only black</span>
              )}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

/** The first group of boxes among snapshots. */
function layoutOf(
  made: readonly SnapshotData[],
  documentOf: SnapshotFacts['documentOf'],
): { readonly device: string; readonly keep: string } {
  for (const { device, keep } of made.flatMap(({ parts }) => parts)) {
    const document = documentOf(device);
    if (document && isLayout(document, keep)) return { device, keep };
  }
  return { device: '', keep: '' };
}
