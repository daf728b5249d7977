'use client';

import type { WatchProblem } from '../../core/check';
import type { DeskView, WatchRecord } from '../../core/show';
import { placeWatchEdit, watchesOf, whenText } from '../../core/watch';
import { useDesk } from '../desk';
import type { RigFacts } from '../fields';
import { SortableList, Switch, type SortablePart } from '../kit';
import { Cross } from '../parts';
import { useWatchStates, type WatchNow } from './use-watch-states';
import { useWatchVerbs, type WatchVerbs } from './use-watch-verbs';
import { ComingUp } from './coming-up';
import { WatchRemark } from './watch-marks';

interface Props {
  readonly show: DeskView;
  readonly facts: RigFacts;
  readonly problemsOf: (watch: WatchRecord) => readonly WatchProblem[];
  readonly chosen: string | undefined;
  readonly onOpen: (id: string) => void;
}

/** All watches with what they wait for, how they are doing, and when they fire or fired. */
export function WatchList({ show, facts, problemsOf, chosen, onOpen }: Props) {
  const desk = useDesk();
  const verbs = useWatchVerbs();
  const stateOf = useWatchStates();
  const all = watchesOf(show.records);
  return (
    <div className="h-full min-h-0 overflow-y-auto px-4 pb-16">
      <ComingUp watches={all} stateOf={stateOf} onOpen={onOpen} />
      <SortableList
        id="watches"
        noun="watch"
        items={all.map((record) => ({ id: record.id, name: record.data.name, record }))}
        onPlace={(id, to) => {
          const record = all.find((each) => each.id === id);
          if (record) void desk.edit(placeWatchEdit(show.records, record, to));
        }}
        render={({ record }, part) => (
          <Row
            key={record.id}
            watch={record}
            text={whenText(record.data, facts)}
            problems={problemsOf(record).length}
            now={stateOf(record.data.number)}
            verbs={verbs}
            part={part}
            isChosen={record.id === chosen}
            onOpen={onOpen}
          />
        )}
      />
    </div>
  );
}

interface RowProps {
  readonly watch: WatchRecord;
  readonly text: string;
  readonly problems: number;
  readonly now: WatchNow;
  readonly verbs: WatchVerbs;
  readonly part: SortablePart;
  readonly isChosen: boolean;
  readonly onOpen: (id: string) => void;
}

function Row({ watch, text, problems, now, verbs, part, isChosen, onOpen }: RowProps) {
  const { id, data } = watch;
  const { ref, style, isDragging, handle } = part;
  const isOn = now.state !== undefined && now.state !== 'off';
  return (
    <li
      ref={ref}
      style={style}
      data-chosen={isChosen || undefined}
      className={`grid grid-cols-[auto_minmax(0,1fr)_128px_auto] items-center gap-3 border-b border-l-3 border-rule border-l-transparent py-1 pr-1 data-chosen:border-l-accent data-chosen:bg-tape ${isDragging ? 'z-2 bg-raised' : ''}`}
    >
      {handle}
      <button
        type="button"
        className="grid min-h-13 content-center text-left hover:underline"
        aria-current={isChosen || undefined}
        onClick={() => onOpen(id)}
      >
        <span className="truncate font-semibold">
          <span className="font-mono text-[0.9em] font-normal text-ink-soft">{data.number}</span> {data.name}
        </span>
        <span className="truncate text-[13px] text-ink-soft">{text}</span>
      </button>
      <span className="grid gap-0.5 text-[14px]" title={now.why}>
        {problems > 0 ? (
          <span className="pl-3">
            <Cross /> {problems} to mend
          </span>
        ) : (
          <WatchRemark state={now.state} />
        )}
        <span className="truncate pl-3 text-[13px] text-ink-soft">
          {now.next !== '' ? `next ${now.next}` : now.last !== '' ? `fired ${now.last}` : 'not fired yet'}
        </span>
      </span>
      <Switch label="On" title={`Switch ${data.name}`} checked={isOn} onChange={(to) => verbs.switch(watch, to)} />
    </li>
  );
}
