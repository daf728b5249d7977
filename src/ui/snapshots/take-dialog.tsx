'use client';

import { useEffect, useId, useMemo, useRef, useState, type ReactNode } from 'react';
import type { DeskView, SnapshotData } from '../../core/show';
import { groupsOf, newSnapshotEdit, snapshotsOf, stillOf, take, type KeepOf } from '../../core/snapshot';
import { useDesk } from '../desk';
import { Button, Checkbox, Dialog, NoteField, TextField } from '../kit';
import { newId } from '../parts';
import { fetchStill } from './fetch-still';
import { FolderField } from './folder-field';
import { SnapshotPicture } from './snapshot-marks';
import { TintField } from './tint-field';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  /** Only this device is offered, and the dialog is open from the start. */
  readonly device?: string;
  readonly isOpenAtFirst?: boolean;
  readonly onTaken?: (id: string, name: string) => void;
  readonly onClose?: () => void;
  /** What opens it. */
  readonly children?: ReactNode;
}

/** Takes what devices are set to now: which groups, under which name, in which folder. */
export function TakeDialog({ show, facts, device, isOpenAtFirst, onTaken, onClose, children }: Props) {
  const [isOpen, setIsOpen] = useState(isOpenAtFirst === true || device !== undefined);
  const setOpen = (open: boolean) => {
    setIsOpen(open);
    if (!open) onClose?.();
  };
  const form = useId();
  return (
    <Dialog
      title="Take snapshot"
      size="wide"
      isForm
      trigger={children}
      open={isOpen}
      onOpenChange={setOpen}
      description="It keeps what the devices report now."
      acts={
        <Button kind="strong" type="submit" form={form}>
          Take snapshot
        </Button>
      }
    >
      {isOpen && (
        <TakeForm
          show={show}
          facts={facts}
          device={device}
          form={form}
          onDone={(id, taken) => {
            setOpen(false);
            onTaken?.(id, taken);
          }}
        />
      )}
    </Dialog>
  );
}

interface FormProps {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly device: string | undefined;
  /** The id of the form, for the button beneath it. */
  readonly form: string;
  readonly onDone: (id: string, name: string) => void;
}

const idOf = ({ device, keep }: KeepOf): string => `${device} ${keep}`;

function TakeForm({ show, facts, device, form, onDone }: FormProps) {
  const desk = useDesk();
  const groups = useMemo(
    () =>
      groupsOf(
        facts.devices.filter(({ id }) => device === undefined || id === device),
        facts.documentOf,
      ),
    [facts, device],
  );
  const snapshots = snapshotsOf(show.records);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(groups.length === 1 ? groups.map(idOf) : []));
  const [name, setName] = useState(() => `Snapshot ${snapshots.length + 1}`);
  const [folder, setFolder] = useState(() => snapshots.at(-1)?.data.folder ?? '');
  const [tint, setTint] = useState<SnapshotData['tint']>();
  const [note, setNote] = useState('');
  const [isSaving, setSaving] = useState(false);
  const isOpen = useRef(true);
  const records = useRef(show.records);
  useEffect(() => {
    isOpen.current = true;
    return () => {
      isOpen.current = false;
    };
  }, []);
  useEffect(() => {
    records.current = show.records;
  });
  const wanted = groups.filter((group) => chosen.has(idOf(group)));
  const taken = take(wanted, facts);
  const from = stillOf(taken.parts, facts.documentOf);
  const still = facts.devices.find(({ id }) => id === from?.device)?.data.tag;
  const values = taken.parts.reduce((sum, part) => sum + Object.keys(part.values).length, 0);
  const save = async () => {
    const { parts } = take(wanted, { ...facts, fresh: facts.freshNow });
    const takenAt = new Date().toISOString();
    setSaving(true);
    const picture = await fetchStill(parts, facts);
    // The dialog was closed meanwhile.
    if (!isOpen.current) return;
    setSaving(false);
    // Somebody may have taken another one meanwhile: a number is given once.
    const edit = newSnapshotEdit(records.current, newId, {
      name: name.trim() || 'Snapshot',
      folder,
      note,
      ...(tint === undefined ? {} : { tint }),
      parts,
      takenAt,
      ...picture,
    });
    const [first] = edit.changes;
    if ((await desk.edit(edit)) && first?.op === 'add') onDone(first.record.id, name.trim() || 'Snapshot');
  };
  if (groups.length === 0)
    return <p>No device of the rig has anything that can be kept. Its driver says what can, under “keeps”.</p>;
  return (
    <form
      id={form}
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (values > 0 && !isSaving) void save();
      }}
    >
      <fieldset className="grid gap-1">
        <legend className="pb-1 font-semibold">What it keeps</legend>
        <div className="grid max-h-36 content-start overflow-y-auto border-y border-rule">
          {facts.devices.map(({ id, data }) => {
            const own = groups.filter((group) => group.device === id);
            if (own.length === 0) return null;
            return (
              <div
                key={id}
                role="group"
                aria-label={`${data.tag} ${data.name}`}
                className="grid grid-cols-[3.5rem_1fr] border-b border-rule py-1.5 last:border-b-0"
              >
                <span className="font-mono text-[13px] font-semibold" title={data.name}>
                  {data.tag}
                </span>
                <span className="flex flex-wrap gap-x-5 gap-y-1">
                  {own.map((group) => (
                    <Checkbox
                      key={group.keep}
                      label={facts.documentOf(id)?.keeps[group.keep]?.title ?? group.title}
                      checked={chosen.has(idOf(group))}
                      onChange={(on) =>
                        setChosen(
                          new Set(on ? [...chosen, idOf(group)] : [...chosen].filter((each) => each !== idOf(group))),
                        )
                      }
                    />
                  ))}
                </span>
              </div>
            );
          })}
        </div>
      </fieldset>
      <div className="grid grid-cols-2 items-start gap-3">
        <TextField label="Name" value={name} maxLength={60} onCommit={setName} />
        <FolderField show={show} value={folder} onChoose={setFolder} />
        <TintField tint={tint} onChoose={setTint} />
        <NoteField value={note} onCommit={setNote} />
      </div>
      <div className="flex items-center gap-3">
        <SnapshotPicture src={facts.pictureOf({ parts: [...taken.parts] })} className="h-18 w-32" />
        <p className="text-[14px]">
          {still && (
            <span className="block">
              {isSaving ? 'Fetching the picture …' : `A picture of ${still} is fetched when you take it.`}
            </span>
          )}
          {values === 0 ? 'Choose at least one group whose values are known.' : `${values} values.`}
          {taken.unknown.length > 0 && ` ${taken.unknown.length} are not known now and will be left out.`}
        </p>
      </div>
    </form>
  );
}
