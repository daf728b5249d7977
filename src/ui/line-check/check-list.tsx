'use client';

import { ChevronDown, ChevronRight } from 'lucide-react';
import { useMemo, useState } from 'react';
import { figuresText, tellingOf, type CheckGroup, type Figures } from '../../core/line-check';
import type { CheckItemView } from '../../core/live';
import { Progress } from '../kit';
import { useNow } from '../live';
import { ageText, VeiledText, VirtualRows } from '../parts';
import { kindWords, StandingWord } from '../proofs';

interface Props {
  readonly groups: readonly CheckGroup<CheckItemView>[];
  readonly names: ReadonlyMap<string, string>;
  readonly open: string | undefined;
  readonly isNarrow: boolean;
  readonly isSearching: boolean;
  readonly onOpen: (item: string) => void;
}

type Row =
  | { readonly is: 'group'; readonly group: CheckGroup<CheckItemView>; readonly isOpen: boolean }
  | { readonly is: 'item'; readonly group: string; readonly item: CheckItemView };

const wide = 'grid-cols-[minmax(0,5fr)_96px_minmax(0,3fr)_104px_minmax(0,6fr)_64px]';
const narrow = 'grid-cols-[minmax(0,5fr)_96px_104px]';

/** The items in their groups. A group says how far it is proved; those with something wrong are open at first. */
export function CheckList({ groups, names, open, isNarrow, isSearching, onOpen }: Props) {
  /** What somebody has opened or closed by hand. */
  const [turned, setTurned] = useState<ReadonlyMap<string, boolean>>(new Map());
  const now = useNow();
  const rows = useMemo(
    () =>
      groups.flatMap((group): Row[] => {
        const { failed, doubtful } = group.figures.count;
        const isOpen = isSearching || (turned.get(group.id) ?? failed + doubtful > 0);
        const items = isOpen ? group.items.map((item): Row => ({ is: 'item', group: group.id, item })) : [];
        return [{ is: 'group', group, isOpen }, ...items];
      }),
    [groups, turned, isSearching],
  );
  const places = useMemo(() => new Map(rows.map((row, n) => [row, n])), [rows]);
  const turn = (id: string, isOpen: boolean) => setTurned(new Map(turned).set(id, isOpen));
  return (
    <div className="flex h-full min-h-0 flex-col">
      <VirtualRows
        label="What the show relies on"
        columns={isNarrow ? ['Item', 'Kind', 'Result'] : ['Item', 'Kind', 'Where', 'Result', 'What was seen', 'Ago']}
        columnClass={isNarrow ? narrow : wide}
        rows={rows}
        rowHeight={34}
        keyOf={(row) => places.get(row) ?? 0}
        rowClass={(row) =>
          row.is === 'group'
            ? 'border-b border-rule-strong bg-raised'
            : `border-b border-rule hover:bg-raised ${row.item.id === open ? 'bg-raised' : ''}`
        }
        cells={(row) =>
          row.is === 'group' ? (
            <GroupCells row={row} isNarrow={isNarrow} onTurn={turn} />
          ) : (
            <ItemCells
              item={row.item}
              names={names}
              isNarrow={isNarrow}
              isOpen={row.item.id === open}
              now={now}
              onOpen={onOpen}
            />
          )
        }
      />
    </div>
  );
}

interface GroupProps {
  readonly row: Extract<Row, { is: 'group' }>;
  readonly isNarrow: boolean;
  readonly onTurn: (id: string, isOpen: boolean) => void;
}

function GroupCells({ row: { group, isOpen }, isNarrow, onTurn }: GroupProps) {
  const Mark = isOpen ? ChevronDown : ChevronRight;
  const { figures, title } = group;
  return (
    <>
      <span role="cell" className={isNarrow ? 'col-span-2' : ''}>
        <button
          type="button"
          aria-expanded={isOpen}
          className="flex min-h-8 max-w-full items-center gap-2 text-left font-semibold hover:underline"
          onClick={() => onTurn(group.id, !isOpen)}
        >
          <Mark aria-hidden className="size-4 shrink-0" />
          <span className="truncate">{title}</span>
        </button>
      </span>
      {!isNarrow && (
        <span role="cell" className="col-span-2">
          {/* What is proved in full is quiet. */}
          {figures.share < 1 && <Progress label={`Proved of ${title}`} part={figures.share} className="h-1.5 w-full" />}
        </span>
      )}
      <span role="cell" className={isNarrow ? '' : 'col-span-3'}>
        {isNarrow ? shortText(figures) : figuresText(figures)}
      </span>
    </>
  );
}

interface ItemProps {
  readonly item: CheckItemView;
  readonly names: ReadonlyMap<string, string>;
  readonly isNarrow: boolean;
  readonly isOpen: boolean;
  readonly now: number;
  readonly onOpen: (item: string) => void;
}

function ItemCells({ item, names, isNarrow, isOpen, now, onOpen }: ItemProps) {
  const result = tellingOf(item, item.results, ({ isOld }) => !isOld);
  const where = [...item.pages, ...item.panels].map((id) => names.get(id) ?? '').join(', ');
  const seen = item.fault ?? result?.text ?? item.why ?? '';
  return (
    <>
      <span role="cell" className="pl-6">
        <button
          type="button"
          className="max-w-full truncate text-left hover:underline"
          aria-expanded={isOpen}
          title={item.title}
          onClick={() => onOpen(item.id)}
        >
          {item.title}
        </button>
      </span>
      <span role="cell" className="text-ink-soft">
        {kindWords[item.kind]}
      </span>
      {!isNarrow && (
        <span role="cell" className="text-ink-soft" title={where}>
          {where}
        </span>
      )}
      <span role="cell">
        <StandingWord standing={item.standing} />
      </span>
      {!isNarrow && (
        <>
          <span role="cell" className="text-ink-soft" title={seen}>
            <VeiledText text={seen} />
          </span>
          <span role="cell" className="text-ink-soft">
            {result && now > 0 ? ageText(now - result.at) : ''}
          </span>
        </>
      )}
    </>
  );
}

const shortText = ({ count, total }: Figures): string =>
  total === count.none ? '–' : `${count.passed} of ${total - count.none}`;
