'use client';

import { useMemo, useState } from 'react';
import { ownId, type DeskView, type GlideTime } from '../../core/show';
import { foldersOf, snapshotsOf } from '../../core/snapshot';
import { useDesk, useShow } from '../desk';
import { Button, EmptyState, Select, SplitPanes } from '../kit';
import { useLive } from '../live';
import { AutomationRooms } from '../parts';
import { Collections } from './collections';
import { curveOptions } from './curve-options';
import { GlideTimeField } from './glide-time-field';
import { SnapshotDetails } from './snapshot-details';
import { SnapshotList } from './snapshot-list';
import { TakeDialog } from './take-dialog';
import { useCalls } from './use-calls';
import { useSnapshotFacts, useSnapshotStates } from './use-snapshot-facts';

interface Props {
  /** The one that is open at first. */
  readonly first: string | undefined;
  /** One of this device is to be taken. */
  readonly takeOf?: string | undefined;
}

/** The snapshots of the show by folder, and one of them with what it keeps. */
export function SnapshotsScreen({ first, takeOf }: Props) {
  const { show } = useShow();
  const facts = useSnapshotFacts(show);
  const calls = useCalls();
  const [snapshot, setSnapshot] = useState(first);
  const snapshots = useMemo(() => snapshotsOf(show?.records ?? []), [show]);
  const chosen = snapshots.find(({ id }) => id === snapshot);
  // The address says which one is open; the screen stays as it is, with its scroll.
  const open = (id: string | undefined) => {
    setSnapshot(id);
    history.replaceState(null, '', id === undefined ? '/snapshots' : `/snapshots?open=${id}`);
  };
  return (
    <section className="flex h-full min-h-0 flex-col" aria-labelledby="snapshots-title">
      <header className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-rule px-4 py-2">
        <AutomationRooms here="snapshots" id="snapshots-title" />
        {show && snapshots.length > 0 && <ShowGlide show={show} />}
        <GlideButtons />
        <span className="ml-auto flex flex-wrap gap-2">
          {show && <Collections show={show} facts={facts} chosen={chosen} />}
          {show && (
            <TakeDialog show={show} facts={facts} onTaken={open} {...(takeOf === undefined ? {} : { device: takeOf })}>
              <Button kind="strong">Take snapshot</Button>
            </TakeDialog>
          )}
        </span>
      </header>
      {!show && <p className="px-4 py-6 text-ink-soft">Fetching the show …</p>}
      {show && snapshots.length === 0 && (
        <div className="px-4">
          <EmptyState title="No snapshots yet.">
            <p>
              A snapshot keeps what devices are set to: the boxes of a layout, the levels of a mixer, a lighting state.
              Set the devices up, take a snapshot, and call it up from a button as a cut or a glide. Twenty-four layouts
              are under Import.
            </p>
          </EmptyState>
        </div>
      )}
      {show && snapshots.length > 0 && (
        <SplitPanes
          name="snapshots"
          sideSize="42%"
          main={
            <SnapshotList
              show={show}
              facts={facts}
              calls={calls}
              folders={foldersOf(snapshots)}
              chosen={chosen?.id}
              onOpen={open}
            />
          }
          side={
            chosen && (
              <SnapshotDetails
                key={chosen.id}
                show={show}
                facts={facts}
                calls={calls}
                snapshot={chosen}
                onOpen={open}
              />
            )
          }
        />
      )}
    </section>
  );
}

/** How snapshots are called up that have no way of their own. */
function ShowGlide({ show }: { readonly show: DeskView }) {
  const desk = useDesk();
  const record = show.records.find((each) => each.kind === 'show');
  if (record?.kind !== 'show') return null;
  const { glide } = record.data;
  const save = (to: GlideTime | undefined) => {
    const { glide: _, ...rest } = record.data;
    const data = to === undefined || to.ms === 0 ? rest : { ...rest, glide: to };
    void desk.edit({
      title: 'How snapshots are called up',
      changes: [{ op: 'update', from: record, to: { ...record, data } }],
    });
  };
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 pl-3 text-[14px]">
      <GlideTimeField
        show={show}
        label="Usual time"
        labelAt="before"
        glide={glide}
        onChange={(time) => save({ ...time, curve: glide?.curve ?? 'smooth' })}
      />
      {glide ? (
        <Select
          label="Curve"
          labelAt="before"
          value={glide.curve}
          options={curveOptions}
          onChoose={(curve) => save({ ...glide, curve })}
        />
      ) : (
        <span className="text-ink-soft">0 is a cut</span>
      )}
    </div>
  );
}

/** What can be done to everything that glides; there only while something does. */
function GlideButtons() {
  const live = useLive();
  const { isGliding, isHeld } = useSnapshotStates();
  if (!isGliding) return null;
  const tell = (command: string, params: Record<string, boolean> = {}) =>
    live.tryCommand(ownId, command, params, { gesture: 'tap' });
  return (
    <span role="group" aria-label="Glides" className="flex gap-2">
      <Button onClick={() => tell('holdGlides', { on: !isHeld })}>{isHeld ? 'Resume' : 'Hold'}</Button>
      <Button onClick={() => tell('turnGlides')}>Run back</Button>
      <Button onClick={() => tell('stopGlides')}>Stop</Button>
    </span>
  );
}
