'use client';

import { Fragment } from 'react';
import type { DeskView, SnapshotRecord } from '../../core/show';
import { blackReason, placeSnapshotEdit, snapshotsOf } from '../../core/snapshot';
import { useDesk } from '../desk';
import { Button, SortableList, type SortablePart } from '../kit';
import { OutcomeMark } from '../page';
import { SnapshotPicture, StateWord } from './snapshot-marks';
import type { Calls } from './use-calls';
import { useSnapshotStates, type SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly calls: Calls;
  readonly folders: readonly string[];
  readonly chosen: string | undefined;
  readonly onOpen: (id: string) => void;
}

/** All snapshots by folder, each with its picture and how it stands to its devices. */
export function SnapshotList({ show, facts, calls, folders, chosen, onOpen }: Props) {
  const desk = useDesk();
  const all = snapshotsOf(show.records);
  return (
    <div className="h-full min-h-0 overflow-y-auto px-4 pb-16">
      {folders.map((folder) => {
        const own = all.filter(({ data }) => data.folder === folder);
        return (
          <Fragment key={folder}>
            <h2 className="sticky top-0 z-1 border-b border-rule bg-ground pt-3 pb-1 text-[14px] font-semibold text-ink-soft">
              {folder === '' ? 'No folder' : folder} <span className="font-normal">{own.length}</span>
            </h2>
            <SortableList
              id={`snapshots-${folder}`}
              noun="snapshot"
              items={own.map((record) => ({ id: record.id, name: record.data.name, record }))}
              onPlace={(id, to) => {
                const record = own.find((each) => each.id === id);
                if (record) void desk.edit(placeSnapshotEdit(show.records, record, to));
              }}
              render={({ record }, part) => (
                <Row
                  key={record.id}
                  snapshot={record}
                  facts={facts}
                  calls={calls}
                  part={part}
                  isChosen={record.id === chosen}
                  onOpen={onOpen}
                />
              )}
            />
          </Fragment>
        );
      })}
    </div>
  );
}

interface RowProps {
  readonly snapshot: SnapshotRecord;
  readonly facts: SnapshotFacts;
  readonly calls: Calls;
  readonly part: SortablePart;
  readonly isChosen: boolean;
  readonly onOpen: (id: string) => void;
}

function Row({ snapshot: { id, data }, facts, calls, part, isChosen, onOpen }: RowProps) {
  const mark = calls.markOf(data.number);
  const { stateOf, progressOf } = useSnapshotStates();
  const { ref, style, isDragging, handle } = part;
  return (
    <li
      ref={ref}
      style={style}
      data-chosen={isChosen || undefined}
      className={`grid grid-cols-[auto_96px_minmax(0,1fr)_112px_auto] items-center gap-3 border-b border-l-3 border-rule border-l-transparent py-1 pr-1 data-chosen:border-l-accent data-chosen:bg-tape ${isDragging ? 'z-2 bg-raised' : ''}`}
    >
      {handle}
      <SnapshotPicture src={facts.pictureOf(data)} className="h-13.5 w-24" />
      <button
        type="button"
        className="grid min-h-13 content-center text-left hover:underline"
        aria-current={isChosen || undefined}
        onClick={() => onOpen(id)}
      >
        <span className="truncate font-semibold">
          <span className="font-mono text-[0.9em] font-normal text-ink-soft">{data.number}</span> {data.name}
        </span>
        <span className="truncate text-[13px] text-ink-soft">{keptText(data.parts, facts)}</span>
      </button>
      <span className="grid gap-0.5" title={mark?.reason}>
        <StateWord
          state={stateOf(data.number)}
          progress={progressOf(data.number)}
          isBlack={blackReason(data.parts, facts.documentOf) !== undefined}
        />
        {mark && mark.outcome !== 'confirmed' && <OutcomeMark mark={mark} />}
      </span>
      <Button aria-label={`Call up ${data.name}`} onClick={() => calls.call('callUp', data.number)}>
        Call up
      </Button>
    </li>
  );
}

/** What it keeps, by device: “SW1 Boxes of the layout”. */
function keptText(parts: SnapshotRecord['data']['parts'], { tagOf, documentOf }: SnapshotFacts): string {
  return (
    parts
      .map(({ device, keep }) => `${tagOf(device) ?? '?'} ${documentOf(device)?.keeps[keep]?.title ?? keep}`)
      .join(', ') || 'empty'
  );
}
