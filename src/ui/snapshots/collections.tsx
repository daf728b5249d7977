'use client';

import { useMemo, useState } from 'react';
import { memberKey } from '../../core/driver';
import type { DeskView, SnapshotRecord } from '../../core/show';
import {
  addSnapshotsEdit,
  blackReason,
  collectionOf,
  isLayout,
  laidOver,
  partOfBoxes,
  readCollection,
  shelfLayouts,
  snapshotsOf,
  sourcesUsed,
  type Collection,
} from '../../core/snapshot';
import { useDesk } from '../desk';
import { Button, Checkbox, Dialog, FileDrop, Menu, NumberField, Select } from '../kit';
import { newId, saveJson } from '../parts';
import { FolderField } from './folder-field';
import { Picture } from './snapshot-marks';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly chosen: SnapshotRecord | undefined;
}

/** Snapshots come in from a file or from the layouts that ship, and go out as a file. */
export function Collections({ show, facts, chosen }: Props) {
  const [isOpen, setOpen] = useState<'layouts' | 'file'>();
  const all = snapshotsOf(show.records);
  const save = (title: string, snapshots: readonly SnapshotRecord[]) =>
    saveJson(
      `${title.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.json`,
      JSON.stringify(collectionOf(title, snapshots, facts.deviceOf), null, 2),
    );
  const folder = chosen?.data.folder ?? '';
  return (
    <>
      <Menu
        acts={[
          { title: 'Add layouts …', run: () => setOpen('layouts') },
          { title: 'Import a file …', run: () => setOpen('file') },
          { title: 'Save all as a file', disabled: all.length === 0, run: () => save('Snapshots', all) },
          ...(chosen && folder !== ''
            ? [
                {
                  title: `Save folder ${folder} as a file`,
                  run: () =>
                    save(
                      folder,
                      all.filter(({ data }) => data.folder === folder),
                    ),
                },
              ]
            : []),
        ]}
      >
        <Button>Import, save</Button>
      </Menu>
      <Dialog
        title="Add layouts"
        size="full"
        isForm
        open={isOpen === 'layouts'}
        onOpenChange={(on) => setOpen(on ? 'layouts' : undefined)}
      >
        {isOpen === 'layouts' && <LayoutShelf show={show} facts={facts} onDone={() => setOpen(undefined)} />}
      </Dialog>
      <Dialog
        title="Import snapshots"
        size="full"
        isForm
        open={isOpen === 'file'}
        onOpenChange={(on) => setOpen(on ? 'file' : undefined)}
      >
        {isOpen === 'file' && <ImportFile show={show} facts={facts} onDone={() => setOpen(undefined)} />}
      </Dialog>
    </>
  );
}

interface PartProps {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly onDone: () => void;
}

/** The layouts that ship, for one of the devices that draws boxes, over sources that are chosen once. */
function LayoutShelf({ show, facts, onDone }: PartProps) {
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
            <Picture src={facts.pictureOf(parts)} className="aspect-video w-full" />
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

interface SourceProps {
  readonly label: string;
  readonly facts: SnapshotFacts;
  readonly device: string;
  readonly keep: string;
  readonly value: number;
  readonly onChoose: (to: number) => void;
}

/** A source of a device by its name, where it lists them. */
function SourceField({ label, facts, device, keep, value, onChoose }: SourceProps) {
  const document = facts.documentOf(device);
  const names = document?.layouts[document.keeps[keep]?.layout ?? '']?.names;
  const index = names === undefined ? undefined : document?.readings[names]?.index;
  if (names === undefined || !index || typeof index.to !== 'number')
    return <NumberField label={label} value={value} min={0} max={9999} onCommit={(to) => onChoose(Math.round(to))} />;
  const numbers = Array.from({ length: index.to - index.from + 1 }, (_, n) => index.from + n);
  return (
    <Select
      label={label}
      value={String(value)}
      options={numbers.map((number) => ({
        value: String(number),
        title: `${number} ${String(facts.readingNow(device, memberKey(names, number))?.value ?? '')}`.trim(),
      }))}
      onChoose={(to) => onChoose(Number(to))}
    />
  );
}

/** A file of snapshots, laid over this rig: which device is which, which source is which, and what would show only black. */
function ImportFile({ show, facts, onDone }: PartProps) {
  const desk = useDesk();
  const [file, setFile] = useState<Collection>();
  const [error, setError] = useState<string>();
  const [devices, setDevices] = useState<ReadonlyMap<string, string>>(new Map());
  const [sources, setSources] = useState<ReadonlyMap<number, number>>(new Map());
  const [replaces, setReplaces] = useState(false);
  const open = async (chosen: File) => {
    const read = readCollection(await chosen.text());
    setError(read.ok ? undefined : read.error);
    setFile(read.ok ? read.value : undefined);
    if (!read.ok) return;
    // A device with the same tag is taken for the same, else one with the same driver.
    setDevices(
      new Map(
        read.value.devices.flatMap((device) => {
          const same =
            facts.devices.find(({ data }) => data.tag === device.tag && data.driver === device.driver) ??
            facts.devices.find(({ data }) => data.driver === device.driver);
          return same ? [[device.id, same.id] as const] : [];
        }),
      ),
    );
  };
  if (!file)
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
  const patch = { devices, sources, replaces };
  const made = laidOver(file, patch, facts);
  const used = sourcesUsed(file, patch, facts);
  const black = made.filter(({ parts }) => blackReason(parts, facts.documentOf) !== undefined);
  const add = async () => {
    const edit = addSnapshotsEdit(show.records, made, newId, { title: `Import ${made.length} snapshots`, replaces });
    if (await desk.edit(edit)) onDone();
  };
  const shift = (by: number) => setSources(new Map(used.map((source) => [source, source + by])));
  return (
    <div className="grid min-h-0 flex-1 content-start gap-4 overflow-y-auto">
      <section className="grid gap-2">
        <h3 className="font-semibold">Devices</h3>
        {file.devices.map((device) => (
          <Select
            key={device.id}
            label={`${device.tag} ${device.name}`}
            value={devices.get(device.id) ?? 'none'}
            options={[
              { value: 'none', title: 'Leave out' },
              ...facts.devices
                .filter(({ id }) => Object.keys(facts.documentOf(id)?.keeps ?? {}).length > 0)
                .map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` })),
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
      </section>
      {used.length > 0 && (
        <section className="grid gap-2">
          <h3 className="font-semibold">Sources</h3>
          <div className="flex flex-wrap items-end gap-3">
            {used.map((source) => (
              <NumberField
                key={source}
                label={`In place of ${source}`}
                value={sources.get(source) ?? source}
                min={0}
                max={9999}
                className="w-28"
                onCommit={(to) => setSources(new Map([...sources, [source, Math.round(to)]]))}
              />
            ))}
            <Button onClick={() => shift(used.length)}>Shift by {used.length}</Button>
            <Button onClick={() => setSources(new Map())}>As in the file</Button>
          </div>
        </section>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Checkbox
          label="Overwrite snapshots that have the same name and folder"
          checked={replaces}
          onChange={setReplaces}
        />
        <Button kind="strong" disabled={made.length === 0} onClick={() => void add()}>
          Import {made.length === 1 ? '1 snapshot' : `${made.length} snapshots`}
        </Button>
      </div>
      <section className="grid gap-2">
        <h3 className="font-semibold">
          {made.length} of {file.snapshots.length} snapshots
        </h3>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-2">
          {made.map((data) => (
            <li key={`${data.folder} ${data.number}`} className="grid gap-1">
              <Picture src={facts.pictureOf(data.parts)} className="aspect-video w-full" />
              <span className="truncate text-[14px]">{data.name}</span>
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
