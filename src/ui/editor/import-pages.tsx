'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import {
  guessPatch,
  importEdit,
  moveKey,
  patchRows,
  readPageFile,
  type PageFile,
  type PatchRow,
  type Placing,
} from '../../core/exchange';
import { problemsBrought } from '../../core/check';
import { DriverShelf } from '../../core/driver';
import { pagesOf, summaryOf, type DeskView, type DeviceRecord } from '../../core/show';
import { driverOfDevice, useDesk } from '../desk';
import { BroughtFaults, ChangeSummary, FileFaults, newId, storePictures, useOwnFile } from '../parts';
import { Button, Dialog, FileDrop, Select, tableClass } from '../kit';

/** Brings pages in from a file: once, in a table, it is said which device of the file is which of this rig. */
export function ImportPages({ show }: { readonly show: DeskView }) {
  const { open, setOpen, read, problems, take } = useOwnFile(readPageFile);
  return (
    <Dialog title="Import pages" size="full" trigger={<Button>Import</Button>} open={open} onOpenChange={setOpen}>
      <div className="form">
        <FileDrop label="A file of pages" accept=".json,application/json" onFile={(file) => void take(file)} />
        <FileFaults problems={problems} />
        {read && <Patch key={read.name} show={show} file={read.file} onDone={() => setOpen(false)} />}
      </div>
    </Dialog>
  );
}

interface PatchProps {
  readonly show: DeskView;
  readonly file: PageFile;
  readonly onDone: () => void;
}

function Patch({ show, file, onDone }: PatchProps) {
  const desk = useDesk();
  const router = useRouter();
  const [patch, setPatch] = useState<ReadonlyMap<string, string>>(() => guessPatch(file, show.records));
  const [placing, setPlacing] = useState<Placing>(new Map());
  const [moves, setMoves] = useState<ReadonlyMap<string, number>>(new Map());
  const documentOf = ({ id }: DeviceRecord) => driverOfDevice(show, id);
  const devices = useMemo(() => show.records.filter((record) => record.kind === 'device'), [show.records]);
  const rows = patchRows(file, patch, show.records, documentOf);
  const pages = pagesOf(show.records);
  const shelf = useMemo(() => {
    const drivers = new DriverShelf();
    drivers.put(show.drivers);
    return drivers;
  }, [show.drivers]);
  const made = useMemo(
    () => importEdit(show.records, file, patch, placing, moves, ({ id }) => driverOfDevice(show, id), newId),
    [show, file, patch, placing, moves],
  );
  const broken = useMemo(
    () => (made.ok ? problemsBrought(show.records, made.value.edit, (device) => shelf.for(device.data)) : []),
    [made, show.records, shelf],
  );
  const bring = async () => {
    if (!made.ok) return desk.say(made.error, true);
    const stored = await storePictures(file.pictures);
    if (!stored) return desk.say('Not imported: a picture of the file could not be stored.', true);
    if (!(await desk.edit(made.value.edit))) return;
    onDone();
    router.push(`/pages/${made.value.pages[0] ?? ''}?edit=1`);
  };
  return (
    <>
      <h3>Which device is which</h3>
      {file.devices.length === 0 && <p className="text-ink-soft">The file names no devices.</p>}
      {file.devices.length > 0 && (
        <table className={tableClass}>
          <thead>
            <tr>
              <th scope="col">In the file</th>
              <th scope="col">In this rig</th>
              <th scope="col">What differs</th>
              <th scope="col">Stored numbers</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.mention.id}>
                <th scope="row">
                  <span className="font-mono text-[0.93em] font-semibold">{row.mention.tag}</span> {row.mention.name}
                </th>
                <td>
                  <Select
                    label={`${row.mention.tag} in this rig`}
                    labelAt="hidden"
                    value={row.device?.id ?? ''}
                    options={[
                      { value: '', title: 'none: its controls will say so' },
                      ...devices.map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` })),
                    ]}
                    onChoose={(id) => {
                      const next = new Map(patch);
                      if (id === '') next.delete(row.mention.id);
                      else next.set(row.mention.id, id);
                      setPatch(next);
                    }}
                  />
                </td>
                <td>
                  <Differs row={row} />
                </td>
                <td>
                  <Stored row={row} moves={moves} onMoves={setMoves} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <h3>Where the pages go</h3>
      {file.pages.map(({ id, data }) => {
        const way = placing.get(id) ?? 'new';
        return (
          <Select
            key={id}
            label={data.name}
            remark={`${data.columns} by ${data.rows}, ${file.controls.filter(({ page }) => page === id).length} controls`}
            value={typeof way === 'object' ? way.over : way}
            options={[
              { value: 'new', title: 'add as a new page' },
              { value: 'leave', title: 'do not import' },
              ...pages.map((page) => ({ value: page.id, title: `replace ${page.data.name}` })),
            ]}
            onChoose={(value) =>
              setPlacing(new Map(placing).set(id, value === 'new' || value === 'leave' ? value : { over: value }))
            }
          />
        );
      })}
      <h3>What changes</h3>
      {made.ok ? (
        <ChangeSummary summary={summaryOf(made.value.edit)} />
      ) : (
        <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{made.error}</p>
      )}
      <BroughtFaults broken={broken} />
      <p className="text-ink-soft">Addresses and settings of the rig stay as they are. One undo reverts all of it.</p>
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button kind="strong" disabled={!made.ok} onClick={() => void bring()}>
          Import
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
    </>
  );
}

function Differs({ row: { device, differs, cannot } }: { readonly row: PatchRow }) {
  if (!device) return <span className="text-ink-soft">its controls come along and are marked</span>;
  if (differs.length === 0 && cannot.length === 0) return <span className="text-ink-soft">nothing</span>;
  return (
    <>
      {differs.length > 0 && <span>{differs.join(', ')}</span>}
      {cannot.length > 0 && (
        <span className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          Cannot work here: {cannot.join(', ')}
        </span>
      )}
    </>
  );
}

interface StoredProps {
  readonly row: PatchRow;
  readonly moves: ReadonlyMap<string, number>;
  readonly onMoves: (moves: ReadonlyMap<string, number>) => void;
}

function Stored({ row: { device, stored }, moves, onMoves }: StoredProps) {
  if (!device || stored.length === 0) return <span className="text-ink-soft">none</span>;
  return stored.map(({ family, title, used, clash }) => {
    const key = moveKey(device.id, family);
    return (
      <label key={family}>
        {title} {used.join(', ')}
        {clash.length > 0 && <b>also called here: {clash.join(', ')}</b>}
        <span className="flex items-center gap-1.5 [&_input]:w-18">
          move by
          <input
            type="number"
            aria-label={`Move ${title} of ${device.data.tag} by`}
            value={moves.get(key) ?? 0}
            onChange={(event) => onMoves(new Map(moves).set(key, Math.round(Number(event.target.value)) || 0))}
          />
        </span>
      </label>
    );
  });
}
