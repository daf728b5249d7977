'use client';

import { Ellipsis, X } from 'lucide-react';
import { useState } from 'react';
import { type DeskView, type SnapshotData, type SnapshotRecord } from '../../core/show';
import {
  blackReason,
  changeSnapshotEdit,
  copySnapshotEdit,
  numberProblem,
  overwriteEdit,
  removeSnapshotEdit,
  stillOf,
  swapBackEdit,
  take,
} from '../../core/snapshot';
import { useDesk } from '../desk';
import { Button, Checkbox, Confirm, Fold, Menu, NoteField, NumberField, Select, TextField, tellNotice } from '../kit';
import { OutcomeMark } from '../page';
import { OutsidePart } from '../outside';
import { newId } from '../parts';
import { curveOptions } from './curve-options';
import { fetchStill } from './fetch-still';
import { FolderField } from './folder-field';
import { GlideTimeField } from './glide-time-field';
import { SnapshotParts } from './snapshot-parts';
import { SnapshotPicture, StateWord } from './snapshot-marks';
import { TintField } from './tint-field';
import type { Calls } from './use-calls';
import { useSnapshotStates, type SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly calls: Calls;
  readonly snapshot: SnapshotRecord;
  readonly onOpen: (id: string | undefined) => void;
}

/** One snapshot: what it is called, how it is called up, and what it keeps. */
export function SnapshotDetails({ show, facts, calls, snapshot, onOpen }: Props) {
  const desk = useDesk();
  const { stateOf, progressOf } = useSnapshotStates();
  const [isRemoving, setRemoving] = useState(false);
  const [numberError, setNumberError] = useState<string>();
  const { data } = snapshot;
  const change = (what: string, to: Partial<SnapshotData>) =>
    void desk.edit(changeSnapshotEdit(snapshot, { ...data, ...to }, what));
  const call = (command: 'callUp' | 'cutTo') => calls.call(command, data.number);
  const mark = calls.markOf(data.number);
  const overwrite = async () => {
    const { parts, unknown, missing } = take(data.parts, { ...facts, fresh: facts.freshNow });
    if (missing.length > 0 || parts.length < data.parts.length)
      return tellNotice(
        'Nothing was overwritten: not everything that it keeps is known now. Check the links of its devices.',
        'snapshot',
      );
    if (unknown.length > 0) tellNotice(`${unknown.length} values are not known now and were left out.`, 'snapshot');
    const takenAt = new Date().toISOString();
    const picture = await fetchStill(parts, facts);
    void desk.edit(overwriteEdit(snapshot, { parts, takenAt, ...picture }));
  };
  const black = blackReason(data.parts, facts.documentOf);
  const { tint, glide, yields } = data;
  return (
    <article
      className="flex h-full min-h-0 flex-col gap-2.5 overflow-y-auto px-4 pt-3 pb-20 [&>*]:shrink-0"
      aria-labelledby={`${snapshot.id}-name`}
    >
      <header className="grid gap-2 pb-3">
        <div className="flex items-center gap-2">
          <h2 id={`${snapshot.id}-name`} className="min-w-0 truncate text-[17px] font-semibold">
            <span className="font-mono text-[0.9em] font-normal text-ink-soft">{data.number}</span> {data.name}
          </h2>
          <span className="ml-auto flex shrink-0">
            <Menu
              acts={[
                {
                  title: 'Duplicate',
                  run: () => {
                    const edit = copySnapshotEdit(show.records, snapshot, newId);
                    void desk.edit(edit);
                  },
                },
                {
                  title: 'Get back what it kept before',
                  disabled: !data.before,
                  run: () => {
                    const edit = swapBackEdit(snapshot);
                    if (edit) void desk.edit(edit);
                  },
                },
                { title: 'Remove snapshot …', run: () => setRemoving(true) },
              ]}
            >
              <Button kind="ghost" aria-label={`More for ${data.name}`}>
                <Ellipsis aria-hidden className="size-4" />
              </Button>
            </Menu>
            <Button kind="ghost" aria-label="Close details" onClick={() => onOpen(undefined)}>
              <X aria-hidden className="size-4" />
            </Button>
          </span>
        </div>
        <div className="flex flex-wrap items-center gap-2">
          <Button kind="strong" onClick={() => call('callUp')}>
            Call up
          </Button>
          <Button onClick={() => call('cutTo')}>Cut</Button>
          <Button onClick={() => void overwrite()}>Overwrite with what is set now</Button>
          <StateWord state={stateOf(data.number)} progress={progressOf(data.number)} isBlack={false} />
        </div>
        {mark && <OutcomeMark mark={mark} />}
        {mark?.reason !== undefined && mark.outcome !== 'confirmed' && <p className="text-[14px]">{mark.reason}</p>}
        {black !== undefined && (
          <p className="border-l-4 border-warning pl-2 text-[14px]">
            It would show only black. {black} Choose sources below, or switch a box on.
          </p>
        )}
      </header>
      {data.picture !== undefined && stillOf(data.parts, facts.documentOf) && (
        <SnapshotPicture src={facts.pictureOf(data)} className="h-36 w-64" />
      )}
      <SnapshotParts show={show} facts={facts} snapshot={snapshot} />
      <OutsidePart records={show.records} of={snapshot} />
      <Fold name="Name and folder">
        <TextField
          label="Name"
          value={data.name}
          maxLength={60}
          onCommit={(name) => name.trim() !== '' && change('Name', { name: name.trim() })}
        />
        <FolderField show={show} value={data.folder} onChoose={(folder) => change('Folder', { folder })} />
        <NumberField
          label="Number"
          help="Buttons, macros and other programs call it by this."
          value={data.number}
          min={1}
          max={999}
          error={numberError}
          onCommit={(number) => {
            const problem = numberProblem(show.records, snapshot, number);
            setNumberError(problem);
            if (problem === undefined) change('Number', { number });
          }}
        />
        <TintField
          tint={tint}
          onChoose={(to) => {
            const { tint: _, ...rest } = data;
            void desk.edit(changeSnapshotEdit(snapshot, to === undefined ? rest : { ...rest, tint: to }, 'Tint'));
          }}
        />
        <NoteField value={data.note} onCommit={(note) => change('Note', { note })} />
      </Fold>
      <Fold name="How it is called up">
        <Checkbox
          label="Use its own time and curve"
          checked={glide !== undefined}
          onChange={(isOwn) => {
            const { glide: _, ...rest } = data;
            const own = show.records.find((each) => each.kind === 'show')?.data.glide ?? {
              ms: 1000,
              curve: 'smooth' as const,
            };
            void desk.edit(changeSnapshotEdit(snapshot, isOwn ? { ...rest, glide: own } : rest, 'Way to call up'));
          }}
        />
        {glide && (
          <div className="grid grid-cols-2 gap-3">
            <GlideTimeField
              show={show}
              label="Time"
              help="0 is a cut."
              glide={glide}
              onChange={(time) => change('Time', { glide: { ...time, curve: glide.curve } })}
            />
            <Select
              label="Curve"
              value={glide.curve}
              options={curveOptions}
              onChoose={(curve) => change('Curve', { glide: { ...glide, curve } })}
            />
          </div>
        )}
        <Checkbox
          label="Leave values that somebody changes at the device meanwhile"
          checked={yields === true}
          onChange={(on) => {
            const { yields: _, ...rest } = data;
            void desk.edit(changeSnapshotEdit(snapshot, on ? { ...rest, yields: true } : rest, 'Way to call up'));
          }}
        />
      </Fold>
      <Confirm
        title={`Remove snapshot ${data.name}?`}
        act="Remove snapshot"
        open={isRemoving}
        onOpenChange={setRemoving}
        onAct={() => {
          onOpen(undefined);
          void desk.edit(removeSnapshotEdit(snapshot));
        }}
      >
        Controls and macros that call number {data.number} will say that it is missing.
      </Confirm>
    </article>
  );
}
