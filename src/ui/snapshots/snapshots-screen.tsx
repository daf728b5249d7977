'use client';

import { useMemo, useState } from 'react';
import { ownId } from '../../core/show';
import { foldersOf, snapshotsOf } from '../../core/snapshot';
import { useShow } from '../desk';
import { Button, EmptyState, SplitPanes } from '../kit';
import { useLive } from '../live';
import { MacrosOrSnapshots } from '../parts';
import { Collections } from './collections';
import { SnapshotDetails } from './snapshot-details';
import { SnapshotList } from './snapshot-list';
import { TakeDialog } from './take-dialog';
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
        <MacrosOrSnapshots here="snapshots" id="snapshots-title" />
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
            <SnapshotList show={show} facts={facts} folders={foldersOf(snapshots)} chosen={chosen?.id} onOpen={open} />
          }
          side={chosen && <SnapshotDetails key={chosen.id} show={show} facts={facts} snapshot={chosen} onOpen={open} />}
        />
      )}
    </section>
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
