'use client';

import { useDeferredValue, useMemo, useState } from 'react';
import { figuresOf, groupsOf } from '../../core/line-check';
import type { CheckItemView, StatusView } from '../../core/live';
import { ownDevice, ownId } from '../../core/show';
import { Button, EmptyState, Segmented, SplitPanes } from '../kit';
import { useStatus } from '../live';
import { useLineCheck } from '../proofs';
import { CheckList } from './check-list';
import { CheckSummary } from './check-summary';
import { ItemDetail } from './item-detail';
import { LeftChanged } from './left-changed';
import { WalkRound } from './walk-round';

type Grouping = 'device' | 'page';

/** What the show relies on, what of it is proved, and the run that proves it. */
export function LineCheckScreen() {
  const check = useLineCheck();
  const status = useStatus();
  const [by, setBy] = useState<Grouping>('device');
  const [part, setPart] = useState<'toDo' | 'all'>('all');
  const [search, setSearch] = useState('');
  const [open, setOpen] = useState<string>();
  const [isWalking, setWalking] = useState(false);
  const { view } = check;
  const items = useMemo(() => Object.values(view?.items ?? {}), [view?.items]);
  const words = useDeferredValue(search);
  const names = useNames(status);
  const groups = useMemo(
    () => groupsOf(items, { by, isToDo: part === 'toDo', search: words, titleOf: (id) => names.get(id) }),
    [items, by, part, words, names],
  );
  const figures = useMemo(() => figuresOf(items.map(({ standing }) => standing)), [items]);
  const chosen = open === undefined ? undefined : view?.items[open];
  if (isWalking) return <WalkRound check={check} onClose={() => setWalking(false)} />;
  return (
    <section className="flex h-full min-h-full flex-col px-4 pt-3.5 pb-3" aria-labelledby="line-check-title">
      <CheckSummary figures={figures} check={check} items={items} names={names} onWalk={() => setWalking(true)} />
      <LeftChanged items={items} names={names} onOpen={setOpen} />
      <div className="mb-2 flex flex-wrap items-center gap-x-3.5 gap-y-2">
        <Segmented
          label="Group by"
          value={by}
          options={[
            { value: 'device', title: 'By device' },
            { value: 'page', title: 'By page' },
          ]}
          onChoose={setBy}
        />
        <Segmented
          label="Which items"
          value={part}
          options={[
            { value: 'all', title: 'All' },
            { value: 'toDo', title: 'To do' },
          ]}
          onChoose={setPart}
        />
        <input
          type="search"
          aria-label="Search items"
          placeholder="Search items"
          className="min-w-0"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
      </div>
      <SplitPanes
        name="line-check"
        main={
          groups.length === 0 ? (
            <Nothing items={items} state={view?.plan.state} onPlan={() => void check.control('plan')} />
          ) : (
            <CheckList
              groups={groups}
              names={names}
              open={open}
              isNarrow={chosen !== undefined}
              // What a search has found is not hidden in a group.
              isSearching={words.trim() !== ''}
              onOpen={setOpen}
            />
          )
        }
        side={
          chosen && (
            <ItemDetail key={chosen.id} item={chosen} names={names} check={check} onClose={() => setOpen(undefined)} />
          )
        }
      />
    </section>
  );
}

interface NothingProps {
  readonly items: readonly CheckItemView[];
  readonly state: string | undefined;
  readonly onPlan: () => void;
}

function Nothing({ items, state, onPlan }: NothingProps) {
  if (items.length > 0) return <p className="text-ink-soft">Nothing here. Choose All, or change the search.</p>;
  if (state === undefined || state === 'making' || state === 'none')
    return <p className="text-ink-soft">Planning the line check …</p>;
  if (state === 'failed')
    return <EmptyState title="There is no plan." acts={<Button onClick={onPlan}>Plan again</Button>} />;
  return (
    <EmptyState title="There is nothing to prove yet.">
      Add devices to the rig and controls to pages. Every connection, command and lamp will be listed here.
    </EmptyState>
  );
}

/** What devices, pages and panels are called, by id. */
function useNames(status: StatusView | undefined): ReadonlyMap<string, string> {
  const { devices, pages, panels } = status ?? {};
  return useMemo(
    () =>
      new Map([
        [ownId, `${ownDevice.data.tag} ${ownDevice.data.name}`] as const,
        ...Object.entries(devices ?? {}).map(([id, { tag, name }]) => [id, `${tag} ${name}`] as const),
        ...(pages ?? []).map(({ id, name }) => [id, name] as const),
        ...(panels ?? []).map(({ id, name }) => [id, name] as const),
      ]),
    [devices, pages, panels],
  );
}
