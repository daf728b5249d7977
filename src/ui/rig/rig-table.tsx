'use client';

import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnSizingState,
  type Row,
  type SortingState,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { memo, useState, type MouseEvent } from 'react';
import type { Network } from '../../core/diagnosis';
import { placeText } from '../../core/net';
import type { DeviceStatus } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import type { DeviceRecord, DeviceUses } from '../../core/show';
import { Button, localValue } from '../kit';
import { LinkWord, VeiledText } from '../parts';
import { HelperLights } from './helper-lights';
import { GradeMarks } from './grade-marks';
import { PulseLine, type PulseStore } from './pulse-line';
import { groupOf, needsOf, urgencyOf, type Grouping, type RigRow } from './rig-order';
import { TestWord } from './test-pane';
import type { DeviceTest, Tests } from './use-test';

/** What the table knows of one device. */
interface Line extends RigRow {
  readonly driver: string;
  readonly controls: number;
}

interface RigTableProps {
  readonly rows: readonly RigRow[];
  readonly driverOf: (device: DeviceRecord) => string;
  readonly uses: ReadonlyMap<string, DeviceUses>;
  readonly grouping: Grouping;
  readonly network: Network | undefined;
  readonly pulses: PulseStore;
  readonly tests: Tests;
  /** What is wrong with a device in the rig as a whole, by device. */
  readonly conflicts: ReadonlyMap<string, string>;
  readonly chosen: ReadonlySet<string>;
  readonly open: string | undefined;
  readonly onOpen: (device: string) => void;
  readonly onChoose: (devices: readonly string[], chosen: boolean) => void;
  readonly onCallAgain: (device: string) => void;
  readonly onShowTest: (device: string) => void;
}

const column = createColumnHelper<Line>();
const columns = [
  column.accessor(({ device }) => device.data.tag, {
    id: 'tag',
    header: 'Tag',
    size: 62,
    sortingFn: (a, b) => inNumberOrder(a.original.device.data.tag, b.original.device.data.tag),
    cell: ({ getValue }) => <span className="font-mono text-[0.93em] font-semibold">{getValue()}</span>,
  }),
  column.accessor(({ device }) => device.data.name, {
    id: 'name',
    header: 'Name',
    size: 170,
    cell: ({ getValue, row }) => (
      <span id={`${row.original.device.id}-row`} className="font-semibold">
        {getValue()}
      </span>
    ),
  }),
  column.accessor('driver', { id: 'driver', header: 'Driver', size: 214, cell: ({ getValue }) => getValue() }),
  column.accessor(({ device }) => addressOf(device), {
    id: 'address',
    header: 'Address',
    size: 165,
    sortingFn: (a, b) => inNumberOrder(addressOf(a.original.device), addressOf(b.original.device)),
    cell: ({ row: { original } }) => <Address {...original} />,
  }),
  column.accessor(({ live }) => urgencyOf(live), {
    id: 'link',
    header: 'Link',
    size: 268,
    cell: ({ row: { original } }) => <Link live={original.live} />,
  }),
  column.display({ id: 'trip', header: 'Round trip', size: 154 }),
  column.accessor('controls', {
    id: 'controls',
    header: 'Controls',
    size: 84,
    cell: ({ getValue }) => (getValue() === 0 ? '–' : getValue()),
  }),
];

const addressOf = ({ data }: DeviceRecord): string =>
  data.through ? `${data.through.device} ${data.port}` : `${data.host} ${data.port}`;

const Address = ({ device: { data }, live }: Line) => (
  <span className="device-address font-mono text-[13px]" data-veil>
    {data.through
      ? `${live?.through ?? '?'} : ${data.port}`
      : data.host === ''
        ? 'no address'
        : placeText(data.host, data.port)}
  </span>
);

const Link = ({ live }: { readonly live: DeviceStatus | undefined }) =>
  live ? (
    <span className="device-link flex items-center gap-2">
      <GradeMarks grades={live.grades} /> <HelperLights helpers={live.helpers} /> <LinkWord link={live.link} />
      {live.movedTo !== undefined && <span className="truncate">seen elsewhere</span>}
      {live.answersAs !== undefined && <span className="truncate">another device’s hardware</span>}
    </span>
  ) : (
    <span className="text-ink-soft">not in service</span>
  );

const numeric = new Set(['trip', 'controls']);
const kept = localValue('sorrelfinch-rig-table');

interface Kept {
  readonly sorting: SortingState;
  readonly sizing: ColumnSizingState;
}

function keptNow(): Kept {
  try {
    return { sorting: [{ id: 'tag', desc: false }], sizing: {}, ...(JSON.parse(kept.get() ?? '{}') as Partial<Kept>) };
  } catch {
    // A browser that keeps nothing, or something else under this name.
    return { sorting: [{ id: 'tag', desc: false }], sizing: {} };
  }
}

/** Every device of the rig in a line: sorted by a click on a heading, its columns as wide as somebody has drawn them. */
export function RigTable(props: RigTableProps) {
  'use no memo';
  const { rows, driverOf, uses, grouping, network, chosen, open, onChoose } = props;
  const [{ sorting, sizing }, setKept] = useState(keptNow);
  const keep = (to: Kept) => {
    setKept(to);
    kept.set(JSON.stringify(to));
  };
  const data = rows.map((row): Line => ({
    ...row,
    driver: driverOf(row.device),
    controls: uses.get(row.device.id)?.controls ?? 0,
  }));
  // The table keeps state of its own; nothing here is memoised on it.
  // eslint-disable-next-line react-hooks/incompatible-library
  const table = useReactTable({
    data,
    columns,
    // The details say it, and the list keeps its room.
    state: { sorting, columnSizing: sizing, columnVisibility: { driver: !open, trip: !open, controls: !open } },
    onSortingChange: (to) => keep({ sorting: typeof to === 'function' ? to(sorting) : to, sizing }),
    onColumnSizingChange: (to) => keep({ sorting, sizing: typeof to === 'function' ? to(sizing) : to }),
    columnResizeMode: 'onChange',
    enableSortingRemoval: false,
    // There are no pages; going back to the first one would draw the table anew for ever.
    autoResetAll: false,
    autoResetPageIndex: false,
    getRowId: ({ device }) => device.id,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const sorted = table.getRowModel().rows;
  const groups = new Map<string, Row<Line>[]>();
  for (const row of sorted) {
    const name = groupOf(row.original.device, grouping, network);
    groups.set(name, [...(groups.get(name) ?? []), row]);
  }
  const ids = rows.map(({ device }) => device.id);
  return (
    <table
      aria-label="Devices"
      className="rig-table w-full table-fixed border-collapse whitespace-nowrap [&_:is(td,th)]:overflow-hidden [&_:is(td,th)]:px-2.5 [&_:is(td,th)]:py-0 [&_:is(td,th)]:text-left [&_:is(td,th)]:text-ellipsis [&_:is(td,th).text-right]:text-right [&_[data-open]]:bg-raised [&_[data-open]>td:first-child]:shadow-[inset_3px_0_0_var(--accent)] [&_tbody_tr:not(.rig-table-needs):hover]:bg-raised [&_tbody_tr:not([data-needs])]:border-b [&_tbody_tr:not([data-needs])]:border-rule [&_td]:h-8.5 [&_td>*]:align-middle [&_thead_:is(th,td)]:sticky [&_thead_:is(th,td)]:top-0 [&_thead_:is(th,td)]:z-1 [&_thead_:is(th,td)]:h-8 [&_thead_:is(th,td)]:bg-ground [&_thead_:is(th,td)]:text-[13px] [&_thead_:is(th,td)]:font-medium [&_thead_:is(th,td)]:text-ink-soft [&_thead_:is(th,td)]:shadow-[inset_0_-1px_0_var(--rule-strong)] [&_thead_button]:inline-flex [&_thead_button]:min-h-7.5 [&_thead_button]:items-center [&_thead_button]:gap-1 [&_thead_th[aria-sort]]:font-semibold [&_thead_th[aria-sort]]:text-ink"
      style={{ minWidth: table.getTotalSize() + 44 }}
    >
      <colgroup>
        <col style={{ width: 44 }} />
        {table.getVisibleLeafColumns().map((each) => (
          <col key={each.id} style={{ width: each.getSize() }} />
        ))}
        <col />
      </colgroup>
      <thead>
        <tr>
          <th>
            <input
              type="checkbox"
              aria-label="Choose all"
              checked={ids.length > 0 && ids.every((id) => chosen.has(id))}
              onChange={(event) => onChoose(ids, event.target.checked)}
            />
          </th>
          {table.getFlatHeaders().map((header) => {
            const sort = header.column.getIsSorted();
            return (
              <th
                key={header.id}
                aria-sort={sort === false ? undefined : sort === 'asc' ? 'ascending' : 'descending'}
                className={numeric.has(header.id) ? 'text-right' : ''}
              >
                {header.column.getCanSort() ? (
                  <button type="button" onClick={header.column.getToggleSortingHandler()}>
                    {flexRender(header.column.columnDef.header, header.getContext())}
                    {sort === 'asc' && <ArrowUp aria-hidden className="size-3.5" />}
                    {sort === 'desc' && <ArrowDown aria-hidden className="size-3.5" />}
                  </button>
                ) : (
                  flexRender(header.column.columnDef.header, header.getContext())
                )}
                {/* Its keys are those of any separator: the arrows. */}
                <span
                  role="separator"
                  aria-orientation="vertical"
                  aria-label={`Width of ${String(header.column.columnDef.header)}`}
                  aria-valuenow={header.getSize()}
                  tabIndex={0}
                  className="absolute top-1.5 right-0 bottom-1.5 w-2.25 cursor-col-resize touch-none border-r border-rule"
                  onMouseDown={header.getResizeHandler()}
                  onTouchStart={header.getResizeHandler()}
                  onDoubleClick={() => header.column.resetSize()}
                  onKeyDown={({ key }) => {
                    const by = key === 'ArrowRight' ? 16 : key === 'ArrowLeft' ? -16 : 0;
                    if (by !== 0)
                      keep({ sorting, sizing: { ...sizing, [header.id]: Math.max(48, header.getSize() + by) } });
                  }}
                />
              </th>
            );
          })}
          <td />
        </tr>
      </thead>
      {[...groups]
        .sort(([a], [b]) => inNumberOrder(a, b))
        .map(([name, own]) => (
          <tbody key={name}>
            {name !== '' && (
              <tr>
                <th
                  colSpan={columns.length + 2}
                  scope="rowgroup"
                  className="pt-3.5 text-[14px] font-semibold text-ink-soft"
                >
                  <VeiledText text={name} />
                </th>
              </tr>
            )}
            {own.map((row) => (
              <DeviceLine
                key={row.id}
                {...props}
                line={row.original}
                cells={row}
                test={props.tests.get(row.id)}
                conflict={props.conflicts.get(row.id)}
                isChosen={chosen.has(row.id)}
                isOpen={props.open === row.id}
                isNarrow={open !== undefined}
              />
            ))}
          </tbody>
        ))}
    </table>
  );
}

interface LineProps extends Pick<RigTableProps, 'pulses' | 'onOpen' | 'onChoose' | 'onCallAgain' | 'onShowTest'> {
  readonly line: Line;
  readonly cells: Row<Line>;
  readonly test: DeviceTest | undefined;
  readonly conflict: string | undefined;
  readonly isChosen: boolean;
  readonly isOpen: boolean;
  /** Beside the details some columns are left out. */
  readonly isNarrow: boolean;
}

/** A device in the table, and under it what needs somebody. */
const DeviceLine = memo(
  function DeviceLine(props: LineProps) {
    const { line, cells, pulses, test, conflict, isChosen, isOpen, onOpen, onChoose, onCallAgain, onShowTest } = props;
    const { id, data } = line.device;
    const { advice, canCallAgain } = needsOf(line.live);
    const open = (event: MouseEvent) => {
      if (event.target instanceof Element && event.target.closest('input, button, a')) return;
      onOpen(id);
    };
    const needs = conflict !== undefined || advice !== undefined || test !== undefined;
    return (
      <>
        <tr
          aria-labelledby={`${id}-row`}
          data-open={isOpen || undefined}
          data-needs={needs || undefined}
          onClick={open}
        >
          <td>
            <input
              type="checkbox"
              checked={isChosen}
              onChange={(event) => onChoose([id], event.target.checked)}
              aria-label={`Choose ${data.tag}`}
            />
          </td>
          {cells.getVisibleCells().map((cell) => (
            <td key={cell.id} className={numeric.has(cell.column.id) ? 'text-right' : ''}>
              {cell.column.id === 'trip' ? (
                <PulseLine store={pulses} device={id} />
              ) : cell.column.id === 'tag' ? (
                <button
                  type="button"
                  aria-expanded={isOpen}
                  onClick={() => onOpen(id)}
                  aria-label={`Details of ${data.tag}`}
                >
                  {flexRender(cell.column.columnDef.cell, cell.getContext())}
                </button>
              ) : (
                flexRender(cell.column.columnDef.cell, cell.getContext())
              )}
            </td>
          ))}
          <td />
        </tr>
        {needs && (
          <tr
            className="rig-table-needs [&_td]:h-auto [&_td]:pb-1.5 [&_td]:whitespace-normal"
            data-open={isOpen || undefined}
            onClick={open}
          >
            <td />
            <td />
            <td colSpan={cells.getVisibleCells().length}>
              <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
                {conflict !== undefined && (
                  <b>
                    <VeiledText text={conflict} />
                  </b>
                )}
                {advice !== undefined && <VeiledText text={advice} />}
                {canCallAgain && <Button onClick={() => onCallAgain(id)}>Call again now</Button>}
                {test && (
                  <button
                    type="button"
                    className="underline decoration-dotted underline-offset-3"
                    onClick={() => onShowTest(id)}
                  >
                    <span className="sr-only">Test of {data.tag}: </span>
                    <TestWord test={test} />
                  </button>
                )}
              </div>
            </td>
          </tr>
        )}
      </>
    );
  },
  (a, b) =>
    a.line.device === b.line.device &&
    a.line.live === b.line.live &&
    a.line.driver === b.line.driver &&
    a.line.controls === b.line.controls &&
    a.test === b.test &&
    a.conflict === b.conflict &&
    a.isChosen === b.isChosen &&
    a.isOpen === b.isOpen &&
    a.isNarrow === b.isNarrow &&
    a.onShowTest === b.onShowTest,
);
