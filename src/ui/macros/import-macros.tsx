'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { problemsBrought } from '../../core/check';
import { DriverShelf } from '../../core/driver';
import { guessMacroPatch, importMacrosEdit, readMacroFile, type MacroFile } from '../../core/exchange';
import type { DeskView } from '../../core/show';
import { useDesk } from '../desk';
import { Button, Dialog, FileDrop, Select } from '../kit';
import { BroughtFaults, FileFaults, newId, storePictures, useOwnFile } from '../parts';

/** Brings macros in from a file: once it is said which device of the file is which of this rig. */
export function ImportMacros({ show }: { readonly show: DeskView }) {
  const { open, setOpen, read, problems, take } = useOwnFile(readMacroFile);
  const trigger = <Button aria-label="Import macros">Import</Button>;
  return (
    <Dialog title="Import macros" trigger={trigger} open={open} onOpenChange={setOpen}>
      <div className="form">
        <FileDrop label="A file of macros" accept=".json,application/json" onFile={(file) => void take(file)} />
        <FileFaults problems={problems} />
        {read && <Patch key={read.name} show={show} file={read.file} onDone={() => setOpen(false)} />}
      </div>
    </Dialog>
  );
}

interface PatchProps {
  readonly show: DeskView;
  readonly file: MacroFile;
  readonly onDone: () => void;
}

function Patch({ show, file, onDone }: PatchProps) {
  const desk = useDesk();
  const router = useRouter();
  const [patch, setPatch] = useState<ReadonlyMap<string, string>>(() => guessMacroPatch(file.devices, show.records));
  const devices = useMemo(() => show.records.filter((record) => record.kind === 'device'), [show.records]);
  const shelf = useMemo(() => {
    const drivers = new DriverShelf();
    drivers.put(show.drivers);
    return drivers;
  }, [show.drivers]);
  const made = useMemo(() => importMacrosEdit(show.records, file, patch, newId), [show.records, file, patch]);
  const broken = useMemo(
    () => (made.ok ? problemsBrought(show.records, made.value.edit, (device) => shelf.for(device.data)) : []),
    [made, show.records, shelf],
  );
  const bring = async () => {
    if (!made.ok) return;
    if (!(await storePictures(file.pictures)))
      return desk.say('Not imported: a picture of the file could not be stored.', true);
    if (!(await desk.edit(made.value.edit))) return;
    onDone();
    router.push(`/macros/${made.value.macros[0] ?? ''}`);
  };
  return (
    <>
      <p>
        {file.macros.length === 1 ? '1 macro' : `${file.macros.length} macros`}:{' '}
        {file.macros.map(({ data }) => data.name).join(', ')}
      </p>
      {file.devices.map(({ id, tag, name }) => (
        <Select
          key={id}
          label={`${tag} ${name} is here`}
          value={patch.get(id) ?? ''}
          options={[
            { value: '', title: 'none: its steps are marked' },
            ...devices.map((each) => ({ value: each.id, title: `${each.data.tag} ${each.data.name}` })),
          ]}
          onChoose={(to) => {
            const next = new Map(patch);
            if (to === '') next.delete(id);
            else next.set(id, to);
            setPatch(next);
          }}
        />
      ))}
      {!made.ok && <p role="alert">{made.error}</p>}
      <BroughtFaults broken={broken} />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button kind="strong" disabled={!made.ok} onClick={() => void bring()}>
          Import
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
    </>
  );
}
